import type { UnitSystem } from "@/api/schema.gen";
import { about, aboutArea, aboutDistance } from "@/ui/precision";

/** How much of a task there is, in words. */
export function amountOf({ amount, unit }: { amount: number; unit: string }, units: UnitSystem): string {
  switch (unit) {
    case "m3":
      return about(amount, units);
    case "m2":
      return aboutArea(amount, units);
    case "m":
      return aboutDistance(amount, units);
    case "h":
      return "";
    default:
      return String(Math.round(amount));
  }
}
