import { CloudRainWind } from "lucide-react";
import { useState } from "react";
import type { CalendarDay, CalendarSheet, Occasion } from "@/api/schema.gen";
import { t } from "@/texts/work";
import { shown } from "@/ui/format";
import { useUnits } from "@/ui/units";
import { dayWords, mondayOf, on } from "./days";
import { OccasionLine } from "./OccasionLine";

const MOST_MONTH = 3;
const MOST_WEEK = 12;
const DAYS_NAMED = Array.from({ length: 7 }, (_, at) =>
  new Date(Date.UTC(2024, 0, 1 + at)).toLocaleDateString(undefined, { weekday: "short", timeZone: "UTC" }),
);

/** Weeks as rows of days: what falls on each, how full it is; work can be dragged to another day. */
export function MonthGrid({
  sheet,
  month,
  chosen,
  choose,
  move,
}: {
  sheet: CalendarSheet;
  /** The month that is shown, as 2026-11; a single week has none. */
  month: string | undefined;
  chosen: string;
  choose: (day: string) => void;
  move: ((occasion: Occasion, to: string) => void) | undefined;
}) {
  const [over, setOver] = useState<string>();
  const drop = (key: string, to: string) => {
    const occasion = sheet.occasions.find((other) => other.key === key);
    if (occasion && move && occasion.on !== to) move(occasion, to);
  };
  return (
    <div>
      <div className="grid grid-cols-7 text-sm text-base-content/75">
        {DAYS_NAMED.map((name) => (
          <span key={name} className="px-1.5 pb-1">
            {name}
          </span>
        ))}
      </div>
      <ul className="grid grid-cols-7 border-t border-l border-base-300" data-testid="grid">
        {sheet.days.map((day) => (
          <li
            key={day.on}
            data-day={day.on}
            className={`relative min-w-0 border-r border-b border-base-300 ${over === day.on ? "outline-3 outline-primary" : ""} ${!month ? "min-h-64" : day.on < mondayOf(sheet.today) ? "min-h-14" : "min-h-24"} ${day.closed ? "bg-base-300/60" : "bg-base-100"} ${day.on === chosen ? "outline-2 -outline-offset-2 outline-base-content" : ""}`}
            onDragOver={(event) => {
              // Nothing can be put on a day that is past.
              if (day.on < sheet.today) return;
              event.preventDefault();
              setOver(day.on);
            }}
            onDragLeave={() => setOver(undefined)}
            onDrop={(event) => {
              event.preventDefault();
              setOver(undefined);
              drop(event.dataTransfer.getData("text/plain"), day.on);
            }}
          >
            <DayCell
              day={day}
              own={on(sheet.occasions, day.on)}
              today={day.on === sheet.today}
              chosen={day.on === chosen}
              choose={() => choose(day.on)}
              most={month ? MOST_MONTH : MOST_WEEK}
              beside={month !== undefined && !day.on.startsWith(month)}
              movable={Boolean(move)}
            />
          </li>
        ))}
      </ul>
    </div>
  );
}

function DayCell({
  day,
  own,
  today,
  chosen,
  choose,
  most,
  beside,
  movable,
}: {
  day: CalendarDay;
  own: Occasion[];
  today: boolean;
  chosen: boolean;
  choose: () => void;
  most: number;
  /** Whether it lies in the month before or after. */
  beside: boolean;
  movable: boolean;
}) {
  const units = useUnits();
  const inSeason = own.some((occasion) => occasion.kind === "season");
  // The band says that a season is open; its name stands on its first day.
  const told = own.filter((occasion) => occasion.kind !== "season" || occasion.on === day.on);
  return (
    <>
      {inSeason ? <span className="absolute inset-x-0 top-0 h-1 bg-secondary" aria-hidden /> : null}
      <div className="flex items-center gap-1 pr-1.5">
        <button
          type="button"
          className={`press flex grow items-center gap-1 px-1.5 pt-1 text-left ${chosen ? "font-bold" : ""}`}
          aria-pressed={chosen}
          aria-label={dayWords(day.on)}
          onClick={choose}
        >
          <span
            className={
              today ? "border-b-3 border-primary font-bold" : beside ? "text-sm text-base-content/75" : ""
            }
          >
            {Number(day.on.slice(8))}
          </span>
        </button>
        {day.warnings.length > 0 ? <CloudRainWind size={14} aria-hidden /> : null}
        {day.hours > 0 ? (
          <span className={`text-xs ${day.full ? "font-bold" : ""}`}>{shown(day.hours, "h", units)}</span>
        ) : null}
      </div>
      <ul className="space-y-0.5 px-1 pb-1">
        {told.slice(0, most).map((occasion) => {
          const draggable = movable && occasion.kind === "work";
          return (
            <li
              key={occasion.key}
              draggable={draggable}
              className={
                draggable ? "cursor-grab border-l-3 border-primary bg-base-200 pl-1" : "hidden pl-1 sm:block"
              }
              onDragStart={(event) => event.dataTransfer.setData("text/plain", occasion.key)}
              data-occasion={occasion.kind}
            >
              <OccasionLine occasion={occasion} short />
            </li>
          );
        })}
        {told.length > most ? (
          <li className="pl-1 text-xs">{t("andMore", { count: told.length - most })}</li>
        ) : null}
      </ul>
    </>
  );
}
