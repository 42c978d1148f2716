import type { LogEntryOut, UnitSystem } from "@/api/schema.gen";
import { t } from "@/texts/log";
import { depth, length, PLACEHOLDER, share, shown, temperature, volume } from "@/ui/format";
import { typedNumber } from "@/ui/typedNumber";

/** What can be written down, and the fields of each: one list for the form, the field mode and the entries. */

type Type =
  | "depth"
  | "length"
  | "small"
  | "volume"
  | "share"
  | "temperature"
  | "number"
  | "text"
  | "flag"
  | "choice";

export interface LogField {
  name: string;
  label: string;
  type: Type;
  options?: Record<string, string>;
}

export interface LogKind {
  label: string;
  fields: LogField[];
  /** What it is written down of; a plot where it does not say. */
  of?: "pile" | "tree" | "anything";
}

const field = (name: string, label: string, type: Type, options?: Record<string, string>): LogField => ({
  name,
  label,
  type,
  ...(options ? { options } : {}),
});
const choice = (name: string, label: string, options: Record<string, string>) =>
  field(name, label, "choice", options);

const SMELLS = { earth: t("earth"), wood: t("wood"), sour: t("sour") };

export const TASKS: Record<string, string> = {
  laying: t("taskLaying"),
  moving: t("taskMoving"),
  preparing: t("taskPreparing"),
  weeding: t("taskWeeding"),
  strimming: t("taskStrimming"),
  mowing: t("taskMowing"),
  watering: t("taskWatering"),
  other: t("taskOther"),
};

/** Kinds that the form asks for by their fields alone, in the order in which they are offered. */
export const KINDS = {
  profile: {
    label: t("dugProfile"),
    fields: [
      field("dry_mm", t("dryChips"), "depth"),
      field("moist_mm", t("moistChips"), "depth"),
      field("humus_depth_mm", t("humus"), "depth"),
    ],
  },
  removed: {
    label: t("removedOrHumusDugOut"),
    fields: [field("chips_mm", t("chipsRemoved"), "depth"), field("humus_mm", t("humusDugOut"), "depth")],
  },
  dug_in: { label: t("dugIn"), fields: [] },
  watered_in: { label: t("wateredIn"), fields: [] },
  observed: {
    label: t("weeds"),
    fields: [
      field("weeds", t("comingThrough"), "flag"),
      choice("sort", t("sortOfWeed"), {
        annual: t("annualWeeds"),
        grass: t("runningGrass"),
        perennial: t("perennialWeeds"),
        seedlings: t("windSownSeedlings"),
      }),
      field("cover", t("groundCovered"), "share"),
      choice("pull", t("howTheyPull"), { easy: t("easily"), firm: t("firmly"), breaks: t("rootsBreak") }),
    ],
  },
  moisture: {
    label: t("moisture"),
    fields: [
      field("days_without_rain", t("daysWithoutRain"), "number"),
      choice("feel", t("soilFeels"), { dry: t("dry"), damp: t("damp"), moist: t("moist"), wet: t("wet") }),
    ],
  },
  worms: {
    label: t("worms"),
    fields: [field("count", t("wormsCounted"), "number"), field("holes", t("holesDug"), "number")],
  },
  soil_test: {
    label: t("soilTest"),
    fields: [
      field("ph", t("ph"), "number"),
      field("organic", t("organicMatter"), "share"),
      field("nitrogen_mg_kg", t("nitrogenMgKg"), "number"),
      field("phosphorus_mg_kg", t("phosphorusMgKg"), "number"),
      field("potassium_mg_kg", t("potassiumMgKg"), "number"),
    ],
  },
  ripeness: {
    label: t("ripeness"),
    fields: [
      choice("fork", t("forkGoesIn"), { easy: t("easily"), firm: t("withForce"), no: t("no") }),
      choice("squeeze", t("squeezed"), {
        crumbles: t("crumbles"),
        holds: t("holdsTogether"),
        springs: t("springsBack"),
      }),
      choice("smell", t("smell"), SMELLS),
      choice("cress", t("cressTest"), { up: t("comesUp"), weak: t("weak"), none: t("doesNotComeUp") }),
    ],
  },
  plants: {
    label: t("plants"),
    fields: [
      choice("action", t("action"), {
        put_in: t("putIn"),
        lost: t("lost"),
        replaced: t("replaced"),
        watered: t("watered"),
      }),
      field("count", t("number"), "number"),
      field("name", t("plantName"), "text"),
      field("water_m3", t("water"), "volume"),
    ],
  },
  tree: {
    label: t("treeMeasured"),
    of: "tree",
    fields: [
      field("girth_m", t("trunkGirth"), "small"),
      field("canopy_m", t("canopyAcross"), "length"),
      choice("guard", t("guard"), { on: t("putOn"), off: t("takenOff"), checked: t("checked") }),
    ],
  },
  pile: {
    label: t("pileChecked"),
    of: "pile",
    fields: [
      field("temperature_c", t("temperatureInside"), "temperature"),
      field("height_m", t("height"), "length"),
      field("turned", t("turned"), "flag"),
      choice("smell", t("smell"), { ...SMELLS, ammonia: t("ammonia"), mould: t("mould"), smoke: t("smoke") }),
      field("sieved_m3", t("sievedYield"), "volume"),
    ],
  },
  hours: {
    label: t("hours"),
    of: "anything",
    fields: [
      choice("task", t("task"), TASKS),
      field("hours", t("personHours"), "number"),
      field("person", t("person"), "text"),
      field("volume_m3", t("volumeMoved"), "volume"),
    ],
  },
  note: { label: t("noteOrPhoto"), of: "anything", fields: [] },
} satisfies Record<string, LogKind>;

