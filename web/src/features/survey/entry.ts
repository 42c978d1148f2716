import type { DepthMeans, Estimate, PlotEntry, PlotOut, UnitSystem, Use } from "@/api/schema.gen";
import { t } from "@/texts/survey";
import { depth, length } from "@/ui/format";
import { aboutDepth } from "@/ui/precision";
import { typedNumberOrNone } from "@/ui/typedNumber";
import { type Kind, SHAPES } from "./shapes";

type Texts = Record<string, string>;

/** A cut-out as it stands in the form. */
export interface CutEntry {
  key: string;
  kind: "plants" | "rectangle" | "ellipse" | "triangle";
  fields: Texts;
}

/** Rows kept bare, as they stand in the form. */
export interface HoldEntry {
  key: string;
  name: string;
  rows: string;
  length_m: string;
  width_m: string;
  for_good: boolean;
}

/** A plot as it stands in the form: every measurement as text. */
export interface Entry {
  id: string;
  name: string;
  use: Use;
  kind: Kind;
  existing_mm: string;
  readings_mm: string;
  lain_months: string;
  wanted_mm: string;
  shape: Texts;
  cuts: CutEntry[];
  slope: Texts;
  found: Texts;
  recipe: Texts;
  practice: Texts;
  holds: HoldEntry[];
}

/** How a target depth is labelled, by what a depth means here; vegetable beds have one between crops. */
export function targetLabel(use: Use, means: DepthMeans) {
  return use === "vegetables" ? TARGET_DEPTH[means].replace("depth", "depth between crops") : TARGET_DEPTH[means];
}

/** How a target depth is labelled, by what a depth means here. */
export const TARGET_DEPTH: Record<DepthMeans, string> = {
  settled: t("targetDepthSettled"),
  spread: t("targetDepthLoose"),
};

/** The load and the barrow that are usual in each system of units. */
export const USUAL_SIZES: Record<UnitSystem, { load_m3: string; barrow_m3: string }> = {
  metric: { load_m3: "10 m3", barrow_m3: "100 L" },
  us: { load_m3: t("n12CuYd"), barrow_m3: t("n6CuFt") },
};

export type Purpose = "garden" | "orchard" | "clients";

/** What the first plot of a site most likely is, by what the site is for. */
export const FIRST_PLOT: Record<Purpose, { use: Use; kind: Kind; next: string }> = {
  garden: { use: "perennials", kind: "rectangle", next: t("measureTheFirstBed") },
  orchard: { use: "young_tree", kind: "ring_row", next: t("measureTheFirstRow") },
  clients: { use: "perennials", kind: "rectangle", next: t("measureTheFirstBed") },
};

/** A new plot: named by its number, as likely as not what most plots are. */
export function emptyEntry(units: UnitSystem, number = 1, purpose: Purpose = "garden"): Entry {
  const us = units === "us";
  const { use, kind } = FIRST_PLOT[purpose];
  return {
    id: crypto.randomUUID(),
    name: t("plotWithNumber", { number }),
    use,
    kind,
    existing_mm: "0",
    readings_mm: "",
    lain_months: "",
    wanted_mm: us ? "3 in" : "75 mm",
    shape: {
      trunk_as: "girth",
      gap_m: us ? "6 in" : "15 cm",
      reach_m: "0",
      trees: "1",
      rows: "1",
      part: "100 %",
      edge: "curved",
      accuracy_m: us ? "10 ft" : "3 m",
    },
    cuts: [],
    slope: { angle_deg: "", taped: "along" },
    found: {},
    recipe: {},
    practice: {},
    holds: [],
  };
}

/** No text that can be read two ways: 3.048 could be taken for three thousand and forty-eight. */
const tidy = (value: number) => {
  const text = String(Number(value.toFixed(4)));
  return /^[1-9]\d{0,2}\.\d{3}$/.test(text) ? `${text}0` : text;
};

/** A kept value as text, where what was written is not at hand or was written in other units. */
export function spelled(key: string, value: unknown, units: UnitSystem): string {
  if (value === null || value === undefined) return "";
  if (Array.isArray(value)) {
    if (Array.isArray(value[0])) {
      const points = value as [number, number][];
      const part = (item: number) => (key.endsWith("_deg") ? String(item) : spelled(key, item, units));
      return points.map(([x, y]) => `${part(x)}, ${part(y)}`).join("\n");
    }
    return value.map((number) => spelled(key, number, units)).join(key === "legs_m" ? " + " : ", ");
  }
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value !== "number") return String(value);
  if (key.endsWith("_mm"))
    return units === "us" ? t("in", { tidy: tidy(value / 25.4) }) : t("mm", { depth: tidy(value) });
  if (key === "laid_share") return `${tidy(value * 100)} %`;
  if (key.endsWith("_m")) return units === "us" ? t("ft", { tidy: tidy(value / 0.3048) }) : `${tidy(value)} m`;
  return key === "part" ? `${tidy(value * 100)} %` : tidy(value);
}

