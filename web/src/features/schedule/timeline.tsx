import { type KeyboardEvent, type PointerEvent, type ReactNode, useState } from "react";
import { t } from "@/texts/schedule";
import { dateFormat } from "@/ui/intl";
import type { Scale } from "@/ui/picture";
import { Words } from "@/ui/picture";

const DAY_MS = 86_400_000;

interface Weeks {
  first: string;
}

/** A week's date, in the middle of the day so that no time zone moves it. */
export function dateOf({ first }: Weeks, week: number) {
  return new Date(new Date(`${first}T12:00:00`).getTime() + week * 7 * DAY_MS);
}

export const longDay = (date: Date) => dateFormat({ day: "numeric", month: "long", year: "numeric" }).format(date);

export function weekOf({ first }: Weeks, iso: string) {
  const from = new Date(`${first}T12:00:00`).getTime();
  return (new Date(`${iso.slice(0, 10)}T12:00:00`).getTime() - from) / (7 * DAY_MS);
}

/** The first weeks of months, with the week at which the month is over. */
export function monthsOf(weeks: Weeks, last: number) {
  const starts = Array.from({ length: last + 1 }, (_, at) => at).filter(
    (at) => at === 0 || dateOf(weeks, at - 1).getMonth() !== dateOf(weeks, at).getMonth(),
  );
  return starts.map((at, index) => ({ at, until: starts[index + 1] ?? last, date: dateOf(weeks, at) }));
}

/** Numbers from base 64 of little-endian signed 16-bit integers, so many to the unit. */
export function unpacked(text: string, parts: number): Float32Array {
  const bytes = Uint8Array.from(atob(text), (sign) => sign.charCodeAt(0));
  const view = new DataView(bytes.buffer);
  return Float32Array.from({ length: bytes.length / 2 }, (_, at) => view.getInt16(2 * at, true) / parts);
}

interface TimeAxisProps {
  months: ReturnType<typeof monthsOf>;
  x: Scale;
  top: number;
  ground: number;
  /** Whether there is room for years alone. */
  narrow: boolean;
}

/** Years along the foot of a picture, and months where there is room. */
export function TimeAxis({ months, x, top, ground, narrow }: TimeAxisProps) {
  const [, end = 0] = x.range();
  return months.map(({ at, until, date }) => (
    <g key={at}>
      {date.getMonth() === 0 ? (
        <line x1={x(at)} x2={x(at)} y1={top} y2={ground + 20} stroke="var(--color-base-300)" strokeWidth={1.5} />
      ) : null}
      {date.getMonth() === 0 && x(at) < end - 26 ? (
        <Words x={x(at) + 4} y={ground + (narrow ? 26 : 34)} size={13} fontWeight={700}>
          {date.getFullYear()}
        </Words>
      ) : null}
      {!narrow && x(until) - x(at) > 9 ? (
        <Words x={(x(at) + x(until)) / 2} y={ground + 20} size={12} anchor="middle" opacity={0.8}>
          {dateFormat({ month: "narrow" }).format(date)}
        </Words>
      ) : null}
    </g>
  ));
}

const HALO = { paintOrder: "stroke", stroke: "var(--color-base-100)", strokeWidth: 4 } as const;

/** The line of today. */
export function TodayLine({ x, top, bottom }: { x: number; top: number; bottom: number }) {
  return (
    <>
      <line x1={x} x2={x} y1={top} y2={bottom} stroke="var(--color-base-content)" />
      <Words x={x - 5} y={top + 11} size={12} anchor="end" {...HALO}>
        {t("today")}
      </Words>
    </>
  );
}

interface DateMarkProps {
  x: number;
  /** Where the value stands. */
  y: number;
  top: number;
  bottom: number;
  /** Where the picture ends. */
  right: number;
  words: string;
}

/** The chosen date: its line, its grip, the value there, and that in words. */
export function DateMark({ x, y, top, bottom, right, words }: DateMarkProps) {
  const leftwards = x > right - 180;
  return (
    <>
      <line x1={x} x2={x} y1={top} y2={bottom} stroke="var(--color-primary)" strokeWidth={2.5} />
      <circle cx={x} cy={y} r={5} fill="var(--color-primary)" stroke="var(--color-base-100)" strokeWidth={1.5} />
      <path d={`M${x} ${top + 4}l-11 -8v-15h22v15z`} fill="var(--color-primary)" />
      <path
        d={`M${x - 4} ${top - 15}v7M${x} ${top - 15}v7M${x + 4} ${top - 15}v7`}
        stroke="var(--color-primary-content)"
        strokeWidth={1.4}
      />
      <Words
        x={x + (leftwards ? -17 : 17)}
        y={top - 8}
        size={14}
        fontWeight={700}
        anchor={leftwards ? "end" : "start"}
        {...HALO}
      >
        {words}
      </Words>
    </>
  );
}

interface Handle {
  label: string;
  said: string;
  week: number;
  now: number;
  last: number;
  /** What is left free of the picture on its left and right, px. */
  margins: [number, number];
  setWeek: (week: number) => void;
  /** The numbers of a week, shown while a mouse hovers over it. */
  numbers: (week: number) => ReactNode;
}

/** The handle that moves the date, by pointer and keys; lies over the whole picture, and gives numbers on hovering. */
export function DateHandle({ label, said, week, now, last, margins, setWeek, numbers }: Handle) {
  const [left, right] = margins;
  const [hovered, setHovered] = useState<{ week: number; x: number; width: number } | null>(null);
  const clamp = (next: number) => Math.min(last, Math.max(0, Math.round(next)));
  const set = (next: number) => setWeek(clamp(next));
  const weekAt = (event: PointerEvent<HTMLDivElement>) => {
    const { left: begin, width } = event.currentTarget.getBoundingClientRect();
    const week = clamp(((event.clientX - begin - left) / (width - left - right)) * last);
    return { week: week, x: left + (week / last) * (width - left - right), width };
  };
  const key = (event: KeyboardEvent) => {
    const by: Record<string, number> = {
      ArrowLeft: week - 1,
      ArrowDown: week - 1,
      ArrowRight: week + 1,
      ArrowUp: week + 1,
      PageDown: week - 13,
      PageUp: week + 13,
      Home: 0,
      End: last,
      t: now,
    };
    const next = by[event.key];
    if (next === undefined) return;
    event.preventDefault();
    set(next);
  };
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={last}
      aria-valuenow={week}
      aria-valuetext={said}
      className="absolute inset-0 cursor-ew-resize"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        setHovered(null);
        setWeek(weekAt(event).week);
      }}
      onPointerMove={(event) => {
        if (event.buttons > 0) setWeek(weekAt(event).week);
        else if (event.pointerType === "mouse") setHovered(weekAt(event));
      }}
      onPointerLeave={() => setHovered(null)}
      onKeyDown={key}
    >
      {hovered ? (
        <div
          className="pointer-events-none absolute inset-y-0 w-px bg-base-content/60"
          style={{ left: hovered.x }}
          aria-hidden="true"
        >
          <div
            className={`absolute top-10 w-max border border-base-content bg-base-100 px-2 py-1 text-sm leading-snug shadow-sm ${hovered.x > hovered.width / 2 ? "right-2" : "left-2"}`}
            data-testid="hovered"
          >
            {numbers(hovered.week)}
          </div>
        </div>
      ) : null}
    </div>
  );
}