export type ListedKind = keyof typeof KINDS;
export const listed = (kind: string): LogKind | undefined => (KINDS as Record<string, LogKind>)[kind];

/** The names of all fields, each once: what the texts of a form begin with. */
export const FIELD_NAMES = [
  ...new Set(Object.values<LogKind>(KINDS).flatMap((kind) => kind.fields.map((entry) => entry.name))),
];

/** The unit in which a bare number is read. */
export function unitOf(type: Type, units: UnitSystem): string {
  if (type === "temperature") return units === "us" ? "°F" : "°C";
  return type === "depth" || type === "length" || type === "small" || type === "volume" || type === "share"
    ? PLACEHOLDER[type][units]
    : "";
}

/** An entry of a kind from what was typed; what was left empty is not said. */
export function entryOf(kind: string, texts: Record<string, string>): Record<string, unknown> {
  const entry: Record<string, unknown> = { kind };
  for (const { name, type } of listed(kind)?.fields ?? []) {
    const text = (texts[name] ?? "").trim();
    if (type === "flag") entry[name] = text === "yes";
    else if (text !== "") entry[name] = type === "number" ? typedNumber(text) : text;
  }
  return entry;
}

function worded({ name, type, options }: LogField, value: unknown, units: UnitSystem): string {
  if (options) return options[String(value)] ?? String(value);
  if (typeof value !== "number") return String(value);
  switch (type) {
    case "depth":
      return depth(value, units);
    case "length":
    case "small":
      return length(value, units);
    case "volume":
      return volume(value, units);
    case "share":
      return share(value);
    case "temperature":
      return temperature(value, units);
    default:
      return name === "hours" ? shown(value, "h", units) : String(value);
  }
}

/** An entry of a listed kind in words: its label and what was typed. */
export function saidOf(entry: LogEntryOut["entry"], units: UnitSystem): string {
  const kind = listed(entry.kind ?? "");
  if (!kind) return entry.kind ?? "";
  const values = entry as Record<string, unknown>;
  const parts = kind.fields
    .filter(
      ({ name, type }) =>
        values[name] != null && values[name] !== "" && (type !== "flag" || values[name] === true),
    )
    .map((entryField) =>
      entryField.type === "flag"
        ? entryField.label
        : `${entryField.label}: ${worded(entryField, values[entryField.name], units)}`,
    );
  return parts.length > 0 ? `${kind.label}. ${parts.join("; ")}` : kind.label;
}
