import type { Hazard } from "@/api/schema.gen";

/** What may be feared of one load, whatever its material. */
export const WORRIES: [Hazard, string][] = [
  ["weed_seed", "Weed seed or roots in it"],
  ["disease", "A diseased tree in it"],
  ["herbicide", "Weedkiller on it"],
];

/** What is feared of a load, in words. */
export function feared(worries: readonly Hazard[]) {
  return WORRIES.filter(([key]) => worries.includes(key)).map(([, words]) => words.toLowerCase());
}
