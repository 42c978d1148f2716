import { useMemo } from "react";
import type { NitrogenSheet } from "@/api/schema.gen";
import { DateHandle, dateOf, longDay, monthsOf, useSize, weekOf } from "@/features/schedule/timeline";
import { t } from "@/texts/nitrogen";
import { LB_PER_1000, onGround } from "@/ui/format";
import { useUnits } from "@/ui/units";

const [LEFT, RIGHT, HEAD, FOOT] = [108, 14, 30, 36];

interface Series {
  balance: Float32Array;
  low: Float32Array;
  high: Float32Array;
}

/** The account through the seasons: a line at zero, owed below, paid back above. */
export function AccountPicture({
  sheet,
  series,
  week,
  setWeek,
}: {
  sheet: NitrogenSheet;
  series: Series;
  week: number;
  setWeek: (week: number) => void;
}) {
  const units = useUnits();
  const { box, size } = useSize({ width: 800, height: 260 });
  const [WIDE, HIGH] = [Math.max(280, size.width), Math.max(180, size.height)];
  const last = sheet.weeks - 1;
  const now = Math.round(weekOf(sheet, sheet.today));
  const x = (at: number) => LEFT + (at / last) * (WIDE - LEFT - RIGHT);
  const drawn = useMemo(() => {
    const top = Math.max(1.5, ...series.high, ...series.balance);
    const bottom = Math.min(-1.5, ...series.low, ...series.balance);
    const y = (g: number) => HEAD + ((top - g) / (top - bottom)) * (HIGH - HEAD - FOOT);
    const place = (at: number) => LEFT + (at / last) * (WIDE - LEFT - RIGHT);
    const line = (values: Float32Array) =>
      Array.from(values, (g, at) => `${place(at).toFixed(1)} ${y(g).toFixed(1)}`);
    const path = line(series.balance);
    const area = (clip: (g: number) => number) =>
      `M${place(0)} ${y(0)}L${Array.from(series.balance, (g, at) => `${place(at).toFixed(1)} ${y(clip(g)).toFixed(1)}`).join("L")}L${place(last)} ${y(0)}Z`;
    const span = top - bottom;
    const unit = units === "us" ? LB_PER_1000 : 1;
    const step =
      unit * ([0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50].find((multiple) => span / unit / multiple <= 7) ?? 100);
    const ticks: number[] = [];
    for (let at = Math.ceil(bottom / step); at * step <= top; at += 1) ticks.push(at * step);
    return {
      y,
      past: path.slice(0, now + 1).join("L"),
      ahead: path.slice(now).join("L"),
      owed: area((g) => Math.min(0, g)),
      paid: area((g) => Math.max(0, g)),
      haze: `M${line(series.high).join("L")}L${line(series.low).reverse().join("L")}Z`,
      ticks,
    };
  }, [series, HIGH, WIDE, last, now, units]);
  const inWords = (g: number) =>
    `${onGround(Math.abs(g), units)} ${g < -0.05 ? "owed" : g > 0.05 ? t("paidBack") : "even"}`;
  const g = series.balance[week] ?? 0;
  const said = inWords(g);
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
        {months.map(({ at, until, date }) => {
          const grows = sheet.growing.includes(date.getMonth() + 1);
          return (
            <g key={at}>
              {grows ? (
                <rect
                  x={x(at)}
                  y={HIGH - FOOT}
                  width={x(until) - x(at)}
                  height={6}
                  fill="var(--color-secondary)"
                />
              ) : null}
              {date.getMonth() === 0 ? (
                <>
                  <line
                    x1={x(at)}
                    x2={x(at)}
                    y1={HEAD}
                    y2={HIGH - FOOT + 16}
                    stroke="var(--color-base-300)"
                  />
                  <text
                    x={x(at) + 4}
                    y={HIGH - 8}
                    fontSize={13}
                    fontWeight={700}
                    fill="var(--color-base-content)"
                  >
                    {date.getFullYear()}
                  </text>
                </>
              ) : null}
            </g>
          );
        })}
        {drawn.ticks.map((tick) => (
          <g key={tick}>
            <line
              x1={LEFT}
              x2={WIDE - RIGHT}
              y1={drawn.y(tick)}
              y2={drawn.y(tick)}
              stroke={tick === 0 ? "var(--color-base-content)" : "var(--color-base-300)"}
              strokeWidth={tick === 0 ? 2 : 0.7}
            />
            <text
              x={LEFT - 6}
              y={drawn.y(tick) + 4}
              fontSize={12.5}
              textAnchor="end"
              fill="var(--color-base-content)"
            >
              {tick === 0
                ? t("even")
                : `${onGround(Math.abs(tick), units).split(" ")[0]} ${tick < 0 ? t("owed") : t("paidBack")}`}
            </text>
          </g>
        ))}
        <text x={LEFT - 6} y={HEAD - 8} fontSize={12.5} textAnchor="end" fill="var(--color-base-content)">
          {t("n", {
            onGround: onGround(1, units).split(" ").slice(1).join(" ").replace("1,000 sq ft", "1,000 ft²"),
          })}
        </text>
        <path d={drawn.haze} fill="var(--chip-2)" opacity={0.35} />
        <path d={drawn.owed} fill="url(#owed)" opacity={0.55} />
        <path d={drawn.paid} fill="url(#paid)" />
        <path d={`M${drawn.past}`} fill="none" stroke="var(--color-base-content)" strokeWidth={2.2} />
        <path
          d={`M${drawn.ahead}`}
          fill="none"
          stroke="var(--color-base-content)"
          strokeWidth={2.2}
          strokeDasharray="7 4"
        />
        {sheet.marks.map((mark, index) => {
          const at = weekOf(sheet, mark.on);
          return at < 0 || at > last ? null : (
            // biome-ignore lint/suspicious/noArrayIndexKey: marks keep their order
            <g key={index}>
              <path
                d={
                  mark.kind === "dug_in"
                    ? `M${x(at) - 5} ${drawn.y(0) - 12}l10 10M${x(at) + 5} ${drawn.y(0) - 12}l-10 10`
                    : `M${x(at)} ${drawn.y(0)}v-16m-5 6l5 -6l5 6`
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
        <line x1={x(now)} x2={x(now)} y1={HEAD} y2={HIGH - FOOT} stroke="var(--color-base-content)" />
        <text x={x(now) + 4} y={HIGH - FOOT - 5} fontSize={12} fill="var(--color-base-content)">
          {t("today")}
        </text>
        <line
          x1={x(week)}
          x2={x(week)}
          y1={HEAD}
          y2={HIGH - FOOT + 6}
          stroke="var(--color-primary)"
          strokeWidth={2.5}
        />
        <circle
          cx={x(week)}
          cy={drawn.y(g)}
          r={5}
          fill="var(--color-primary)"
          stroke="var(--color-base-100)"
        />
        <path d={`M${x(week)} ${HEAD + 4}l-11 -8v-15h22v15z`} fill="var(--color-primary)" />
        <text
          x={x(week) + (x(week) > WIDE - 190 ? -17 : 17)}
          y={HEAD - 8}
          fontSize={14}
          fontWeight={700}
          textAnchor={x(week) > WIDE - 190 ? "end" : "start"}
          fill="var(--color-base-content)"
        >
          {said}
        </text>
      </svg>
      <DateHandle
        label={t("dateOfTheNitrogenAccount")}
        said={t("text", { longDay: longDay(dateOf(sheet, week)), said })}
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
