import { CloudSun, FileUp } from "lucide-react";
import { useMemo, useState } from "react";
import { Outlet, useSearchParams } from "react-router";
import { sendWeather } from "@/api/files";
import type { PlotOut, SeasonsSheet } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { LogForm } from "@/features/log/LogForm";
import { SubPages } from "@/features/site/SubPages";
import { drawn } from "@/features/survey/drawn";
import { Ground } from "@/features/survey/Ground";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/schedule";
import { Button } from "@/ui/Button";
import { FileButton } from "@/ui/FileChoice";
import { day, rain } from "@/ui/format";
import { dateFormat, timeOfDay } from "@/ui/intl";
import { aboutDepth, inUnits } from "@/ui/precision";
import { namesOf, Select } from "@/ui/Select";
import { Empty, Loading, Trouble } from "@/ui/states";
import { Table } from "@/ui/Table";
import { useUnits } from "@/ui/units";
import { CutAt } from "./CutAt";
import { Ribbon } from "./Ribbon";
import { RulePanel } from "./RulePanel";
import { EVERY, useLayers, useSeasons } from "./seasons";
import { type SeasonsContext, useSeasonsContext } from "./seasonsContext";
import { dateOf, longDay, weekOf } from "./timeline";

const PAGES: [string, string][] = [
  ["", t("onOneDate")],
  ["/years", t("comingYears")],
];

/** The seasons of a site: its pictures at one date, and the years ahead. */
export function SeasonsFrame() {
  const { sheet: site } = useSite();
  const { sheet } = useSeasons();
  if (site.isPending || sheet.isPending) return <Loading what={t("theSeasons")} />;
  if (site.isError) return <Trouble error={site.error} retry={() => site.refetch()} />;
  if (sheet.isError) return <Trouble error={sheet.error} retry={() => sheet.refetch()} />;
  return (
    <div className="flex h-full flex-col">
      <SubPages title={t("seasons")} part="seasons" pages={PAGES}>
        <div className="min-h-0 grow overflow-y-auto">
          <Outlet context={{ site: site.data, seasons: sheet.data } satisfies SeasonsContext} />
        </div>
      </SubPages>
    </div>
  );
}

