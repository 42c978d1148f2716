import { scaleLinear } from "d3-scale";
import { useMemo } from "react";
import type { LogEntryOut, SeasonsSheet } from "@/api/schema.gen";
import { depthOf, hasDepth } from "@/features/log/log";
import { t } from "@/texts/schedule";
import { bandPath, Grid, linePath, useSize, Words } from "@/ui/picture";
import { about, aboutDepth, SPECK_M3 } from "@/ui/precision";
import { useUnits } from "@/ui/units";
import { EVERY, type Track } from "./seasons";
import { DateHandle, DateMark, dateOf, longDay, monthsOf, TimeAxis, TodayLine, weekOf } from "./timeline";

const [LEFT, RIGHT, HEAD, FOOT] = [58, 14, 30, 40];

interface Props {
  sheet: SeasonsSheet;
  track: Track;
  name: string;
  log: LogEntryOut[];
  week: number;
  setWeek: (week: number) => void;
  /** The depth as it would be forecast had the plot's readings taught nothing. */
  shipped?: Float32Array | undefined;
}

/** The seasons: depth week by week with its range, when to lay, what was logged; one handle moves the date. */
export function Ribbon({ sheet, track, name, log, week, setWeek, shipped }: Props) {
  const units = useUnits();
  const { box, width, height } = useSize();
  const [WIDE, HIGH] = [Math.max(280, width), Math.max(150, height)];
  const last = sheet.weeks - 1;
  const now = Math.round(weekOf(sheet, sheet.today));
  const ground = HIGH - FOOT;
  const x = useMemo(() => scaleLinear([0, last], [LEFT, WIDE - RIGHT]), [last, WIDE]);
  const drawn = useMemo(() => {
    const top = Math.max(80, ...track.high, ...track.held) * 1.04;
    const y = scaleLinear([0, top], [ground, HEAD]);
    const step = units === "us" ? 25.4 : 25;
    const every = Math.max(1, Math.ceil((top / step) * (22 / (ground - HEAD))));
    const past = track.held.slice(0, now + 1);
    return {
      y,
      past: linePath(past, x, y),
      laid: bandPath(
        past.map(() => 0),
        past,
        x,
        y,
      ),
      ahead: linePath(track.held.slice(now), x, y, now),
      haze: bandPath(track.low, track.high, x, y, EVERY),
      ticks: Array.from({ length: Math.floor(top / (step * every)) + 1 }, (_, at) => at * step * every),
    };
  }, [track, ground, units, now, x]);
  const { y } = drawn;
  const tops = track.future.layings;
  const months = useMemo(() => monthsOf(sheet, last), [sheet, last]);
  const date = dateOf(sheet, week);
  const words = longDay(date);
  const rangeAt = (at: number) => {
    const coarse = Math.min(track.low.length - 1, Math.round(at / EVERY));
    return t("n80RangeTo", {
      depth: aboutDepth(track.low[coarse] ?? 0, units),
      depth2: aboutDepth(track.high[coarse] ?? 0, units),
    });
  };
  const isNear = (at: number, on: string) => Math.abs(weekOf(sheet, on) - at) <= 1.5;
  const happens = (at: number) => [
    ...tops.flatMap((laying) => [
      ...(isNear(at, laying.on) ? [t("plannedLaying", { depth: aboutDepth(laying.settled_mm, units) })] : []),
      ...(isNear(at, laying.on) && laying.humus_m3 > SPECK_M3
        ? [t("humusDugOutFirst", { volume: about(laying.humus_m3, units) })]
        : []),
      ...(laying.wanted_on < laying.on && isNear(at, laying.wanted_on) ? [t("dueButWaitsForChips")] : []),
    ]),
    ...log
      .filter(hasDepth)
      .filter((entry) => isNear(at, entry.on))
      .map((entry) => {
        const mm = depthOf(entry);
        return mm === null
          ? (entry.entry.kind ?? "")
          : t("entryDepth", { kind: entry.entry.kind, depth: aboutDepth(mm, units) });
      }),
  ];
  const depth = track.held[week] ?? 0;
  const frost = [sheet.place_year.last_frost, sheet.place_year.first_frost].filter((day) => day != null);
  const years = months.filter(({ date }) => date.getMonth() === 0).map(({ date }) => date.getFullYear());
  const narrow = WIDE < 600;
  return (
    <div ref={box} className="relative h-full min-h-44 w-full touch-none select-none" data-testid="ribbon">
      <svg width={WIDE} height={HIGH} className="absolute inset-0 block" aria-hidden="true">
        <TimeAxis months={months} x={x} top={HEAD - 6} ground={ground} narrow={narrow} />
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
            const weekOfYear = weekOf(sheet, new Date(Date.UTC(year, 0, day, 12)).toISOString());
            return weekOfYear < 0 || weekOfYear > last ? null : (
              <path
                key={`${year}.${day}`}
                d={`M${x(weekOfYear)} ${HEAD - 12}v9M${x(weekOfYear) - 4} ${HEAD - 10}l8 5M${x(weekOfYear) + 4} ${HEAD - 10}l-8 5`}
                stroke="var(--color-info)"
                strokeWidth={1.5}
              />
            );
          }),
        )}
        <Grid y={y} ticks={drawn.ticks} left={LEFT} right={WIDE - RIGHT} words={(mm) => aboutDepth(mm, units)} />
        <path d={drawn.haze} fill="var(--chip-2)" opacity={0.38} />
        {shipped ? (
          <path
            d={linePath(shipped.slice(now), x, y, now)}
            fill="none"
            stroke="var(--color-secondary)"
            strokeWidth={1.8}
            strokeDasharray="1.5 4"
          />
        ) : null}
        <path d={drawn.laid} fill="var(--chip-3)" opacity={0.75} />
        <path d={drawn.past} fill="none" stroke="var(--soil-line)" strokeWidth={2.2} />
        <path d={drawn.ahead} fill="none" stroke="var(--soil-line)" strokeWidth={2.2} strokeDasharray="7 4" />
        {track.future.least_mm ? (
          <g>
            <path
              d={`M${LEFT} ${y(track.future.least_mm)}H${WIDE - RIGHT}`}
              stroke="var(--color-error)"
              strokeDasharray="2 4"
              strokeWidth={1.4}
            />
            <Words x={WIDE - RIGHT - 3} y={y(track.future.least_mm) - 5} anchor="end">
              {t("least")}
            </Words>
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
              <path d={`M${at} ${ground - 1}l-6 -11h12z`} fill="var(--color-primary)" stroke="var(--color-base-100)" />
            </g>
          );
        })}
        {log.filter(hasDepth).map((entry) => {
          const weekOfEntry = weekOf(sheet, entry.on);
          if (weekOfEntry < 0 || weekOfEntry > last) return null;
          const mm = depthOf(entry) ?? 0;
          return entry.entry.kind === "measured" ? (
            <path
              key={entry.id}
              d={`M${x(weekOfEntry) - 6} ${y(mm)}h12M${x(weekOfEntry)} ${y(mm) - 6}v12`}
              stroke="var(--color-base-content)"
              strokeWidth={2.4}
            />
          ) : (
            <path
              key={entry.id}
              d={`M${x(weekOfEntry)} ${ground - 1}l-6 -11h12z`}
              fill="var(--soil-line)"
              stroke="var(--color-base-100)"
            />
          );
        })}
        <TodayLine x={x(now)} top={HEAD - 2} bottom={ground} />
        <DateMark
          x={x(week)}
          y={y(depth)}
          top={HEAD}
          bottom={ground + 7}
          right={WIDE}
          words={aboutDepth(depth, units)}
        />
      </svg>
      <DateHandle
        label={t("dateFor", { name })}
        said={t("depthOn", {
          date: words,
          depth: aboutDepth(depth, units),
          range: week > now ? t("forecast", { week: rangeAt(week) }) : "",
        })}
        numbers={(over) => (
          <>
            <strong className="block">{longDay(dateOf(sheet, over))}</strong>
            {t("ofChips", { depth: aboutDepth(track.held[over] ?? 0, units), over: rangeAt(over) })}
            <span className="block">{t("ofHumus", { depth: aboutDepth(track.humus[over] ?? 0, units) })}</span>
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
