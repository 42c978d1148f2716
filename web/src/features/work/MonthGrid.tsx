import { type CalendarDate, GregorianCalendar, parseDate } from "@internationalized/date";
import { CloudRainWind } from "lucide-react";
import { useRef, useState } from "react";
import { useCalendar, useCalendarCell, useCalendarGrid } from "react-aria/useCalendar";
import { type CalendarState, useCalendarState } from "react-stately/useCalendarState";
import type { CalendarDay, CalendarSheet, Occasion } from "@/api/schema.gen";
import { t } from "@/texts/work";
import { valueText } from "@/ui/format";
import { useUnits } from "@/ui/units";
import { dayWords, mondayOf, on, WEEK_DAYS } from "./days";
import { OccasionLine } from "./OccasionLine";

const MOST_MONTH = 3;
const MOST_WEEK = 12;

interface Props {
  sheet: CalendarSheet;
  /** The month that is shown, as 2026-11; a single week has none. */
  month: string | undefined;
  chosen: string;
  choose: (day: string) => void;
  /** Shows the month or week of a day to which somebody has gone with the arrow keys. */
  turn: (day: string) => void;
  move: ((occasion: Occasion, to: string) => void) | undefined;
}

/** Weeks as rows of days: what falls on each, how full it is; work can be dragged to another day. */
export function MonthGrid({ sheet, month, chosen, choose, turn, move }: Props) {
  const [over, setOver] = useState<string>();
  const [reached, reach] = useState<string>();
  const isBeside = (day: string) => month !== undefined && !day.startsWith(month);
  const isShown = (day: string) => sheet.days.some(({ on }) => on === day) && !isBeside(day);
  const days = sheet.days.filter(({ on }) => !isBeside(on));
  const focused = [reached, chosen].find((day) => day && isShown(day)) ?? days[0]?.on ?? sheet.first;
  const calendar = {
    locale: navigator.language,
    createCalendar: () => new GregorianCalendar(),
    firstDayOfWeek: "mon" as const,
    visibleDuration: month ? { months: 1 } : { weeks: 1 },
    value: parseDate(chosen),
    onChange: (day: CalendarDate) => choose(day.toString()),
    focusedValue: parseDate(focused),
    onFocusChange: (date: CalendarDate) => {
      const day = date.toString();
      reach(day);
      if (!isShown(day)) turn(day);
    },
    "aria-label": t("theCalendar"),
  };
  const state = useCalendarState(calendar);
  const { calendarProps } = useCalendar(calendar, state);
  const { gridProps, headerProps, weekDays } = useCalendarGrid({ weekdayStyle: "short" }, state);
  const drop = (key: string, to: string) => {
    const occasion = sheet.occasions.find((other) => other.key === key);
    if (occasion && move && occasion.on !== to) move(occasion, to);
  };
  const weeks = Array.from({ length: sheet.days.length / WEEK_DAYS }, (_, at) =>
    sheet.days.slice(at * WEEK_DAYS, (at + 1) * WEEK_DAYS),
  );
  return (
    <div {...calendarProps}>
      <table {...gridProps} className="w-full table-fixed border-collapse" data-testid="grid">
        <thead {...headerProps}>
          <tr>
            {weekDays.map((name) => (
              <th key={name} className="px-1.5 pb-1 text-left font-normal text-base-content/75 text-sm" scope="col">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {weeks.map((week) => (
            <tr key={week[0]?.on}>
              {week.map((day) => (
                <DayCell
                  key={day.on}
                  state={state}
                  day={day}
                  own={on(sheet.occasions, day.on)}
                  past={day.on < sheet.today}
                  today={day.on === sheet.today}
                  chosen={day.on === chosen}
                  choose={() => choose(day.on)}
                  most={month ? MOST_MONTH : MOST_WEEK}
                  beside={isBeside(day.on)}
                  movable={Boolean(move)}
                  className={`${over === day.on ? "outline-3 outline-primary" : ""} ${!month ? "h-64" : day.on < mondayOf(sheet.today) ? "h-14" : "h-24"}`}
                  over={(entered) => setOver(entered ? day.on : undefined)}
                  drop={(key) => drop(key, day.on)}
                />
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

interface CellProps {
  state: CalendarState;
  day: CalendarDay;
  own: Occasion[];
  /** Whether nothing can be put on it any more. */
  past: boolean;
  today: boolean;
  chosen: boolean;
  choose: () => void;
  most: number;
  /** Whether it lies in the month before or after. */
  beside: boolean;
  movable: boolean;
  className: string;
  over: (entered: boolean) => void;
  drop: (key: string) => void;
}

function DayCell(props: CellProps) {
  const { state, day, own, past, today, chosen, choose, most, beside, movable, over, drop } = props;
  const units = useUnits();
  const button = useRef<HTMLButtonElement>(null);
  const { cellProps, buttonProps } = useCalendarCell({ date: parseDate(day.on) }, state, button);
  const inSeason = own.some((occasion) => occasion.kind === "season");
  // The band says that a season is open; its name stands on its first day.
  const entries = own.filter((occasion) => occasion.kind !== "season" || occasion.on === day.on);
  return (
    <td
      {...cellProps}
      data-day={day.on}
      className={`relative border border-base-300 p-0 align-top ${props.className} ${day.closed ? "bg-base-300/60" : "bg-base-100"} ${chosen ? "outline-2 -outline-offset-2 outline-base-content" : ""}`}
      onDragOver={(event) => {
        if (past) return;
        event.preventDefault();
        over(true);
      }}
      onDragLeave={() => over(false)}
      onDrop={(event) => {
        event.preventDefault();
        over(false);
        drop(event.dataTransfer.getData("text/plain"));
      }}
    >
      {inSeason ? <span className="absolute inset-x-0 top-0 h-1 bg-secondary" aria-hidden /> : null}
      <div className="flex items-center gap-1 pr-1.5">
        {/* Days of the months beside are reached with the arrow keys by turning to them. */}
        <button
          type="button"
          {...(beside ? { tabIndex: -1, onClick: choose } : buttonProps)}
          ref={button}
          className={`press flex grow cursor-pointer items-center gap-1 px-1.5 pt-1 text-left ${chosen ? "font-bold" : ""}`}
          aria-pressed={chosen}
          aria-label={dayWords(day.on)}
        >
          <span
            className={today ? "border-b-3 border-primary font-bold" : beside ? "text-sm text-base-content/75" : ""}
          >
            {Number(day.on.slice(8))}
          </span>
        </button>
        {day.warnings.length > 0 ? <CloudRainWind size={14} aria-hidden /> : null}
        {day.hours > 0 ? (
          <span className={`text-xs ${day.full ? "font-bold" : ""}`}>{valueText(day.hours, "h", units)}</span>
        ) : null}
      </div>
      <ul className="space-y-0.5 px-1 pb-1">
        {entries.slice(0, most).map((occasion) => {
          const draggable = movable && occasion.kind === "work";
          return (
            <li
              key={occasion.key}
              draggable={draggable}
              className={draggable ? "cursor-grab border-l-3 border-primary bg-base-200 pl-1" : "hidden pl-1 sm:block"}
              onDragStart={(event) => event.dataTransfer.setData("text/plain", occasion.key)}
              data-occasion={occasion.kind}
            >
              <OccasionLine occasion={occasion} short />
            </li>
          );
        })}
        {entries.length > most ? (
          <li className="pl-1 text-xs">{t("andMore", { count: entries.length - most })}</li>
        ) : null}
      </ul>
    </td>
  );
}
