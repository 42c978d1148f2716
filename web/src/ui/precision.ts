import type { Figure, UnitSystem } from "@/api/schema.gen";
import { t } from "@/texts/ui";
import {
  area,
  depth,
  FOOT,
  inches,
  length,
  money,
  number,
  onGround,
  POUND,
  temperature,
  valueText,
  YARD3,
} from "./format";

/** How figures are shown that were worked out: no finer than their range deserves, and as a person can lay them.
 *  What was typed, and the working of a figure, are shown by `format` as they are. */

const MM = 25.4;

/** Less of a volume is nothing, m³. */
export const SPECK_M3 = 0.005;
/** Less than this is not worth telling, m³: about a barrow. */
const LEAST_TOLD_M3 = 0.1;

const to = (value: number, step: number) => step * Math.round(value / step);

/** Two or three figures: 0.05, 0.6, 8.2, 49, 123, 1,230. */
function figures(value: number) {
  const size = Math.abs(value);
  if (size >= 1000) return number(to(value, 10), 0);
  return number(value, size >= 9.95 ? 0 : size >= 0.095 ? 1 : 2);
}

export function about(m3: number, system: UnitSystem) {
  return system === "us" ? `${figures(m3 / YARD3)} yd³` : `${figures(m3)} m³`;
}

/** What is over of a volume. */
export function aboutRest(m3: number, system: UnitSystem) {
  return m3 < LEAST_TOLD_M3 ? t("hardlyAny") : about(m3, system);
}

export function aboutArea(m2: number, system: UnitSystem) {
  const amount = system === "us" ? m2 / FOOT ** 2 : m2;
  return amount < 1 ? area(m2, system) : `${figures(amount)} ${system === "us" ? "sq ft" : "m²"}`;
}

/** To 5 mm or a quarter of an inch. */
export function aboutDepth(mm: number, system: UnitSystem) {
  return depth(laid(mm, system), system);
}

/** A depth in mm to the step in which it can be laid. */
function laid(mm: number, system: UnitSystem) {
  return system === "us" ? to(mm / MM, 0.25) * MM : to(mm, 5);
}

/** The same as it would be typed. */
export function typedDepth(mm: number, system: UnitSystem) {
  const step = laid(mm, system);
  return system === "us" ? `${Number((step / MM).toFixed(2))} in` : `${Math.round(step)} mm`;
}

/** A usual depth, which nobody means to the millimetre: the trade says 3 in where it says 75 mm. */
export function usualDepth(mm: number, system: UnitSystem) {
  return system === "us" ? `${number(Math.round(mm / 25), 0)} in` : depth(mm, system);
}

/** How far away or how long something is: to 5 ft or 1 m beyond 50 ft or 15 m, finer where it is near, and two figures
 *  of what is far. */
export function aboutDistance(m: number, system: UnitSystem) {
  if (m > 2500) return length(m, system);
  if (system !== "us") return m < 1 ? aboutGap(m, system) : `${number(m < 300 ? m : to(m, 50), m < 15 ? 1 : 0)} m`;
  const feet = m / FOOT;
  if (feet < 10) return aboutHeight(m, system);
  return `${number(feet < 50 ? Math.round(feet) : to(feet, feet < 1000 ? 5 : 100), 0)} ft`;
}

/** To 5 cm or an inch. */
export function aboutHeight(m: number, system: UnitSystem) {
  if (system !== "us") return length(to(m, 0.05), system);
  const total = Math.round((m * 1000) / MM);
  const feet = Math.floor(total / 12);
  if (feet < 1) return `${total} in`;
  return total % 12 ? `${feet} ft ${total % 12} in` : `${feet} ft`;
}

/** A side on a drawing: a tape in feet is read to the inch from a yard on. */
export function sideLength(m: number, system: UnitSystem) {
  return system === "us" && m > 1 ? aboutHeight(m, system) : length(m, system);
}

/** What is kept clear, as the trade says it: 30 cm, 12 in. */
export function aboutGap(m: number, system: UnitSystem) {
  if (system !== "us") return m < 1 ? `${to(m * 100, 5)} cm` : `${number(m, 1)} m`;
  const millimetres = Math.round((m * 1000) / MM);
  return millimetres < 36 ? `${millimetres} in` : aboutHeight(m, system);
}

/** Two figures. */
function aboutMass(kg: number, system: UnitSystem) {
  const amount = Number((system === "us" ? kg / POUND : kg).toPrecision(2));
  return `${number(amount, amount < 10 ? 1 : 0)} ${system === "us" ? "lb" : "kg"}`;
}

/** A value that was worked out, in the unit of its figure. */
export function derived(value: number, unit: Figure["unit"], system: UnitSystem): string {
  switch (unit) {
    case "m":
      return aboutDistance(value, system);
    case "mm":
      return aboutDepth(value, system);
    case "m2":
      return aboutArea(value, system);
    case "m3":
      return about(value, system);
    case "kg":
      return aboutMass(value, system);
    default:
      return valueText(value, unit, system);
  }
}

/** Water, which is carried in cans: litres or gallons. */
export function aboutWater(m3: number, system: UnitSystem) {
  return system === "us" ? `${figures(m3 * 264.172)} gal` : `${figures(m3 * 1000)} L`;
}

/** Words from the core, in which amounts stand as {75 mm}, {0.3 m}, {4 m3}, {5 g_m2} or {84 money}, in the reader's
 *  units. */
export function inUnits(text: string, system: UnitSystem, currency = ""): string {
  return text.replace(/\{(-?[\d.e+]+) (mm|m|m3|m3_water|g_m2|degC|money)\}/g, (_, amount: string, unit: string) => {
    const value = Number(amount);
    if (unit === "money") return money(value, currency);
    if (unit === "g_m2") return onGround(value, system);
    if (unit === "m3") return about(value, system);
    if (unit === "m3_water") return aboutWater(value, system);
    if (unit === "degC") return temperature(value, system);
    if (unit === "mm") return value >= MM ? usualDepth(value, system) : inchesOrMm(value, system);
    return value < 1 ? aboutGap(value, system) : aboutHeight(value, system);
  });
}

const inchesOrMm = (mm: number, system: UnitSystem) => (system === "us" ? inches(laid(mm, "us")) : depth(mm, system));
