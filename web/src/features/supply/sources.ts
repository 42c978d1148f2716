import type { SupplierEntry, SupplierOut, UnitSystem } from "@/api/schema.gen";
import { sent } from "@/api/sent";
import { money, share, shown, volume, YARD3 } from "@/ui/format";

export type SourceKind = SupplierEntry["source"]["kind"];
type Sort = "volume" | "small" | "mass" | "money" | "per_volume" | "share" | "count";

interface Field {
  key: string;
  label: string;
  sort: Sort;
  hint?: string;
  optional?: boolean;
}

const SIZE: Field[] = [
  { key: "least_m3", label: "A load, at least", sort: "volume" },
  { key: "likely_m3", label: "Most likely", sort: "volume" },
  { key: "most_m3", label: "At most", sort: "volume" },
];
const CREW: Field[] = [
  ...SIZE,
  { key: "per_load", label: "Fee for a load", sort: "money", hint: "0 where it is free" },
  {
    key: "chance",
    label: "Chance in a month",
    sort: "share",
    hint: "That a load comes when you ask for one",
  },
];

/** What is asked of each kind of supplier. */
export const KINDS: Record<SourceKind, { label: string; what: string; fields: Field[] }> = {
  arborist: {
    label: "Tree crew",
    what: "Free or cheap, whole load or nothing, of unknown size; comes when it works nearby.",
    fields: CREW,
  },
  utility: {
    label: "Line clearing",
    what: "Along power lines and roads, in its season; in remote places the only source.",
    fields: CREW,
  },
  yard: {
    label: "Municipal yard",
    what: "Fetched by trailer. Volume and payload both limit a trip; check it for weed seed.",
    fields: [
      { key: "trailer_m3", label: "Trailer holds", sort: "volume" },
      { key: "payload_kg", label: "Trailer carries", sort: "mass" },
      { key: "per_m3", label: "Price", sort: "per_volume" },
      { key: "per_trip", label: "Cost of a trip", sort: "money", hint: "Fuel and time on the road" },
      { key: "trips_a_month", label: "Trips in a month", sort: "count" },
    ],
  },
  merchant: {
    label: "Bulk merchant",
    what: "Dear but exact: the volume you order, on the day you want.",
    fields: [
      { key: "per_m3", label: "Price", sort: "per_volume" },
      { key: "per_load", label: "Each delivery", sort: "money" },
      { key: "minimum_m3", label: "Least order", sort: "volume", optional: true },
      { key: "truck_m3", label: "A truck holds", sort: "volume" },
      { key: "lead_days", label: "Days ahead", sort: "count" },
    ],
  },
  bags: {
    label: "Bags",
    what: "Dearest, and they land where they are needed.",
    fields: [
      { key: "bag_m3", label: "A bag holds", sort: "small" },
      { key: "per_bag", label: "Price of a bag", sort: "money" },
    ],
  },
  chipper: {
    label: "Chipper for a day",
    what: "Hired by the day for brush of your own. For trained people, with eye and ear protection.",
    fields: [
      { key: "day_m3", label: "Chips in a day", sort: "volume" },
      { key: "brush_m3", label: "Your brush makes", sort: "volume", hint: "As chips, in all" },
      { key: "per_day", label: "Hire for a day", sort: "money" },
    ],
  },
  own: {
    label: "Own prunings",
    what: "Chipped or mown over: so much a year, for nothing.",
    fields: [{ key: "year_m3", label: "In a year", sort: "volume" }],
  },
};

const STARTS: Record<UnitSystem, Record<string, string>> = {
  metric: {
    least_m3: "7 m3",
    likely_m3: "10 m3",
    most_m3: "12 m3",
    trailer_m3: "2 m3",
    payload_kg: "500 kg",
    truck_m3: "15 m3",
    bag_m3: "50 L",
    day_m3: "8 m3",
    brush_m3: "8 m3",
    year_m3: "2 m3",
  },
  us: {
    least_m3: "9 cu yd",
    likely_m3: "12 cu yd",
    most_m3: "14 cu yd",
    trailer_m3: "2.5 cu yd",
    payload_kg: "1,100 lb",
    truck_m3: "20 cu yd",
    bag_m3: "2 cu ft",
    day_m3: "10 cu yd",
    brush_m3: "10 cu yd",
    year_m3: "3 cu yd",
  },
};