/** Ground, cut and ribbon at one date. */
export function SeasonsPage() {
  const { site, seasons } = useSeasonsContext();
  const { tracks } = useSeasons();
  const units = useUnits();
  const may = useMay();
  const [params, setParams] = useSearchParams();
  const now = Math.round(weekOf(seasons, seasons.today));
  const [week, setWeek] = useState(now);
  const plots = site.plots;
  const chosen = plots.find((plot) => plot.id === params.get("plot")) ?? plots[0];
  const layers = useLayers(chosen?.id);
  const [panel, setPanel] = useState<"rule" | "log" | null>(null);
  const pieces = useMemo(() => plots.map((plot, index) => drawn(plot, index + 1)), [plots]);
  const depths = useMemo(
    // To the nearest 5 mm: the texture tells no finer, and unchanged plots need not be drawn again.
    () => new Map(plots.map((plot) => [plot.id, Math.round((tracks.get(plot.id)?.held[week] ?? 0) / 5) * 5])),
    [plots, tracks, week],
  );
  if (!chosen) {
    return (
      <Empty title={t("noGroundYet")}>
        <p>{t("measureAPlotFirstItsDepth")}</p>
      </Empty>
    );
  }
  const track = tracks.get(chosen.id);
  if (!track) return <Loading what={t("thisPlot")} />;
  const log = seasons.log.filter((entry) => entry.plot_id === chosen.id);
  const date = dateOf(seasons, week);
  const top = Math.max(60, ...track.held, ...track.high);
  const choose = (id: string) => setParams({ plot: id }, { replace: true });
  return (
    <div className="flex min-h-full flex-col lg:h-full">
      <section className="flex flex-wrap items-center gap-x-6 gap-y-2 border-b border-base-300 bg-base-100 px-4 py-2">
        <p className="leading-tight">
          <span className="display block text-2xl text-primary" data-testid="date">
            {longDay(date)}
          </span>
          <span className="text-sm text-base-content/75">
            {week < now ? t("logged") : week === now ? t("today") : t("forecastWithin")}
          </span>
        </p>
        <PlotSelect plots={plots} value={chosen.id} choose={choose} />
        <p className="leading-tight">
          <span className="display block text-2xl" data-testid="held">
            {aboutDepth(track.held[week] ?? 0, units)}
          </span>
          <span className="text-sm text-base-content/75">
            {t("ofChipsOfHumus", { depth: aboutDepth(track.humus[week] ?? 0, units) })}
          </span>
        </p>
        <p className="min-w-0 grow basis-72" data-testid="next-step">
          <strong>{inUnits(track.future.next_step, units)}</strong>
          <span className="block text-sm text-base-content/75">
            {track.future.gap
              ? `${t("evenTheTargetDepthDoesNot", { depth: aboutDepth(track.future.least_mm, units), day: day(track.future.gap.from), day2: day(track.future.gap.until) })} `
              : ""}
            {track.future.closes_in != null && track.future.closes_in > 0
              ? t("theRingsGrowIntoOneStrip", { closesIn: track.future.closes_in })
              : ""}
          </span>
        </p>
        {may.edit ? (
          <span className="flex gap-2">
            <Button aria-pressed={panel === "rule"} onClick={() => setPanel(panel === "rule" ? null : "rule")}>
              {t("rule")}
            </Button>
            <Button primary aria-pressed={panel === "log"} onClick={() => setPanel(panel === "log" ? null : "log")}>
              {t("log")}
            </Button>
          </span>
        ) : null}
      </section>
      <div className="grid min-h-0 grow grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1fr)_30rem]">
        <div className="order-2 h-80 min-h-0 overflow-hidden lg:order-none lg:h-auto">
          <Ground
            site={site.site}
            plots={pieces}
            marks={site.landmarks}
            chosen={chosen.id}
            choose={(id) => plots.some((plot) => plot.id === id) && choose(id)}
            depths={depths}
          />
        </div>
        <div className="order-1 min-h-0 overflow-y-auto border-base-300 bg-base-100 px-3 lg:order-none lg:border-l">
          {panel === "rule" ? (
            <RulePanel key={chosen.id} plot={chosen} future={track.future} close={() => setPanel(null)} />
          ) : panel === "log" ? (
            <LogForm key={chosen.id} plot={chosen} close={() => setPanel(null)} />
          ) : layers ? (
            <CutAt
              layers={layers.layers}
              humus_mm={track.humus[week] ?? 0}
              week={week}
              top_mm={top}
              least_mm={track.future.least_mm > 0 ? track.future.least_mm : null}
            />
          ) : (
            <Loading what={t("itsLayers")} />
          )}
        </div>
      </div>
      <div className="h-44 shrink-0 border-t border-base-300 bg-base-100 px-1 pt-1">
        <Ribbon
          sheet={seasons}
          track={track}
          name={chosen.name}
          log={log}
          week={week}
          setWeek={setWeek}
          shipped={layers?.shipped}
        />
      </div>
      <footer className="flex flex-wrap items-center gap-x-6 border-t border-base-300 bg-base-100 px-4 text-sm">
        <WeatherLine seasons={seasons} edit={may.edit} />
        <details className="open:basis-full">
          <summary className="press inline-flex cursor-pointer items-center text-primary">
            {t("legendAndTable")}
          </summary>
          <Key />
          <DepthTable seasons={seasons} held={track.held} low={track.low} high={track.high} />
        </details>
      </footer>
    </div>
  );
}

interface PlotSelectProps {
  plots: PlotOut[];
  value: string;
  choose: (id: string) => void;
}

