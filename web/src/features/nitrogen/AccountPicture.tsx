import { scaleLinear } from "d3-scale";
import { useMemo } from "react";
import type { NitrogenSheet } from "@/api/schema.gen";
import {
  DateHandle,
  DateMark,
  dateOf,
  longDay,
  monthsOf,
  TimeAxis,
  TodayLine,
  weekOf,
} from "@/features/schedule/timeline";
import { t } from "@/texts/nitrogen";
import { DataTable } from "@/ui/DataTable";
import { LB_PER_1000, onGround } from "@/ui/format";
import { bandPath, Grid, linePath, useSize, Words } from "@/ui/picture";
import { useUnits } from "@/ui/units";

/** Weeks. */
const QUARTER = 13;
const [LEFT, RIGHT, HEAD, FOOT] = [108, 14, 30, 36];

interface Series {
  balance: Float32Array;
  low: Float32Array;
  high: Float32Array;
}

interface Props {
  sheet: NitrogenSheet;
  series: Series;
  week: number;
  setWeek: (week: number) => void;
}

/** The account through the seasons: a line at zero, owed below, paid back above. */
export function AccountPicture({ sheet, series, week, setWeek }: Props) {
  const units = useUnits();
  const { box, width, height } = useSize();
  const [WIDE, HIGH] = [Math.max(280, width), Math.max(180, height)];
  const last = sheet.weeks - 1;
  const now = Math.round(weekOf(sheet, sheet.today));
  const ground = HIGH - FOOT;
  const x = useMemo(() => scaleLinear([0, last], [LEFT, WIDE - RIGHT]), [last, WIDE]);
  const drawn = useMemo(() => {
    const top = Math.max(1.5, ...series.high, ...series.balance);
    const bottom = Math.min(-1.5, ...series.low, ...series.balance);
    const y = scaleLinear([bottom, top], [ground, HEAD]);
    const unit = units === "us" ? LB_PER_1000 : 1;
    const ticks = scaleLinear([bottom / unit, top / unit], [0, 1]).ticks(6);
    const zero = series.balance.map(() => 0);
    const band = (part: (g: number) => number) => bandPath(zero, series.balance.map(part), x, y);
    return {
      y,
      past: linePath(series.balance.slice(0, now + 1), x, y),
      ahead: linePath(series.balance.slice(now), x, y, now),
      owed: band((g) => Math.min(0, g)),
      paid: band((g) => Math.max(0, g)),
      haze: bandPath(series.low, series.high, x, y),
      ticks: ticks.map((tick) => tick * unit),
    };
  }, [series, ground, now, units, x]);
  const inWords = (g: number) =>
    `${onGround(Math.abs(g), units)} ${g < -0.05 ? t("owed") : g > 0.05 ? t("paidBack") : t("even")}`;
  const g = series.balance[week] ?? 0;
  const words = inWords(g);
  const months = useMemo(() => monthsOf(sheet, last), [sheet, last]);
  return (
    <div ref={box} className="relative h-full min-h-48 w-full touch-none select-none" data-testid="account">
      <svg width={WIDE} height={HIGH} className="absolute inset-0 block" aria-hidden="true">
        <defs>
          <pattern id="owed" width={7} height={7} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <rect width={7} height={7} fill="var(--color-base-300)" />
            <line x1={0} x2={0} y1={0} y2={7} stroke="var(--color-base-content)" strokeWidth={2.4} />
          </pattern>
          <pattern id="paid" width={9} height={9} patternUnits="userSpaceOnUse">
            <circle cx={3} cy={3} r={1.9} fill="var(--color-secondary)" />
          </pattern>
        </defs>
        <TimeAxis months={months} x={x} top={HEAD} ground={ground} narrow />
        {months
          .filter(({ date }) => sheet.growing.includes(date.getMonth() + 1))
          .map(({ at, until }) => (
            <rect key={at} x={x(at)} y={ground} width={x(until) - x(at)} height={6} fill="var(--color-secondary)" />
          ))}
        <Grid
          y={drawn.y}
          ticks={drawn.ticks}
          left={LEFT}
          right={WIDE - RIGHT}
          base="var(--color-base-content)"
          words={(tick) =>
            tick === 0
              ? t("even")
              : `${onGround(Math.abs(tick), units).split(" ")[0]} ${tick < 0 ? t("owed") : t("paidBack")}`
          }
        />
        <Words x={LEFT - 6} y={HEAD - 8} anchor="end">
          {t("n", {
            onGround: onGround(1, units).split(" ").slice(1).join(" ").replace("1,000 sq ft", "1,000 ft²"),
          })}
        </Words>
        <path d={drawn.haze} fill="var(--chip-2)" opacity={0.35} />
        <path d={drawn.owed} fill="url(#owed)" opacity={0.55} />
        <path d={drawn.paid} fill="url(#paid)" />
        <path d={drawn.past} fill="none" stroke="var(--color-base-content)" strokeWidth={2.2} />
        <path d={drawn.ahead} fill="none" stroke="var(--color-base-content)" strokeWidth={2.2} strokeDasharray="7 4" />
        {sheet.marks.map((mark, index) => {
          const weekOfMark = weekOf(sheet, mark.on);
          return weekOfMark < 0 || weekOfMark > last ? null : (
            // biome-ignore lint/suspicious/noArrayIndexKey: marks keep their order
            <g key={index}>
              <path
                d={
                  mark.kind === "dug_in"
                    ? `M${x(weekOfMark) - 5} ${drawn.y(0) - 12}l10 10M${x(weekOfMark) + 5} ${drawn.y(0) - 12}l-10 10`
                    : `M${x(weekOfMark)} ${drawn.y(0)}v-16m-5 6l5 -6l5 6`
                }
                stroke="var(--color-primary)"
                strokeWidth={2.4}
                fill="none"
              >
                <title>{mark.words}</title>
              </path>
            </g>
          );
        })}
        <TodayLine x={x(now)} top={HEAD} bottom={ground} />
        <DateMark x={x(week)} y={drawn.y(g)} top={HEAD} bottom={ground + 6} right={WIDE} words={words} />
      </svg>
      <DataTable
        caption={t("nitrogenAccountByQuarter")}
        heads={[t("date"), t("balance"), t("range")]}
        rows={Array.from({ length: Math.floor(last / QUARTER) + 1 }, (_, at) => at * QUARTER).map((week) => [
          longDay(dateOf(sheet, week)),
          inWords(series.balance[week] ?? 0),
          `${inWords(series.low[week] ?? 0)}, ${inWords(series.high[week] ?? 0)}`,
        ])}
      />
      <DateHandle
        label={t("dateOfTheNitrogenAccount")}
        said={t("balanceOn", { date: longDay(dateOf(sheet, week)), balance: words })}
        numbers={(over) => (
          <>
            <strong className="block">{longDay(dateOf(sheet, over))}</strong>
            {inWords(series.balance[over] ?? 0)}
            <span className="block">
              {t("byCNTo", {
                inWords: inWords(series.low[over] ?? 0),
                inWords2: inWords(series.high[over] ?? 0),
              })}
            </span>
            {sheet.marks
              .filter((mark) => Math.abs(weekOf(sheet, mark.on) - over) <= 1.5)
              .map((mark) => (
                <span key={mark.entry_id ?? mark.words} className="block font-semibold">
                  {mark.words}
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
