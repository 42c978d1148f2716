import { scaleLinear } from "d3-scale";
import type { ReactNode } from "react";
import type { Compared, Figure } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/log";
import { Button } from "@/ui/Button";
import { today } from "@/ui/clock";
import { DataTable } from "@/ui/DataTable";
import { day, depth } from "@/ui/format";
import { Grid, Words } from "@/ui/picture";
import { aboutDepth } from "@/ui/precision";
import { Loading, Trouble } from "@/ui/states";
import { type Column, Table } from "@/ui/Table";
import { useUnits } from "@/ui/units";
import { rangeOf, Value } from "@/ui/working";
import { useLearning, useLog, useLogChanges } from "./log";
import { Questions } from "./Questions";

/** What readings teach: rates with their range, and how well forecasts have held. */
export function LearningPage() {
  const may = useMay();
  const { sheet } = useSite();
  const learning = useLearning();
  const log = useLog();
  const { add } = useLogChanges();
  if (learning.isPending || log.isPending || !sheet.data) return <Loading what={t("theLog")} />;
  if (learning.isError) return <Trouble error={learning.error} retry={() => learning.refetch()} />;
  if (log.isError) return <Trouble error={log.error} retry={() => log.refetch()} />;
  const { materials, plots, compared, inside, taught } = learning.data;
  const names = new Map(sheet.data.plots.map((plot) => [plot.id, plot.name]));
  const restart = (plot_id: string) =>
    add.mutate({
      id: crypto.randomUUID(),
      plot_id,
      on: sheet.data?.today ?? today(),
      units: "metric",
      entry: { kind: "learning_restarted" },
    });
  return (
    <div className="mx-auto max-w-4xl space-y-6 p-4 sm:p-6" data-testid="learning">
      <Questions plotOf={(id) => names.get(id ?? "") ?? ""} log={log.data} />
      <section>
        <h2 className="text-xl">{t("forecastsAgainstReadings")}</h2>
        {compared.length === 0 ? (
          <p>{t("measureAgainToSee")}</p>
        ) : (
          <>
            <p className="my-2" data-testid="inside">
              <span className="display text-3xl">
                {t("insideOf", { inside: String(inside), count: compared.length })}
              </span>{" "}
              {t("layInTheRange")}
            </p>
            <ComparedPicture compared={compared} names={names} />
          </>
        )}
      </section>
      <section>
        <h2 className="text-xl">{t("decayLearned")}</h2>
        <p className="text-sm text-base-content/75">{t("oneIsTheShippedRate")}</p>
        {plots.length === 0 ? (
          <p>{t("nothingLearnedYet")}</p>
        ) : (
          <LearnedTable
            testId="learned"
            heads={[t("plotOrMaterial"), t("rate")]}
            rows={[
              ...materials.map((material) => ({
                key: material.material,
                name: t("allPlotsOf", { name: material.name.toLowerCase() }),
                figure: material.factor,
                readings: material.readings,
                strong: true,
              })),
              ...plots.map((plot) => ({
                key: plot.plot_id,
                name: plot.name,
                figure: plot.factor,
                readings: plot.readings,
                action: may.edit ? (
                  <Button ghost small onClick={() => restart(plot.plot_id)}>
                    {t("forget")}
                  </Button>
                ) : null,
              })),
            ]}
          />
        )}
      </section>
      {taught.length > 0 ? (
        <section>
          <h2 className="text-xl">{t("loadsSettlingAndPace")}</h2>
          <LearnedTable
            testId="taught"
            heads={[t("learnedFigure"), t("nowAt")]}
            rows={taught.map((figure) => ({
              key: `${figure.what} ${figure.name}`,
              name: `${LEARNED[figure.what] ?? ""}: ${figure.name}`,
              figure: figure.figure,
              readings: figure.readings,
            }))}
          />
        </section>
      ) : null}
    </div>
  );
}