/** Which plot is shown. */
export function PlotSelect({ plots, value, choose }: PlotSelectProps) {
  return <Select className="w-auto" label={t("plot")} value={value} onChange={choose} options={namesOf(plots)} />;
}

function Key() {
  return (
    <span className="mb-2 flex flex-wrap gap-x-4 gap-y-0.5">
      <span>{t("solidLogged")}</span>
      <span>{t("dashedForecastShaded80Range")}</span>
      <span>{t("dottedBeforeReadings")}</span>
      <span>
        <span className="mr-1 inline-block h-2 w-4 bg-secondary" />
        {t("seasonsForLaying")}
      </span>
      <span>{t("layingPlannedOrDone")}</span>
      <span>{t("dueButWaitsForChipsClause")}</span>
      <span>{t("depthMeasured")}</span>
      <span>{t("medianLastAndFirstFrost")}</span>
    </span>
  );
}

function WeatherLine({ seasons, edit }: { seasons: SeasonsSheet; edit: boolean }) {
  const units = useUnits();
  const { path, ask, refresh } = useSeasons();
  const { weather } = seasons;
  const [trouble, setTrouble] = useState("");
  const bring = async (file: File) => {
    setTrouble("");
    try {
      await sendWeather(`/api/v1/workspaces/${path.workspace_id}/sites/${path.site_id}/weather`, file);
      await refresh();
    } catch (error) {
      setTrouble(error instanceof Error ? error.message : t("theFileCouldNotBeRead"));
    }
  };
  return (
    <span className="flex flex-wrap items-center gap-x-3" data-testid="weather">
      {weather.simulated ? (
        <span className="border border-base-content px-1.5 font-semibold">{t("simulated")}</span>
      ) : null}
      <span>
        {weather.days > 0 && weather.observed_to
          ? t("weatherObservedTo", { day: day(weather.observed_to) })
          : weather.climate_known
            ? t("noWeatherDataClimateMeansAre")
            : t("noClimateGivenCoolMaritimeAssumed")}
        {weather.heard_at
          ? t("updated", {
              time: timeOfDay(weather.heard_at),
            })
          : ""}
        {weather.outlook_rain_mm !== null
          ? t("ofRainInTheNextTen", { rain: rain(weather.outlook_rain_mm, units) })
          : ""}
      </span>
      {trouble || ask.error ? <span className="font-medium text-warning">{trouble || ask.error?.message}</span> : null}
      {weather.extrapolated ? <span className="text-warning">{weather.extrapolated}</span> : null}
      {edit ? (
        <>
          <Button small disabled={ask.isPending} onClick={() => ask.mutate()}>
            <CloudSun size={16} /> {ask.isPending ? t("refreshing") : t("updateWeather")}
          </Button>
          <FileButton className="btn-sm" accept=".csv" take={bring}>
            <FileUp size={16} /> {t("dailyCsv")}
          </FileButton>
        </>
      ) : null}
    </span>
  );
}

interface DepthTableProps {
  seasons: SeasonsSheet;
  held: Float32Array;
  low: Float32Array;
  high: Float32Array;
}

/** The same as the ribbon, in numbers. */
function DepthTable({ seasons, held, low, high }: DepthTableProps) {
  const units = useUnits();
  const rows = Array.from(low, (_, at) => at).filter((at) => at % 3 === 0 && at * EVERY < held.length);
  return (
    <div className="max-h-80 overflow-y-auto">
      <Table
        className="w-full max-w-xl text-sm"
        rows={rows}
        columns={[
          [t("weekOf"), (at) => dateFormat({}).format(dateOf(seasons, at * EVERY))],
          [t("chips"), (at) => <strong>{aboutDepth(held[at * EVERY] ?? 0, units)}</strong>],
          [t("n10LessThan"), (at) => aboutDepth(low[at] ?? 0, units)],
          [t("n10MoreThan"), (at) => aboutDepth(high[at] ?? 0, units)],
        ]}
      />
    </div>
  );
}
