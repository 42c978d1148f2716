import { useCallback, useMemo } from "react";
import type { LogEntryOut, SeasonsSheet } from "@/api/schema.gen";
import { depthOf, hasDepth } from "@/features/log/log";
import { t } from "@/texts/schedule";
import { about, aboutDepth } from "@/ui/precision";
import { useUnits } from "@/ui/units";
import { EVERY, type Track } from "./seasons";
import { DateHandle, dateOf, longDay, monthsOf, useSize, weekOf } from "./timeline";

const SPECK_M3 = 0.005;
const [LEFT, RIGHT, HEAD, FOOT] = [58, 14, 30, 40];

interface Props {
  sheet: SeasonsSheet;
  track: Track;
  name: string;
  log: LogEntryOut[];
  week: number;
  setWeek: (week: number) => void;
}

/** The seasons: depth week by week with its range, when to lay, what was logged; one handle moves the date. */
export function Ribbon({ sheet, track, name, log, week, setWeek }: Props) {
  const units = useUnits();
  const { box, size } = useSize({ width: 900, height: 210 });
  const [WIDE, HIGH] = [Math.max(280, size.width), Math.max(150, size.height)];
  const last = sheet.weeks - 1;
  const now = Math.round(weekOf(sheet, sheet.today));
  const x = useCallback((at: number) => LEFT + (at / last) * (WIDE - LEFT - RIGHT), [last, WIDE]);
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
    const step = units === "us" ? 25.4 : 25;
    const every = Math.max(1, Math.ceil((top / step) * (22 / (ground - HEAD))));
    const ticks = Array.from({ length: Math.floor(top / (step * every)) + 1 }, (_, at) => at * step * every);
    return { y, past: points(0, now), ahead: points(now, last), haze, ticks };
  }, [track, ground, units, now, last, x]);
  const { y } = drawn;
  const tops = track.future.layings;
  const months = useMemo(() => monthsOf(sheet, last), [sheet, last]);
  const date = dateOf(sheet, week);
  const said = longDay(date);
  const rangeAt = (at: number) => {
    const coarse = Math.min(track.low.length - 1, Math.round(at / EVERY));
    return t("n80RangeTo", {
      depth: aboutDepth(track.low[coarse] ?? 0, units),
      depth2: aboutDepth(track.high[coarse] ?? 0, units),
    });
  };
  const near = (at: number, on: string) => Math.abs(weekOf(sheet, on) - at) <= 1.5;
  const happens = (at: number) => [
    ...tops.flatMap((laying) => [
      ...(near(at, laying.on) ? [t("plannedLaying", { depth: aboutDepth(laying.settled_mm, units) })] : []),
      ...(near(at, laying.on) && laying.humus_m3 > SPECK_M3
        ? [t("humusDugOutFirst", { volume: about(laying.humus_m3, units) })]
        : []),
      ...(laying.wanted_on < laying.on && near(at, laying.wanted_on) ? [t("dueButWaitsForChips")] : []),
    ]),
    ...log
      .filter(hasDepth)
      .filter((entry) => near(at, entry.on))
      .map((entry) => {
        const mm = depthOf(entry);
        return mm === null
          ? (entry.entry.kind ?? "")
          : t("text", { kind: entry.entry.kind, depth: aboutDepth(mm, units) });
      }),
  ];
  const held = track.held[week] ?? 0;
  const frost = [sheet.place_year.last_frost, sheet.place_year.first_frost].filter((day) => day != null);
  const years = months.filter(({ date }) => date.getMonth() === 0).map(({ date }) => date.getFullYear());
  const narrow = WIDE < 600;
  const leftwards = x(week) > WIDE - 150;
  return (
    <div ref={box} className="relative h-full min-h-44 w-full touch-none select-none" data-testid="ribbon">
      <svg width={WIDE} height={HIGH} className="absolute inset-0 block" aria-hidden="true">
        {months.map(({ at, until, date }) => {
          const january = date.getMonth() === 0;
          return (
            <g key={at}>
              {january ? (
                <line
                  x1={x(at)}
                  x2={x(at)}
                  y1={HEAD - 6}
                  y2={ground + 20}
                  stroke="var(--color-base-300)"
                  strokeWidth={1.5}
                />
              ) : null}
              {january && x(at) < WIDE - 40 ? (
                <text
                  x={x(at) + 4}
                  y={ground + 34}
                  fontSize={13}
                  fontWeight={700}
                  fill="var(--color-base-content)"
                >
                  {date.getFullYear()}
                </text>
              ) : null}
              {!narrow && x(until) - x(at) > 9 ? (
                <text
                  x={(x(at) + x(until)) / 2}
                  y={ground + 20}
                  fontSize={12}
                  textAnchor="middle"
                  fill="var(--color-base-content)"
                  opacity={0.8}
                >
                  {date.toLocaleDateString(undefined, { month: "narrow" })}
                </text>
              ) : null}
            </g>
          );
        })}
        {sheet.seasons.map((season) => {
          const from = Math.max(0, weekOf(sheet, season.opens));
          const until = Math.min(last, weekOf(sheet, season.closes));
          return until <= from ? null : (
            <rect
              key={season.key}
              x={x(from)}
              y={ground}
              width={x(until) - x(from)}
              height={7}
              fill="var(--color-secondary)"
            >
              <title>{season.name}</title>
            </rect>
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
              {aboutDepth(mm, units)}
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
              {t("least")}
            </text>
          </g>
        ) : null}
        {tops.map((laying) => {
          const [at, wanted] = [x(weekOf(sheet, laying.on)), x(weekOf(sheet, laying.wanted_on))];
          return (
            <g key={laying.on}>
              {wanted < at - 1 ? (
                <path
                  d={`M${wanted} ${ground - 2}l-5 -9h10zM${wanted + 5} ${ground - 7}H${at - 6}`}
                  fill="var(--color-base-100)"
                  stroke="var(--color-primary)"
                  strokeWidth={1.4}
                />
              ) : null}
              <path
                d={`M${at} ${ground - 1}l-6 -11h12z`}
                fill="var(--color-primary)"
                stroke="var(--color-base-100)"
              />
            </g>
          );
        })}
        {log.filter(hasDepth).map((entry) => {
          const at = weekOf(sheet, entry.on);
          if (at < 0 || at > last) return null;
          const mm = depthOf(entry) ?? 0;
          return entry.entry.kind === "measured" ? (
            <path
              key={entry.id}
              d={`M${x(at) - 6} ${y(mm)}h12M${x(at)} ${y(mm) - 6}v12`}
              stroke="var(--color-base-content)"
              strokeWidth={2.4}
            />
          ) : (
            <path
              key={entry.id}
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
          x={x(now) - 5}
          y={HEAD + 9}
          fontSize={12}
          textAnchor="end"
          fill="var(--color-base-content)"
          paintOrder="stroke"
          stroke="var(--color-base-100)"
          strokeWidth={3}
        >
          {t("today")}
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
          x={x(week) + (leftwards ? -17 : 17)}
          y={HEAD - 8}
          fontSize={14}
          fontWeight={700}
          textAnchor={leftwards ? "end" : "start"}
          fill="var(--color-base-content)"
          paintOrder="stroke"
          stroke="var(--color-base-100)"
          strokeWidth={4}
        >
          {aboutDepth(held, units)}
        </text>
      </svg>
      <DateHandle
        label={t("dateFor", { name })}
        said={t("text2", {
          said,
          depth: aboutDepth(held, units),
          value: week > now ? t("forecast", { week: rangeAt(week) }) : "",
        })}
        numbers={(over) => (
          <>
            <strong className="block">{longDay(dateOf(sheet, over))}</strong>
            {t("ofChips", { depth: aboutDepth(track.held[over] ?? 0, units), over: rangeAt(over) })}
            <span className="block">
              {t("ofHumus", { depth: aboutDepth(track.humus[over] ?? 0, units) })}
            </span>
            {happens(over).map((event) => (
              <span key={event} className="block font-semibold">
                {event}
              </span>
            ))}
          </>
        )}
        week={week}
        now={now}
        last={last}
        margins={[LEFT, RIGHT]}
        setWeek={setWeek}
      />
    </div>
  );
}
