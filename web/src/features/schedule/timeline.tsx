import { type KeyboardEvent, type PointerEvent, type ReactNode, useEffect, useRef, useState } from "react";

const DAY_MS = 86_400_000;

interface Weeks {
  first: string;
}

/** A week's date, in the middle of the day so that no time zone moves it. */
export function dateOf({ first }: Weeks, week: number) {
  return new Date(new Date(`${first}T12:00:00`).getTime() + week * 7 * DAY_MS);
}

export const longDay = (date: Date) =>
  date.toLocaleDateString(undefined, { day: "numeric", month: "long", year: "numeric" });

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

/** The size of a box on the screen, as it changes. */
export function useSize(start: { width: number; height: number }) {
  const box = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState(start);
  useEffect(() => {
    if (!box.current) return;
    const observer = new ResizeObserver(([entry]) => {
      if (entry && entry.contentRect.width > 0) setSize(entry.contentRect);
    });
    observer.observe(box.current);
    return () => observer.disconnect();
  }, []);
  return { box, size };
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
  const within = (next: number) => Math.min(last, Math.max(0, Math.round(next)));
  const set = (next: number) => setWeek(within(next));
  const at = (event: PointerEvent<HTMLDivElement>) => {
    const { left: begin, width } = event.currentTarget.getBoundingClientRect();
    const over = within(((event.clientX - begin - left) / (width - left - right)) * last);
    return { week: over, x: left + (over / last) * (width - left - right), width };
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
        setWeek(at(event).week);
      }}
      onPointerMove={(event) => {
        if (event.buttons > 0) setWeek(at(event).week);
        else if (event.pointerType === "mouse") setHovered(at(event));
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