function texts(stored: object, written: Texts | undefined, units: UnitSystem): Texts {
  return Object.fromEntries(
    Object.entries(stored).map(([key, value]) => [key, written?.[key] ?? spelled(key, value, units)]),
  );
}

/** The form's entry for a kept plot: measurements as they were written, if under the site's present units. */
export function entryOf(plot: PlotOut, units: UnitSystem): Entry {
  const typed = (plot.typed.units === units ? plot.typed : {}) as {
    shape?: Texts;
    slope?: Texts;
    found?: Texts;
    cut_outs?: { shape?: Texts; place?: Texts; gap_m?: string }[];
    existing_mm?: string;
    readings_mm?: string;
    wanted_mm?: string;
    wanted_as?: string;
    recipe?: Texts & { hold_backs?: Texts[] };
  };
  const entry = emptyEntry(units);
  const shape = texts(plot.shape, typed.shape, units);
  // Both sides were written in one field.
  if (plot.shape.kind === "rectangle" && typed.shape?.length_m && !typed.shape.width_m) shape.width_m = "";
  return {
    ...entry,
    id: plot.id,
    name: plot.name,
    use: plot.use,
    kind: plot.shape.kind as Kind,
    existing_mm: typed.existing_mm ?? spelled("existing_mm", plot.existing_mm, units),
    readings_mm:
      plot.readings_mm.length > 0 ? (typed.readings_mm ?? spelled("readings_mm", plot.readings_mm, units)) : "",
    lain_months: plot.lain_months === null ? "" : String(plot.lain_months),
    // A text stands for what it meant when it was typed: in the words of another practice it is written anew.
    wanted_mm:
      (typed.wanted_as ?? "settled") === plot.depth_means && typed.wanted_mm
        ? typed.wanted_mm
        : spelled("wanted_mm", plot.depth_means === "spread" ? plot.spread_mm : plot.wanted_mm, units),
    shape: { ...entry.shape, ...shape },
    slope: plot.slope ? texts(plot.slope, typed.slope, units) : entry.slope,
    found: texts(plot.found, typed.found, units),
    ...recipeTexts(plot, typed.recipe, typed.wanted_as, units),
    cuts: plot.cut_outs.map((cut, index) => {
      const written = typed.cut_outs?.[index];
      if (cut.kind === "plants") {
        const gap = written?.gap_m ? { gap_m: written.gap_m } : undefined;
        return { key: String(index), kind: "plants", fields: texts(cut, gap, units) };
      }
      const place = cut.place ? texts(cut.place, written?.place, units) : {};
      return {
        key: String(index),
        kind: cut.shape.kind as CutEntry["kind"],
        fields: { ...texts(cut.shape, written?.shape, units), ...place },
      };
    }),
  };
}

function recipeTexts(
  plot: PlotOut,
  typed: (Texts & { hold_backs?: Texts[] }) | undefined,
  wantedAs: string | undefined,
  units: UnitSystem,
) {
  const { hold_backs, practice, ...plain } = plot.recipe;
  const written = Object.fromEntries(
    Object.entries(typed ?? {}).filter(([, text]) => typeof text === "string"),
  ) as Texts;
  // As with the target: a text stands for what it meant when it was typed.
  if (plain.growing_mm !== null && plain.growing_mm !== undefined && plot.depth_means !== (wantedAs ?? "settled")) {
    delete written.growing_mm;
    plain.growing_mm = plot.depth_means === "spread" ? plot.growing_spread_mm : plot.growing_mm;
  }
  return {
    recipe: texts({ ...plain, dug_in: plain.dug_in || null }, written, units),
    practice: Object.fromEntries(Object.entries(practice ?? {}).filter(([, value]) => value)) as Texts,
    holds: (hold_backs ?? []).map((hold_back, index) => {
      const { length_m = "", width_m = "" } = texts(
        { length_m: hold_back.length_m, width_m: hold_back.width_m },
        typed?.hold_backs?.[index],
        units,
      );
      const { name = "", rows, for_good = false } = hold_back;
      return { key: String(index), name, rows: String(rows ?? 1), length_m, width_m, for_good };
    }),
  };
}

/** Kept as one text in the form, sent as a list. */
const LISTS = ["accepts", "accepts_stages"];

