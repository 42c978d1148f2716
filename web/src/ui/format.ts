import type { Figure, UnitSystem } from "@/api/schema.gen";
import { t } from "@/texts/ui";
import { dateFormat, numberFormat } from "@/ui/intl";
import { now } from "./clock";

/** Figures are SI up to here; this is the edge where they take the reader's units. */
export const FOOT = 0.3048;
export const YARD3 = 0.764554857984;
export const POUND = 0.45359237;

export function number(value: number, digits: number) {
  return numberFormat({ maximumFractionDigits: digits, minimumFractionDigits: 0 }).format(value);
}

/** As many decimals as leave about three significant figures. */
function three(value: number) {
  const size = Math.abs(value);
  return number(value, size >= 100 ? 0 : size >= 10 ? 1 : 2);
}

const EIGHTHS = ["", "⅛", "¼", "⅜", "½", "⅝", "¾", "⅞"];

export function inches(mm: number) {
  const eighths = Math.round((mm / 25.4) * 8);
  const inchesWhole = Math.floor(eighths / 8);
  const part = EIGHTHS[eighths % 8] ?? "";
  return `${inchesWhole || !part ? number(inchesWhole, 0) : ""}${part} in`;
}

export function depth(mm: number, system: UnitSystem) {
  return system === "us" ? inches(mm) : `${number(mm, 0)} mm`;
}

export function length(m: number, system: UnitSystem) {
  if (system === "us" && m > 2500) return `${three(m / 1609.344)} mi`;
  if (m > 2500) return `${three(m / 1000)} km`;
  if (system !== "us") return m < 1 ? `${number(m * 100, 1)} cm` : `${number(m, m < 30 ? 2 : 1)} m`;
  if (m < FOOT) return inches(m * 1000);
  // Nobody tapes a long way to the eighth of an inch.
  const total = m > 6 ? Math.round((m / FOOT) * 12) * 8 : Math.round((m / FOOT) * 96);
  const feet = Math.floor(total / 96);
  const rest = total % 96;
  const inchesWhole = Math.floor(rest / 8);
  const part = EIGHTHS[rest % 8] ?? "";
  return rest ? `${number(feet, 0)} ft ${inchesWhole || !part ? inchesWhole : ""}${part} in` : `${number(feet, 0)} ft`;
}

export function temperature(celsius: number, system: UnitSystem) {
  return system === "us" ? `${number(celsius * 1.8 + 32, 0)} °F` : `${number(celsius, 1)} °C`;
}

export function rain(mm: number, system: UnitSystem) {
  return system === "us" ? `${number(mm / 25.4, 1)} in` : `${number(mm, 0)} mm`;
}

export function area(m2: number, system: UnitSystem) {
  return system === "us" ? `${three(m2 / FOOT ** 2)} sq ft` : `${three(m2)} m²`;
}

export function volume(m3: number, system: UnitSystem) {
  return system === "us" ? `${three(m3 / YARD3)} yd³` : `${three(m3)} m³`;
}

export function barrow(m3: number, system: UnitSystem) {
  return system === "us" ? `${three(m3 / FOOT ** 3)} cu ft` : `${number(m3 * 1000, 0)} L`;
}

export function share(value: number) {
  return `${number(value * 100, 1)} %`;
}

export function other(system: UnitSystem): UnitSystem {
  return system === "us" ? "metric" : "us";
}

