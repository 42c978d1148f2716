import type { UnitSystem } from "@/api/schema.gen";
import { POUND } from "@/ui/format";

const OUNCE = POUND / 16;

/** An amount of seed: grams and kilograms, or ounces and pounds. */
export function seedWords(kg: number, units: UnitSystem): string {
  const two = (value: number) => (value >= 10 ? value.toFixed(0) : value.toFixed(1));
  if (units === "us") return kg >= POUND ? `${two(kg / POUND)} lb` : `${two(kg / OUNCE)} oz`;
  return kg >= 1 ? `${two(kg)} kg` : `${two(kg * 1000)} g`;
}
