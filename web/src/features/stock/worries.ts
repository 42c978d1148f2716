import type { Hazard } from "@/api/schema.gen";
import { t } from "@/texts/stock";

/** What may be feared of one load, whatever its material. */
export const WORRIES: [Hazard, string][] = [
  ["weed_seed", t("weedSeedOrRoots")],
  ["disease", t("diseasedWood")],
  ["herbicide", t("weedkiller")],
];

/** What is feared of a load, in words. */
export function feared(worries: readonly Hazard[]) {
  return WORRIES.filter(([key]) => worries.includes(key)).map(([, words]) => words.toLowerCase());
}
