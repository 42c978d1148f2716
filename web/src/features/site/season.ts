import type { BesideFigures, ChosenLine, Now, OrderFigures, SeasonFigures, UnitSystem } from "@/api/schema.gen";
import { t } from "@/texts/site";
import { money, valueText, YARD3 } from "@/ui/format";
import { about } from "@/ui/precision";

/** The line whose loads are changed by one: of whole loads the largest, else the largest of all. */
export function mainLine(order: OrderFigures[]): OrderFigures | undefined {
  const loads = order.filter((line) => !line.exact);
  return [...(loads.length > 0 ? loads : order)].sort((a, b) => b.volume_m3 - a.volume_m3)[0];
}

/** The order as a choice: a season's total by source, with `change` for one of them. */
export function linesWith(season: SeasonFigures, changed: string, by: number, units: UnitSystem): ChosenLine[] {
  return season.order.map((line) => {
    const changes = line.key === changed;
    const step = units === "us" ? YARD3 : 1;
    const volume_m3 = line.exact ? Math.max(0, line.volume_m3 + line.booked_m3 + (changes ? by * step : 0)) : null;
    const loads = Math.max(0, line.loads + line.booked_loads + (changes && !line.exact ? by : 0));
    return { source: line.key, loads, volume_m3 };
  });
}

export function costOf(season: Pick<Now, "cost" | "currency">): string {
  if (season.cost === null) return t("priceUnknown");
  const amount = Number(season.cost);
  return amount > 0 ? money(amount, season.currency, amount >= 100) : t("free");
}

/** The whole of an order in loads, or in volume where it is not counted by the load. */
export function loadsOf(season: Pick<Now, "order" | "loads" | "ordered_m3">, units: UnitSystem): string {
  if (season.order.length === 0) return t("nothing");
  if (!season.order.some((line) => line.kind !== "bags")) return about(season.ordered_m3, units);
  return t("loads", { count: season.loads });
}

/** How much of a source, in the words of the trade. */
export function amountOf(line: OrderFigures, units: UnitSystem): string {
  if (line.exact) return about(line.volume_m3, units);
  return line.kind === "bags" ? t("bags", { count: line.loads }) : t("loads", { count: line.loads });
}

/** How much goes with the mulch: loose volume, m² of sheets, or pieces. */
export function besideAmount(layer: BesideFigures, units: UnitSystem) {
  if (layer.unit === "m3") return about(layer.amount, units);
  return layer.unit === "m2" ? valueText(Math.round(layer.amount), "m2", units) : String(layer.amount);
}
