import type { SupplierEntry, SupplierOut, UnitSystem } from "@/api/schema.gen";
import { t } from "@/texts/supply";
import { money, share, valueText, volume, YARD3 } from "@/ui/format";

export type SourceKind = SupplierOut["source"]["kind"];
type Sort = "volume" | "small" | "mass" | "money" | "per_volume" | "share" | "count";

interface Field {
  key: string;
  label: string;
  sort: Sort;
  hint?: string;
  optional?: boolean;
}

const SIZE: Field[] = [
  { key: "least_m3", label: t("loadAtLeast"), sort: "volume" },
  { key: "likely_m3", label: t("mostLikely"), sort: "volume" },
  { key: "most_m3", label: t("atMost"), sort: "volume" },
];
const CREW: Field[] = [
  ...SIZE,
  { key: "per_load", label: t("feePerLoad"), sort: "money", hint: t("n0IfItIsFree") },
  { key: "chance", label: t("chanceInAMonth"), sort: "share", hint: t("chanceThatALoadComesWhen") },
];

/** What is asked of each kind of supplier. */
export const KINDS: Record<SourceKind, { label: string; what: string; fields: Field[] }> = {
  arborist: { label: t("treeCrew"), what: t("freeOrCheapWholeLoadsOf"), fields: CREW },
  utility: { label: t("lineClearing"), what: t("alongPowerLinesAndRoadsIn"), fields: CREW },
  yard: {
    label: t("municipalYard"),
    what: t("youFetchItByTrailerVolume"),
    fields: [
      { key: "trailer_m3", label: t("trailerHolds"), sort: "volume" },
      { key: "payload_kg", label: t("trailerCarries"), sort: "mass" },
      { key: "per_m3", label: t("price"), sort: "per_volume" },
      { key: "per_trip", label: t("costPerTrip"), sort: "money", hint: t("fuelAndTimeOnTheRoad") },
      { key: "trips_a_month", label: t("tripsInAMonth"), sort: "count" },
    ],
  },
  merchant: {
    label: t("bulkMerchant"),
    what: t("expensiveButExactTheVolumeYou"),
    fields: [
      { key: "per_m3", label: t("price"), sort: "per_volume" },
      { key: "per_load", label: t("eachDelivery"), sort: "money" },
      { key: "minimum_m3", label: t("minimumOrder"), sort: "volume", optional: true },
      { key: "truck_m3", label: t("aTruckHolds"), sort: "volume" },
      { key: "lead_days", label: t("noticeDays"), sort: "count" },
    ],
  },
  bags: {
    label: t("bags"),
    what: t("mostExpensiveDeliveredWhereTheyAre"),
    fields: [
      { key: "bag_m3", label: t("aBagHolds"), sort: "small" },
      { key: "per_bag", label: t("priceOfABag"), sort: "money" },
    ],
  },
  chipper: {
    label: t("chipperForADay"),
    what: t("hiredByTheDayForYour"),
    fields: [
      { key: "day_m3", label: t("chipsInADay"), sort: "volume" },
      { key: "brush_m3", label: t("volumeFromYourBrush"), sort: "volume", hint: t("asChipsInTotal") },
      { key: "per_day", label: t("hireForADay"), sort: "money" },
    ],
  },
  own: {
    label: t("ownPrunings"),
    what: t("yourOwnChippedOrMownPrunings"),
    fields: [{ key: "year_m3", label: t("perYear"), sort: "volume" }],
  },
};

export const KIND_LABELS = Object.entries(KINDS).map(([kind, { label }]) => [kind, label] as [SourceKind, string]);

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
    least_m3: t("n9CuYd"),
    likely_m3: t("n12CuYd"),
    most_m3: t("n14CuYd"),
    trailer_m3: t("n25CuYd"),
    payload_kg: "1,100 lb",
    truck_m3: t("n20CuYd"),
    bag_m3: t("n2CuFt"),
    day_m3: t("n10CuYd"),
    brush_m3: t("n10CuYd"),
    year_m3: t("n3CuYd"),
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

const YEAR = Array.from({ length: 12 }, (_, index) => index + 1);

export function emptySupplier(units: UnitSystem, currency: string): SupplierTexts {
  return {
    id: crypto.randomUUID(),
    name: "",
    currency,
    kind: "arborist",
    material: "arborist_leafy",
    months: YEAR,
    texts: { per_load: "0", chance: "50 %", trips_a_month: "8", lead_days: "7", ...STARTS[units] },
  };
}

function spelled(sort: Sort, value: number, units: UnitSystem): string {
  if (sort === "volume" || sort === "small") return volume(value, units);
  if (sort === "mass") return valueText(value, "kg", units);
  if (sort === "share") return share(value);
  return String(sort === "per_volume" && units === "us" ? value * YARD3 : value);
}

export function supplierTexts(stored: SupplierOut, units: UnitSystem): SupplierTexts {
  const source: Record<string, unknown> = { ...stored.source };
  const typed = ((stored.typed as { source?: Record<string, string> }).source ?? {}) as Record<string, string>;
  const texts: Record<string, string> = {};
  for (const field of KINDS[stored.source.kind].fields) {
    const value = source[field.key];
    texts[field.key] = typed[field.key] ?? (typeof value === "number" ? spelled(field.sort, value, units) : "");
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
  const source: SupplierEntry["source"] = { kind: texts.kind, material: texts.material, months: texts.months };
  for (const { key, sort, optional } of KINDS[texts.kind].fields) {
    const text = texts.texts[key]?.trim() ?? "";
    if (text || !optional) source[key] = sort === "count" && /^\d+$/.test(text) ? Number(text) : text;
  }
  return { name: texts.name, currency: texts.currency.trim().toUpperCase(), units, source };
}

/** A supplier's terms in a line. */
export function terms({ source, currency }: SupplierOut, units: UnitSystem): string {
  const each = (amount: number, what: string) => (amount > 0 ? `${money(amount, currency)} ${what}` : t("free"));
  const perVolume = (price: number) =>
    units === "us" ? t("yd", { money: money(price * YARD3, currency) }) : `${money(price, currency)} / m³`;
  switch (source.kind) {
    case "arborist":
    case "utility":
      return t("toAMonth", {
        volume: volume(source.least_m3, units),
        volume2: volume(source.most_m3, units),
        each: each(source.per_load ?? 0, t("aLoad")),
        share: share(source.chance ?? 0.5),
      });
    case "yard":
      return t("trailerOfAnd", {
        perVolume: perVolume(source.per_m3 ?? 0),
        volume: volume(source.trailer_m3, units),
        payload: valueText(source.payload_kg, "kg", units),
      });
    case "merchant":
      return t("deliveryWithPer", { per: perVolume(source.per_m3), each: each(source.per_load ?? 0, t("each")) });
    case "bags":
      return t("aBag", { money: money(source.per_bag, currency) });
    case "chipper":
      return t("aDayADay", { money: money(source.per_day, currency), volume: volume(source.day_m3, units) });
    case "own":
      return t("aYear", { volume: volume(source.year_m3, units) });
  }
}