export interface SupplierTexts {
  id: string;
  name: string;
  currency: string;
  kind: SourceKind;
  material: string;
  months: number[];
  texts: Record<string, string>;
}

export const YEAR = Array.from({ length: 12 }, (_, index) => index + 1);

export function emptySupplier(units: UnitSystem): SupplierTexts {
  return {
    id: crypto.randomUUID(),
    name: "",
    currency: units === "us" ? "USD" : "EUR",
    kind: "arborist",
    material: "arborist_leafy",
    months: YEAR,
    texts: { per_load: "0", chance: "50 %", trips_a_month: "8", lead_days: "7", ...STARTS[units] },
  };
}

function spelled(sort: Sort, value: number, units: UnitSystem): string {
  if (sort === "volume" || sort === "small") return volume(value, units);
  if (sort === "mass") return shown(value, "kg", units);
  if (sort === "share") return share(value);
  return String(sort === "per_volume" && units === "us" ? value * YARD3 : value);
}

export function supplierTexts(stored: SupplierOut, units: UnitSystem): SupplierTexts {
  const source: Record<string, unknown> = { ...stored.source };
  const typed = ((stored.typed as { source?: Record<string, string> }).source ?? {}) as Record<
    string,
    string
  >;
  const texts: Record<string, string> = {};
  for (const field of KINDS[stored.source.kind].fields) {
    const value = source[field.key];
    texts[field.key] =
      typed[field.key] ?? (typeof value === "number" ? spelled(field.sort, value, units) : "");
  }
  return {
    id: stored.id,
    name: stored.name,
    currency: stored.currency,
    kind: stored.source.kind,
    material: stored.source.material,
    months: stored.source.months ?? YEAR,
    texts,
  };
}

export function supplierEntry(texts: SupplierTexts, units: UnitSystem): SupplierEntry {
  const source: Record<string, unknown> = {
    kind: texts.kind,
    material: texts.material,
    months: texts.months,
  };
  for (const { key, sort, optional } of KINDS[texts.kind].fields) {
    const text = texts.texts[key]?.trim() ?? "";
    if (text || !optional) source[key] = sort === "count" && /^\d+$/.test(text) ? Number(text) : text;
  }
  return {
    name: texts.name,
    currency: texts.currency.trim().toUpperCase(),
    units,
    source: sent<SupplierEntry["source"]>(source),
  };
}

/** A supplier's terms in a line. */
export function terms({ source, currency }: SupplierOut, units: UnitSystem): string {
  const each = (amount: number, what: string) => (amount > 0 ? `${money(amount, currency)} ${what}` : "free");
  const perVolume = (price: number) =>
    units === "us" ? `${money(price * YARD3, currency)} / yd³` : `${money(price, currency)} / m³`;
  switch (source.kind) {
    case "arborist":
    case "utility":
      return `${volume(source.least_m3, units)} to ${volume(source.most_m3, units)}, ${each(source.per_load ?? 0, "a load")}, ${share(source.chance ?? 0.5)} a month`;
    case "yard":
      return `${perVolume(source.per_m3 ?? 0)}, trailer of ${volume(source.trailer_m3, units)} and ${shown(source.payload_kg, "kg", units)}`;
    case "merchant":
      return `${perVolume(source.per_m3)}, delivery ${each(source.per_load ?? 0, "each")}`;
    case "bags":
      return `${money(source.per_bag, currency)} a bag`;
    case "chipper":
      return `${money(source.per_day, currency)} a day, ${volume(source.day_m3, units)} a day`;
    case "own":
      return `${volume(source.year_m3, units)} a year`;
  }
}
