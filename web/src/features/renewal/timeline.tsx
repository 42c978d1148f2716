import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from "react";

const DAY_MS = 86_400_000;

interface Weeks {
  first: string;
}

/** A week's date, in the middle of the day so that no time zone moves it. */
export function dateOf({ first }: Weeks, week: number) {
  return new Date(new Date(`${first}T12:00:00`).getTime() + week * 7 * DAY_MS);
}

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
}

/** The handle that moves the date, by pointer and keys; lies over the whole picture. */
export function DateHandle({ label, said, week, now, last, margins, setWeek }: Handle) {
  const [left, right] = margins;
  const set = (next: number) => setWeek(Math.min(last, Math.max(0, Math.round(next))));
  const follow = (event: PointerEvent<HTMLDivElement>) => {
    const rect = event.currentTarget.getBoundingClientRect();
    set(((event.clientX - rect.left - left) / (rect.width - left - right)) * last);
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
        follow(event);
      }}
      onPointerMove={(event) => {
        if (event.buttons > 0) follow(event);
      }}
      onKeyDown={key}
    />
  );
}