/** A value in the unit of `figure`, as the reader sees it. */
export function valueText(value: number, unit: Figure["unit"], system: UnitSystem): string {
  switch (unit) {
    case "m":
      return length(value, system);
    case "mm":
      return depth(value, system);
    case "m2":
      return area(value, system);
    case "m3":
      return volume(value, system);
    case "deg":
      return `${number(value, 1)}°`;
    case "trees":
      return t("trees", { count: value });
    case "loads":
      return t("loads", { count: value });
    case "trips":
      return t("trips", { count: value });
    case "h":
      // What takes less than an hour is told in minutes.
      if (value > 0 && value < 0.95) return `${Math.max(1, Math.round(value * 60))} min`;
      return `${number(value, value < 10 ? 1 : 0)} h`;
    case "min_m3":
      return system === "us" ? `${three(value * YARD3)} min/yd³` : `${three(value)} min/m³`;
    case "min_m2":
      return system === "us" ? `${three(value * 100 * FOOT ** 2)} min/100 sq ft` : `${three(value)} min/m²`;
    case "min_m":
      return system === "us" ? `${three(value * FOOT)} min/ft` : `${three(value)} min/m`;
    case "min_tree":
      return t("minutesATree", { minutes: three(value) });
    case "m_min":
      return system === "us" ? `${three(value / FOOT)} ft/min` : `${three(value)} m/min`;
    case "kg":
      return system === "us" ? `${three(value / POUND)} lb` : `${three(value)} kg`;
    case "kg_m3":
      return system === "us" ? `${three((value / POUND) * YARD3)} lb/yd³` : `${three(value)} kg/m³`;
    case "ratio":
      return `${three(value)} : 1`;
    case "factor":
      return `× ${three(value)}`;
    case "degC":
      return system === "us" ? `${number(value * 1.8 + 32, 1)} °F` : `${number(value, 1)} °C`;
    case "kelvin":
      return system === "us" ? `${number(value * 1.8, 1)} °F` : `${number(value, 1)} °C`;
    case "days":
      return t("days", { count: value });
    case "g_m2":
      return onGround(value, system);
    case "per_year":
      return t("aYear", { rate: three(value) });
    case "number":
      return three(value);
    default:
      return share(value);
  }
}

/** g/m² in a pound on 1,000 sq ft, as labels of dressings have it in US units. */
export const LB_PER_1000 = (1000 * POUND) / (1000 * FOOT ** 2);

/** Nitrogen or a dressing on ground, as the reader's trade says it. */
export function onGround(g_m2: number, system: UnitSystem) {
  const amount = system === "us" ? g_m2 / LB_PER_1000 : g_m2;
  const text = number(amount, amount >= 10 ? 0 : system === "us" ? 2 : 1);
  return system === "us" ? `${text} lb/1,000 sq ft` : `${text} g/m²`;
}

/** A dry weight on ground. */
export function perArea(kg_m2: number, system: UnitSystem) {
  const amount = system === "us" ? (kg_m2 / POUND) * FOOT ** 2 : kg_m2;
  return `${number(amount, amount >= 10 ? 0 : 1)} ${system === "us" ? "lb/sq ft" : "kg/m²"}`;
}

/** An amount with its currency's own sign, as the reader's language writes it. */
export function money(decimal: number | string, currency: string, whole = false): string {
  const amount = Number(decimal);
  try {
    const digits = whole ? { maximumFractionDigits: 0 } : {};
    return numberFormat({ style: "currency", currency, ...digits }).format(amount);
  } catch {
    return `${number(amount, 2)} ${currency}`;
  }
}

/** A date in words, short. */
export function day(iso: string) {
  const thisYear = iso.slice(0, 4) === String(now().getFullYear());
  const format = dateFormat({ day: "numeric", month: "short", ...(thisYear ? {} : { year: "numeric" }) });
  return format.format(new Date(`${iso.slice(0, 10)}T12:00:00`));
}

/** A month with its year: what is weeks off is not told to the day. */
export function month(iso: string) {
  return dateFormat({ month: "long", year: "numeric" }).format(new Date(`${iso.slice(0, 10)}T12:00:00`));
}

export const PLACEHOLDER: Record<"length" | "small" | "depth" | "volume" | "share", Record<UnitSystem, string>> = {
  length: { metric: "m", us: "ft" },
  small: { metric: "cm", us: "in" },
  depth: { metric: "mm", us: "in" },
  volume: { metric: "m³", us: "yd³" },
  share: { metric: "%", us: "%" },
};
