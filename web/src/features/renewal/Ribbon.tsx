import { type KeyboardEvent, type PointerEvent, useEffect, useMemo, useRef, useState } from "react";
import type { EventOut, SeasonsSheet } from "@/api/schema.gen";
import { depth } from "@/ui/format";
import { useUnits } from "@/ui/units";
import { hasDepth } from "./LogForm";
import { dateOf, EVERY, type Track, weekOf } from "./seasons";

const [LEFT, RIGHT, HEAD, FOOT] = [58, 14, 30, 40];

interface Props {
  sheet: SeasonsSheet;
  track: Track;
  name: string;
  events: EventOut[];
  week: number;
  setWeek: (week: number) => void;
}

/** The seasons: depth week by week with its range, when to lay, what was logged; one handle moves the date. */
export function Ribbon({ sheet, track, name, events, week, setWeek }: Props) {
  const units = useUnits();
  const box = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 900, height: 210 });
  useEffect(() => {
    if (!box.current) return;
    const observer = new ResizeObserver(([entry]) => {
      if (entry && entry.contentRect.width > 0) setSize(entry.contentRect);
    });
    observer.observe(box.current);
    return () => observer.disconnect();
  }, []);
  const [WIDE, HIGH] = [Math.max(280, size.width), Math.max(150, size.height)];
  const last = sheet.weeks - 1;
  const now = Math.round(weekOf(sheet, sheet.today));
  const x = (at: number) => LEFT + (at / last) * (WIDE - LEFT - RIGHT);
  const ground = HIGH - FOOT;
  const drawn = useMemo(() => {
    const top = Math.max(80, ...track.high, ...track.held) * 1.04;
    const y = (mm: number) => ground - (mm / top) * (ground - HEAD);
    const points = (from: number, to: number) =>
      Array.from(
        track.held.slice(from, to + 1),
        (mm, at) => `${x(from + at).toFixed(1)} ${y(mm).toFixed(1)}`,
      ).join("L");
    const coarse = (values: Float32Array) =>
      Array.from(values, (mm, at) => `${x(Math.min(last, at * EVERY)).toFixed(1)} ${y(mm).toFixed(1)}`);
    const haze = `M${coarse(track.high).join("L")}L${coarse(track.low).reverse().join("L")}Z`;
    const months: { at: number; name: string; open: boolean; january: boolean; year: number }[] = [];
    for (let at = 0; at <= last; at += 1) {
      const date = dateOf(sheet, at);
      if (at === 0 || dateOf(sheet, at - 1).getMonth() !== date.getMonth()) {
        months.push({
          at,
          name: date.toLocaleDateString(undefined, { month: "narrow" }),
          open: sheet.open_months.includes(date.getMonth() + 1),
          january: date.getMonth() === 0,
          year: date.getFullYear(),
        });
      }
    }
    const step = units === "us" ? 25.4 : 25;
    const every = Math.max(1, Math.ceil((top / step) * (22 / (ground - HEAD))));
    const ticks = Array.from({ length: Math.floor(top / (step * every)) + 1 }, (_, at) => at * step * every);
    return { y, past: points(0, now), ahead: points(now, last), haze, months, ticks };
    // biome-ignore lint/correctness/useExhaustiveDependencies: x follows from the size
  }, [track, sheet, ground, units, now, last, x]);
  const { y } = drawn;
  const clamp = (at: number) => Math.min(last, Math.max(0, Math.round(at)));
  const [_over, setOver] = useState<number | null>(null);
  const under = (event: PointerEvent<HTMLDivElement>) => {
    const rect = event.currentTarget.getBoundingClientRect();
    return clamp(((event.clientX - rect.left - LEFT) / (WIDE - LEFT - RIGHT)) * last);
  };
  const follow = (event: PointerEvent<HTMLDivElement>) => {
    setOver(null);
    setWeek(under(event));
  };
  const hover = (event: PointerEvent<HTMLDivElement>) => setOver(under(event));
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
    setWeek(clamp(next));
  };
  const date = dateOf(sheet, week);
  const said = date.toLocaleDateString(undefined, { day: "numeric", month: "long", year: "numeric" });
  const held = track.held[week] ?? 0;
  const tops = track.future.top_ups;
  const wet = (day: number | null | undefined) => day != null;
  const frost = [sheet.seasons.last_frost, sheet.seasons.first_frost].filter(wet) as number[];
  const years = drawn.months.filter((one) => one.january).map((one) => one.year);
  const narrow = WIDE < 600;
  const tag = x(week) > WIDE - 150 ? "end" : x(week) < LEFT + 90 ? "start" : "middle";
  return (
    <div ref={box} className="relative h-full min-h-44 w-full touch-none select-none" data-testid="ribbon">
      <svg width={WIDE} height={HIGH} className="absolute inset-0 block" aria-hidden="true">
        {drawn.months.map((one, at) => {
          const until = drawn.months[at + 1]?.at ?? last;
          return (
            <g key={one.at}>
              {one.open ? (
                <rect
                  x={x(one.at)}
                  y={ground}
                  width={x(until) - x(one.at)}
                  height={7}
                  fill="var(--color-secondary)"
                />
              ) : null}
              {one.january ? (
                <line
                  x1={x(one.at)}
                  x2={x(one.at)}
                  y1={HEAD - 6}
                  y2={ground + 20}
                  stroke="var(--color-base-300)"
                  strokeWidth={1.5}
                />
              ) : null}
              {one.january && x(one.at) < WIDE - 40 ? (
                <text
                  x={x(one.at) + 4}
                  y={ground + 34}
                  fontSize={13}
                  fontWeight={700}
                  fill="var(--color-base-content)"
                >
                  {one.year}
                </text>
              ) : null}
              {!narrow && x(until) - x(one.at) > 9 ? (
                <text
                  x={(x(one.at) + x(until)) / 2}
                  y={ground + 20}
                  fontSize={12}
                  textAnchor="middle"
                  fill="var(--color-base-content)"
                  opacity={0.8}
                >
                  {one.name}
                </text>
              ) : null}
            </g>
          );
        })}
        {years.flatMap((year) =>
          frost.map((day) => {
            const at = weekOf(sheet, new Date(Date.UTC(year, 0, day, 12)).toISOString());
            return at < 0 || at > last ? null : (
              <path
                key={`${year}.${day}`}
                d={`M${x(at)} ${HEAD - 12}v9M${x(at) - 4} ${HEAD - 10}l8 5M${x(at) + 4} ${HEAD - 10}l-8 5`}
                stroke="var(--color-info)"
                strokeWidth={1.5}
              />
            );
          }),
        )}
        {drawn.ticks.map((mm) => (
          <g key={mm}>
            <line
              x1={LEFT}
              x2={WIDE - RIGHT}
              y1={y(mm)}
              y2={y(mm)}
              stroke="var(--color-base-300)"
              strokeWidth={mm === 0 ? 1.5 : 0.6}
            />
            <text x={LEFT - 6} y={y(mm) + 4} fontSize={13} textAnchor="end" fill="var(--color-base-content)">
              {depth(mm, units)}
            </text>
          </g>
        ))}
        <path d={drawn.haze} fill="var(--chip-2)" opacity={0.38} />
        <path
          d={`M${x(0)} ${ground}L${drawn.past}L${x(now)} ${ground}Z`}
          fill="var(--chip-3)"
          opacity={0.75}
        />
        <path d={`M${drawn.past}`} fill="none" stroke="var(--soil-line)" strokeWidth={2.2} />
        <path
          d={`M${drawn.ahead}`}
          fill="none"
          stroke="var(--soil-line)"
          strokeWidth={2.2}
          strokeDasharray="7 4"
        />
        {track.future.least_mm ? (
          <g>
            <line
              x1={LEFT}
              x2={WIDE - RIGHT}
              y1={y(track.future.least_mm)}
              y2={y(track.future.least_mm)}
              stroke="var(--color-error)"
              strokeDasharray="2 4"
              strokeWidth={1.4}
            />
            <text
              x={WIDE - RIGHT - 3}
              y={y(track.future.least_mm) - 5}
              fontSize={12.5}
              textAnchor="end"
              fill="var(--color-base-content)"
            >
              least
            </text>
          </g>
        ) : null}
        {tops.map((one) => {
          const at = weekOf(sheet, one.on);
          return (
            <path
              key={one.on}
              d={`M${x(at)} ${ground - 1}l-6 -11h12z`}
              fill="var(--color-primary)"
              stroke="var(--color-base-100)"
            >
              <title>{`${depth(one.settled_mm, units)} on ${new Date(`${one.on}T12:00`).toLocaleDateString()}`}</title>
            </path>
          );
        })}
        {events.filter(hasDepth).map((one) => {
          const at = weekOf(sheet, one.on);
          if (at < 0 || at > last) return null;
          const mm = one.event.depth_mm;
          return one.event.kind === "read" ? (
            <path
              key={one.id}
              d={`M${x(at) - 6} ${y(mm)}h12M${x(at)} ${y(mm) - 6}v12`}
              stroke="var(--color-base-content)"
              strokeWidth={2.4}
            />
          ) : (
            <path
              key={one.id}
              d={`M${x(at)} ${ground - 1}l-6 -11h12z`}
              fill="var(--soil-line)"
              stroke="var(--color-base-100)"
            />
          );
        })}
        <line
          x1={x(now)}
          x2={x(now)}
          y1={HEAD - 2}
          y2={ground}
          stroke="var(--color-base-content)"
          strokeWidth={1}
        />
        <text
          x={x(now)}
          y={ground - 4}
          fontSize={12}
          textAnchor="middle"
          fill="var(--color-base-content)"
          paintOrder="stroke"
          stroke="var(--color-base-100)"
          strokeWidth={3}
        >
          today
        </text>
        <line
          x1={x(week)}
          x2={x(week)}
          y1={HEAD}
          y2={ground + 7}
          stroke="var(--color-primary)"
          strokeWidth={2.5}
        />
        <circle
          cx={x(week)}
          cy={y(held)}
          r={5}
          fill="var(--color-primary)"
          stroke="var(--color-base-100)"
          strokeWidth={1.5}
        />
        <path d={`M${x(week)} ${HEAD + 4}l-11 -8v-15h22v15z`} fill="var(--color-primary)" />
        <path
          d={`M${x(week) - 4} ${HEAD - 15}v7M${x(week)} ${HEAD - 15}v7M${x(week) + 4} ${HEAD - 15}v7`}
          stroke="var(--color-primary-content)"
          strokeWidth={1.4}
        />
        <text
          x={x(week) + (tag === "end" ? -17 : tag === "start" ? 17 : 17)}
          y={HEAD - 8}
          fontSize={14}
          fontWeight={700}
          textAnchor={tag === "end" ? "end" : "start"}
          fill="var(--color-base-content)"
          paintOrder="stroke"
          stroke="var(--color-base-100)"
          strokeWidth={4}
        >
          {depth(held, units)}
        </text>
      </svg>
      <div
        role="slider"
        tabIndex={0}
        aria-label={`Date, for ${name}`}
        aria-valuemin={0}
        aria-valuemax={last}
        aria-valuenow={week}
        aria-valuetext={`${said}: ${depth(held, units)}${week > now ? ", predicted" : ""}`}
        className="absolute inset-0 cursor-ew-resize"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          follow(event);
        }}
        onPointerMove={(event) => {
          if (event.buttons > 0) follow(event);
          else hover(event);
        }}
        onPointerLeave={() => setOver(null)}
        onKeyDown={key}
      />
    </div>
  );
}
