import type { DayOfYear } from "@/api/schema.gen";
import { dateFormat } from "@/ui/intl";

const YEAR = 2025;
const MS_PER_DAY = 86_400_000;

const noon = ({ month, day }: DayOfYear) => new Date(YEAR, month - 1, day, 12);

/** A day of any year, as the reader writes it: 15 Apr. */
export const dayOfYearText = (date: DayOfYear) => dateFormat({ day: "numeric", month: "short" }).format(noon(date));

/** The same of its number in the year, 1 to 365. */
export function textOfNumber(number: number | null | undefined) {
  if (number == null) return "";
  const date = new Date(Date.UTC(YEAR, 0, number));
  return dayOfYearText({ month: date.getUTCMonth() + 1, day: date.getUTCDate() });
}

const plain = (word: string) => word.toLowerCase().replace(/\.$/, "");

/** The month whose name begins so, 1 to 12; none where several do. */
function monthOf(word: string) {
  const months = [...Array(12).keys()].filter((month) =>
    (["long", "short"] as const).some((form) =>
      plain(dateFormat({ month: form }).format(noon({ month: month + 1, day: 15 }))).startsWith(plain(word)),
    ),
  );
  return months.length === 1 ? (months[0] ?? 0) + 1 : undefined;
}

/** A day as it was typed: "15 Apr", "April 15" or "04-15"; null where nothing was, undefined where it cannot be read. */
export function readDayOfYear(text: string): DayOfYear | null | undefined {
  const trimmed = text.trim();
  if (trimmed === "") return null;
  const [, dayFirst, monthLast] = /^(\d{1,2})\.?\s*(\p{L}+\.?)$/u.exec(trimmed) ?? [];
  const [, monthFirst, dayLast] = /^(\p{L}+\.?|\d{1,2}-)\s*(\d{1,2})$/u.exec(trimmed) ?? [];
  const word = monthLast ?? monthFirst ?? "";
  const month = word.endsWith("-") ? Number(word.slice(0, -1)) : word ? monthOf(word) : undefined;
  const day = Number(dayFirst ?? dayLast);
  if (!month || !day) return undefined;
  const date = noon({ month, day });
  return date.getMonth() + 1 === month && date.getDate() === day ? { month, day } : undefined;
}

/** The number in the year of a day. */
export const numberOf = ({ month, day }: DayOfYear) =>
  Math.round((Date.UTC(YEAR, month - 1, day) - Date.UTC(YEAR, 0, 1)) / MS_PER_DAY) + 1;
