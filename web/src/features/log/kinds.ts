import { useQuery } from "@tanstack/react-query";
import { api } from "@/api/client";
import type { EntryFieldOut, Kinds, LogEntryOut, LogKindOut, NewLogEntry, UnitSystem } from "@/api/schema.gen";
import { depth, length, onGround, PLACEHOLDER, share, temperature, valueText, volume } from "@/ui/format";
import { typedNumber } from "@/ui/typedNumber";

/** What can be written down, as the server describes it: one list for the form, the field mode and the entries. */
export function useKinds() {
  return useQuery({
    queryKey: ["kinds"],
    queryFn: () => api.get("/kinds"),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

export const kindOf = (kinds: Kinds | undefined, kind: string | undefined) =>
  kinds?.log.find((other) => other.kind === kind);

/** The kinds that a form offers, in its order. */
export function offered(kinds: Kinds, place: "form_place" | "account_place"): LogKindOut[] {
  return kinds.log.filter((kind) => kind[place] !== null).sort((a, b) => Number(a[place]) - Number(b[place]));
}

/** The unit in which a bare number is read. */
export function unitOf(type: string, units: UnitSystem): string {
  if (type === "temperature") return units === "us" ? "°F" : "°C";
  if (type === "girth") return PLACEHOLDER.small[units];
  if (type === "on_ground") return onGround(1, units).split(" ").slice(1).join(" ");
  if (type === "hours") return "h";
  return type in PLACEHOLDER ? PLACEHOLDER[type as keyof typeof PLACEHOLDER][units] : "";
}

/** Under which name a form holds what is typed into a field. */
export const placeOf = (kind: string, field: string) => `${kind}_${field}`;

/** What the fields of a kind hold at first. */
export function startsOf(kinds: readonly LogKindOut[], units: UnitSystem): Record<string, string> {
  return Object.fromEntries(
    kinds.flatMap(({ kind, fields }) => fields.map((field) => [placeOf(kind, field.name), startOf(field, units)])),
  );
}

function startOf(field: EntryFieldOut, units: UnitSystem): string {
  if (field.start === true) return "yes";
  if (typeof field.start === "number") return worded({ ...field, choices: [] }, field.start, units);
  return typeof field.start === "string" ? field.start : "";
}

/** An entry of a kind from what was typed; what was left empty is not said. */
export function entryOf(kind: LogKindOut, texts: Record<string, string>, chosen?: string): NewLogEntry["entry"] {
  const entry: NewLogEntry["entry"] = { kind: kind.kind };
  for (const { name, type, either, needed } of kind.fields) {
    const text = (texts[placeOf(kind.kind, name)] ?? "").trim();
    if (type === "flag") entry[name] = text === "yes";
    else if ((text !== "" || needed) && (!either || name === chosen))
      entry[name] = type === "number" || type === "hours" ? typedNumber(text) : text;
  }
  return entry;
}

function worded({ type, choices }: EntryFieldOut, value: unknown, units: UnitSystem): string {
  if (choices.length > 0) return choices.find((choice) => choice.value === value)?.label ?? String(value);
  if (typeof value !== "number") return String(value);
  switch (type) {
    case "depth":
      return depth(value, units);
    case "length":
    case "girth":
      return length(value, units);
    case "volume":
      return volume(value, units);
    case "share":
      return share(value);
    case "temperature":
      return temperature(value, units);
    case "on_ground":
      return onGround(value, units);
    case "hours":
      return valueText(value, "h", units);
    default:
      return String(value);
  }
}

/** An entry in words: the label of its kind and what was typed. */
export function wordsOf(
  entry: LogEntryOut["entry"],
  kinds: Kinds | undefined,
  units: UnitSystem,
): { label: string; parts: string[] } {
  const kind = kindOf(kinds, entry.kind);
  const values = new Map<string, unknown>(Object.entries(entry));
  const noted = (kind?.fields ?? []).filter(({ name, type }) => {
    const value = values.get(name);
    return value != null && value !== "" && (type !== "flag" || value === true);
  });
  const parts = noted.map((field) =>
    field.type === "flag" ? field.label : `${field.label}: ${worded(field, values.get(field.name), units)}`,
  );
  return { label: kind?.label ?? entry.kind ?? "", parts };
}