interface LearnedRow {
  key: string;
  name: string;
  figure: Figure;
  readings: number;
  strong?: boolean;
  action?: ReactNode;
}

interface Props {
  testId: string;
  heads: [string, string];
  rows: LearnedRow[];
}

/** What was learned, with its range and the number of readings. */
function LearnedTable({ testId, heads, rows }: Props) {
  const units = useUnits();
  const acts: Column<LearnedRow> = ["", (row) => row.action];
  return (
    <Table
      className="mt-2 w-full"
      testId={testId}
      rows={rows}
      columns={[
        [heads[0], (row) => (row.strong ? <strong>{row.name}</strong> : row.name)],
        [heads[1], (row) => <Value figure={row.figure} />],
        [t("range80"), (row) => rangeOf(row.figure, units)],
        [t("readings"), (row) => row.readings],
        ...(rows.some((row) => row.action) ? [acts] : []),
      ]}
    />
  );
}

const LEARNED: Record<string, string> = {
  load: t("usualLoad"),
  settling: t("settling"),
  pace: t("hoursAgainstUsual"),
};
const [WIDE, HIGH, LEFT, HEAD, FOOT] = [760, 250, 62, 12, 24];

/** Each reading beside the range that was forecast for it the day before. */
function ComparedPicture({ compared, names }: { compared: Compared[]; names: Map<string, string> }) {
  const units = useUnits();
  const top = Math.max(50, ...compared.flatMap((reading) => [reading.high_mm, reading.depth_mm])) * 1.05;
  const y = scaleLinear([0, top], [HIGH - FOOT, HEAD]);
  const step = units === "us" ? 25.4 : 25;
  const every = step * Math.max(1, Math.ceil(top / step / 7));
  const ticks = Array.from({ length: Math.floor(top / every) + 1 }, (_, at) => at * every);
  const x = (at: number) => LEFT + ((at + 0.5) * (WIDE - LEFT)) / compared.length;
  return (
    <>
      <svg viewBox={`0 0 ${WIDE} ${HIGH}`} className="w-full" role="img" aria-label={t("forecastsAgainstReadings")}>
        <Grid y={y} ticks={ticks} left={LEFT} right={WIDE} words={(mm) => aboutDepth(mm, units)} />
        {compared.map((reading, at) => (
          <g key={reading.entry_id}>
            <title>{`${names.get(reading.plot_id)}, ${day(reading.on)}`}</title>
            <path d={`M${x(at)} ${y(reading.low_mm)}V${y(reading.high_mm)}`} stroke="var(--chip-2)" strokeWidth={9} />
            <path d={`M${x(at) - 7} ${y(reading.middle_mm)}H${x(at) + 7}`} stroke="var(--soil-line)" strokeWidth={2} />
            <path
              d={`M${x(at) - 5} ${y(reading.depth_mm) - 5}l10 10m0 -10l-10 10`}
              stroke={reading.inside ? "var(--color-base-content)" : "var(--color-error)"}
              strokeWidth={2.4}
            />
          </g>
        ))}
        <Words x={LEFT} y={HIGH - 6} size={13}>
          {day(compared[0]?.on ?? "")}
        </Words>
        <Words x={WIDE} y={HIGH - 6} size={13} anchor="end">
          {day(compared.at(-1)?.on ?? "")}
        </Words>
      </svg>
      <p className="text-sm text-base-content/75">{t("barIsForecastCrossIsReading")}</p>
      <DataTable
        caption={t("forecastsAgainstReadings")}
        heads={[t("plot"), t("on"), t("depth"), t("forecast"), t("range80")]}
        rows={compared.map((reading) => [
          names.get(reading.plot_id) ?? "",
          day(reading.on),
          depth(reading.depth_mm, units),
          aboutDepth(reading.middle_mm, units),
          t("rangeBetween", {
            low: aboutDepth(reading.low_mm, units),
            high: aboutDepth(reading.high_mm, units),
          }),
        ])}
      />
    </>
  );
}
