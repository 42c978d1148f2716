import type { Estimate } from "@/api/schema.gen";

/** What the cut draws of an estimate. */
export function cutOf(estimate: Estimate, holds: number) {
  return {
    recipe: estimate.recipe,
    existing_mm: estimate.existing.value,
    trunkRadius_m: estimate.outline.trunk_radius_m ?? null,
    holds,
  };
}
