import type { Now, UnitSystem } from "@/api/schema.gen";
import { t } from "@/texts/supply";
import { about, SPECK_M3 } from "@/ui/precision";

/** Why an order has no lines, in words. */
export function nothingOrdered({ short_m3, decided }: Pick<Now, "short_m3" | "decided">, units: UnitSystem) {
  if (short_m3 <= SPECK_M3) return t("nothingToOrderOnHandAnd");
  return t(decided ? "youChoseToOrderNothing" : "nothingCanBeOrdered", { volume: about(short_m3, units) });
}
