import type { Estimate, PlotEntry, PlotOut, UnitSystem, Use } from "@/api/schema.gen";
import { depth, length } from "@/ui/format";

export type Kind = PlotOut["shape"]["kind"];

/** A plot as it stands in the form: every measurement as text. */
export interface Entry {
  id: string;
  name: string;
  use: Use;
  kind: Kind;
  existing_mm: string;
  wanted_mm: string;
  length_m: string;
  width_m: string;
  legs_m: string;
  canopy_m: string;
  trunk_m: string;
  trunk_as: "girth" | "diameter";
  gap_m: string;
  reach_m: string;
  trees: string;
}

type Measured = "length_m" | "width_m" | "legs_m" | "canopy_m" | "trunk_m" | "gap_m" | "reach_m";

interface FieldPlan {
  key: Measured;
  label: string;
  bare: "length" | "small";
  hint?: string;
}

export const SHAPES: Record<Kind, { label: string; fields: FieldPlan[] }> = {
  rectangle: {
    label: "Rectangle",
    fields: [
      { key: "length_m", label: "Length", bare: "length", hint: "Or both at once: 12 x 3.5" },
      { key: "width_m", label: "Width", bare: "length" },
    ],
  },
  path: {
    label: "Path",
    fields: [
      { key: "legs_m", label: "Legs", bare: "length", hint: "Leg by leg: 12 + 8 + 3.5" },
      { key: "width_m", label: "Width", bare: "length" },
    ],
  },
  ring: {
    label: "Tree ring",
    fields: [
      { key: "canopy_m", label: "Canopy spread", bare: "length", hint: "Edge to edge, through the trunk" },
      { key: "trunk_m", label: "Trunk", bare: "small" },
      {
        key: "gap_m",
        label: "Gap at the trunk",
        bare: "small",
        hint: "At least 10 cm (4 in); 30 cm (12 in) for fresh chips",
      },
      { key: "reach_m", label: "Beyond the drip line", bare: "small" },
    ],
  },
};

export function emptyEntry(units: UnitSystem): Entry {
  return {
    id: crypto.randomUUID(),
    name: "",
    use: "perennials",
    kind: "rectangle",
    existing_mm: "0",
    wanted_mm: units === "us" ? "3 in" : "75 mm",
    length_m: "",
    width_m: "",
    legs_m: "",
    canopy_m: "",
    trunk_m: "",
    trunk_as: "girth",
    gap_m: units === "us" ? "6 in" : "15 cm",
    reach_m: "0",
    trees: "1",
  };
}

/** The form's entry for a kept plot: measurements as they were written, if its units are still the site's. */
export function entryOf(plot: PlotOut, units: UnitSystem): Entry {
  const { shape, typed } = plot;
  const text = (written: unknown, fallback: string) =>
    typeof written === "string" && typed.units === units ? written : fallback;
  const written = (typed.shape ?? {}) as Record<string, unknown>;
  const measured = (key: Measured, value: number | undefined) =>
    value === undefined ? "" : text(written[key], exact(value, units));
  const entry = emptyEntry(units);
  entry.id = plot.id;
  entry.name = plot.name;
  entry.use = plot.use;
  entry.kind = shape.kind;
  entry.existing_mm = text(typed.existing_mm, exactDepth(plot.existing_mm, units));
  entry.wanted_mm = text(typed.wanted_mm, exactDepth(plot.wanted_mm, units));
  if (shape.kind === "rectangle") {
    entry.length_m = measured("length_m", shape.length_m);
    entry.width_m = written.width_m || !written.length_m ? measured("width_m", shape.width_m) : "";
  } else if (shape.kind === "path") {
    entry.legs_m = text(written.legs_m, shape.legs_m.map((leg) => exact(leg, units)).join(" + "));
    entry.width_m = measured("width_m", shape.width_m);
  } else {
    entry.canopy_m = measured("canopy_m", shape.canopy_m);
    entry.trunk_m = measured("trunk_m", shape.trunk_m);
    entry.trunk_as = shape.trunk_as ?? "girth";
    entry.gap_m = measured("gap_m", shape.gap_m);
    entry.reach_m = measured("reach_m", shape.reach_m);
    entry.trees = String(shape.trees ?? 1);
  }
  return entry;
}

const tidy = (value: number) => String(Number(value.toFixed(4)));
const exact = (m: number, units: UnitSystem) => (units === "us" ? `${tidy(m / 0.3048)} ft` : `${tidy(m)} m`);
const exactDepth = (mm: number, units: UnitSystem) =>
  units === "us" ? `${tidy(mm / 25.4)} in` : `${tidy(mm)} mm`;

/** What is sent for the form's entry. */
export function plotEntry(entry: Entry, units: UnitSystem): PlotEntry {
  const { name, use, kind, existing_mm, wanted_mm } = entry;
  return { name, use, units, existing_mm, wanted_mm, shape: shapeOf(kind, entry) };
}

function shapeOf(kind: Kind, entry: Entry): PlotEntry["shape"] {
  const { length_m, width_m, legs_m, canopy_m, trunk_m, trunk_as, gap_m, reach_m, trees } = entry;
  if (kind === "rectangle") return { kind, length_m, width_m };
  if (kind === "path") return { kind, legs_m, width_m };
  // A count that is no number is sent as it is; the server says what is wrong with it.
  return { kind, canopy_m, trunk_m, trunk_as, gap_m, reach_m, trees: trees as unknown as number };
}

/** How a measurement was understood, in both unit systems. */
export function understood(
  key: Measured | "existing_mm" | "wanted_mm",
  estimate: Estimate,
  units: UnitSystem,
) {
  const system: UnitSystem[] = units === "us" ? ["us", "metric"] : ["metric", "us"];
  if (key === "existing_mm" || key === "wanted_mm")
    return system.map((one) => depth(estimate[key], one)).join(" = ");
  const value = (estimate.shape as Record<string, unknown>)[key];
  if (typeof value === "number") return system.map((one) => length(value, one)).join(" = ");
  if (Array.isArray(value)) {
    const total = value.reduce((sum: number, leg: number) => sum + leg, 0);
    return `${value.map((leg: number) => length(leg, units)).join(" + ")}${value.length > 1 ? ` = ${length(total, units)}` : ""}`;
  }
  return undefined;
}
