import type { UnitSystem } from "@/api/schema.gen";
import { t } from "@/texts/stock";

export type MeasuredKind = "heap" | "barrows" | "weight" | "stated";

/** How an amount was measured, as it stands in the form. */
export interface MeasuredTexts {
  by: MeasuredKind;
  width_m: string;
  height_m: string;
  ridge_m: string;
  barrows: string;
  barrow_m3: string;
  mass_kg: string;
  volume_m3: string;
}

export function emptyMeasured(by: MeasuredKind, units: UnitSystem): MeasuredTexts {
  return {
    by,
    width_m: "",
    height_m: "",
    ridge_m: "0",
    barrows: "",
    barrow_m3: units === "us" ? t("n6CuFt") : "100 L",
    mass_kg: "",
    volume_m3: "",
  };
}

const FIELDS: Record<MeasuredKind, (keyof MeasuredTexts)[]> = {
  heap: ["width_m", "height_m", "ridge_m"],
  barrows: ["barrows", "barrow_m3"],
  weight: ["mass_kg"],
  stated: ["volume_m3"],
};

/** What is sent. */
export function measuredEntry(texts: MeasuredTexts) {
  const entry: Record<string, unknown> = { kind: texts.by };
  for (const key of FIELDS[texts.by]) {
    const text = texts[key].trim();
    entry[key] = key === "barrows" && /^\d+$/.test(text) ? Number(text) : text;
  }
  // The shape is that of the kind chosen, which the type checker cannot follow.
  return entry as never;
}

export function measuredEmpty(texts: MeasuredTexts) {
  return FIELDS[texts.by].some((key) => key !== "ridge_m" && texts[key].trim() === "");
}