function recipeOf({ recipe, practice, holds }: Entry) {
  const typed = Object.entries(recipe).filter(([key, text]) => text?.trim() && key !== "hold_backs");
  const yes = (key: string, text: string) => {
    if (LISTS.includes(key)) return text.split(",").map((part) => part.trim());
    return ["cardboard", "dug_in"].includes(key) ? text === "yes" : text;
  };
  return {
    ...Object.fromEntries(typed.map(([key, text]) => [key, yes(key, text)])),
    practice,
    hold_backs: holds.map(({ key: _, ...hold }) => hold),
  };
}

/** What is sent for the form's entry. The server reads every text and says what is wrong with it. */
export function plotEntry(entry: Entry, units: UnitSystem): PlotEntry {
  const { name, use, existing_mm, readings_mm, lain_months, wanted_mm, slope, found } = entry;
  return {
    name,
    use,
    units,
    wanted_mm,
    existing_mm: existing_mm.trim() ? existing_mm : "0",
    readings_mm: readings_mm.trim() ? readings_mm : [],
    lain_months: typedNumberOrNone(lain_months),
    shape: shapeOf(entry.kind, entry.shape),
    slope: slope.angle_deg?.trim()
      ? { angle_deg: slope.angle_deg, taped: slope.taped === "plan" ? "plan" : "along" }
      : null,
    cut_outs: entry.cuts.map(cutOf),
    found: foundOf(found),
    recipe: recipeOf(entry),
  };
}

/** Whether anything was measured yet: a size that has no default is typed. */
export function measured({ kind, shape }: Entry): boolean {
  const defaults = emptyEntry("metric").shape;
  return SHAPES[kind].fields.some(({ key }) => !(key in defaults) && Boolean(shape[key]?.trim()));
}

function shapeOf(kind: Kind, fields: Texts) {
  const keys = SHAPES[kind].fields.map((field) => field.key);
  if (keys.includes("trunk_m")) keys.push("trunk_as");
  const picked = keys.filter((key) => fields[key] !== undefined).map((key) => [key, fields[key]]);
  return { kind, ...Object.fromEntries(picked) };
}

function cutOf({ kind, fields }: CutEntry) {
  if (kind === "plants") return { kind, plants: fields.plants ?? "", gap_m: fields.gap_m ?? "" };
  const { x_m, y_m } = fields;
  const place = x_m?.trim() || y_m?.trim() ? { x_m: x_m?.trim() || "0", y_m: y_m?.trim() || "0" } : null;
  return { kind: "shape", shape: shapeOf(kind, fields), place };
}

const YES_NO = ["compacted", "build_up", "irrigated", "pets", "children", "guarded"];

function foundOf(ground: Texts) {
  const noted = Object.entries(ground).filter(([, text]) => text.trim() !== "");
  return Object.fromEntries(noted.map(([key, text]) => [key, YES_NO.includes(key) ? text === "yes" : text]));
}

/** How a measurement was understood, in both unit systems. */
export function understood(key: string, estimate: Estimate, units: UnitSystem): string | undefined {
  const systems: UnitSystem[] = units === "us" ? ["us", "metric"] : ["metric", "us"];
  if (key === "existing_mm") return systems.map((system) => depth(estimate.existing.value, system)).join(" = ");
  if (key === "wanted_mm") {
    const settled = t("settled", { depth: aboutDepth(estimate.wanted_mm, units) });
    const spread = t("loose", { depth: aboutDepth(estimate.spread_mm, units) });
    return estimate.depth_means === "spread"
      ? t("looseAndSettled", { spread, settled })
      : t("settledAndLoose", { settled, spread });
  }
  if (key === "growing_mm") {
    const settled = t("settled", { depth: aboutDepth(estimate.recipe.growing_mm, units) });
    const spread = t("loose", { depth: aboutDepth(estimate.growing_spread_mm, units) });
    return estimate.depth_means === "spread"
      ? t("looseAndSettled", { spread, settled })
      : t("settledAndLoose", { settled, spread });
  }
  const value = (estimate.shape as Record<string, unknown>)[key];
  if (key === "turns_deg" && Array.isArray(value)) {
    return value.map((turn: number) => `${Math.abs(turn)}° ${turn < 0 ? "left" : "right"}`).join(", ") || undefined;
  }
  if (!key.endsWith("_m")) return Array.isArray(value) ? t("points2", { count: value.length }) : undefined;
  if (typeof value === "number") return systems.map((system) => length(value, system)).join(" = ");
  if (!Array.isArray(value)) return undefined;
  if (Array.isArray(value[0])) return t("corners2", { count: value.length });
  const total = value.reduce((sum: number, number: number) => sum + number, 0);
  const sum = key === "legs_m" && value.length > 1 ? ` = ${length(total, units)}` : "";
  return value.map((number: number) => length(number, units)).join(key === "legs_m" ? " + " : ", ") + sum;
}
