import { useState } from "react";
import { useParams, useSearchParams } from "react-router";
import type { LogEntryOut, PlotYear } from "@/api/schema.gen";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/log";
import { day, length, valueText, volume } from "@/ui/format";
import { aboutDepth } from "@/ui/precision";
import { Scroll } from "@/ui/Scroll";
import { namesOf, Select } from "@/ui/Select";
import { Loading, Trouble } from "@/ui/states";
import { type Column, Table } from "@/ui/Table";
import { useUnits } from "@/ui/units";
import { kindOf, useKinds, wordsOf } from "./kinds";
import { useLearning, useLog, usePhotos } from "./log";

interface Picture {
  id: string;
  on: string;
}

/** Looking back: photos from the same spot side by side, what was followed over the years, and upkeep before and since. */
export function PastPage() {
  const { workspaceId = "" } = useParams();
  const units = useUnits();
  const { sheet } = useSite();
  const log = useLog();
  const learning = useLearning();
  const kinds = useKinds();
  const photos = usePhotos();
  const [params, setParams] = useSearchParams();
  if (log.isPending || learning.isPending || photos.isPending || !sheet.data) {
    return <Loading what={t("theLog")} />;
  }
  if (log.isError) return <Trouble error={log.error} retry={() => log.refetch()} />;
  if (learning.isError) return <Trouble error={learning.error} retry={() => learning.refetch()} />;
  const { plots } = sheet.data;
  const chosen = plots.find((plot) => plot.id === params.get("plot")) ?? plots[0];
  const entries = log.data.filter((logged) => logged.plot_id === chosen?.id);
  const pictures: Picture[] = entries
    .flatMap((logged) => (logged.photos ?? []).map((id) => ({ id, on: logged.on })))
    .sort((a, b) => (a.on < b.on ? -1 : 1));
  const drawn = new Set((photos.data ?? []).filter((photo) => photo.drawn).map((photo) => photo.id));
  const { upkeep } = learning.data;
  const tasks = kindOf(kinds.data, "hours")?.fields.find(({ name }) => name === "task")?.choices;
  const hoursOf = (hours: number | null | undefined) => (hours == null ? t("notLogged") : valueText(hours, "h", units));
  return (
    <div className="mx-auto max-w-4xl space-y-6 p-4 sm:p-6" data-testid="past">
      {chosen ? (
        <Select
          className="w-auto max-w-full"
          label={t("plot")}
          value={chosen.id}
          onChange={(plot) => setParams({ plot }, { replace: true })}
          options={namesOf(plots)}
        />
      ) : null}
      <section>
        <h2 className="text-xl">{t("thenAndNow")}</h2>
        {pictures.length < 2 ? (
          <p>{t("addTwoPhotos")}</p>
        ) : (
          <ThenAndNow key={chosen?.id} pictures={pictures} workspaceId={workspaceId} drawn={drawn} />
        )}
      </section>
      <section>
        <h2 className="text-xl">{t("yearByYear")}</h2>
        <Years years={learning.data.years.filter((year) => year.plot_id === chosen?.id)} />
      </section>
      <section>
        <h2 className="text-xl">{t("followedOverTime")}</h2>
        <Followed log={entries} />
      </section>
      <section>
        <h2 className="text-xl">{t("upkeepInAMonth")}</h2>
        {upkeep.length === 0 ? (
          <p>{t("logHoursOfUpkeep")}</p>
        ) : (
          <Table
            className="mt-2"
            testId="upkeep"
            rows={upkeep}
            columns={[
              [t("task"), ({ task }) => tasks?.find(({ value }) => value === task)?.label ?? task],
              [t("beforeTheFirstLaying"), ({ before_h }) => hoursOf(before_h)],
              [t("sinceThen"), ({ since_h }) => hoursOf(since_h)],
            ]}
          />
        )}
      </section>
    </div>
  );
}

interface Props {
  pictures: Picture[];
  workspaceId: string;
  drawn: Set<string>;
}

/** Two photos of a plot over each other, with a slider between them. */
function ThenAndNow({ pictures, workspaceId, drawn }: Props) {
  const [then, setThen] = useState(pictures[0]?.id ?? "");
  const [now, setNow] = useState(pictures.at(-1)?.id ?? "");
  const [part, setPart] = useState(50);
  const address = (id: string) => `/api/v1/workspaces/${workspaceId}/photos/${id}`;
  const onOf = (id: string) => day(pictures.find((picture) => picture.id === id)?.on ?? "");
  const choice = (label: string, value: string, change: (id: string) => void) => (
    <span className="flex items-center gap-2">
      {label}
      <Select
        className="w-auto"
        label={label}
        value={value}
        onChange={change}
        options={pictures.map((picture): [string, string] => [picture.id, day(picture.on)])}
      />
    </span>
  );
  return (
    <div className="mt-2 max-w-2xl">
      <div className="mb-2 flex flex-wrap justify-between gap-2">
        {choice(t("left"), then, setThen)}
        {choice(t("right"), now, setNow)}
      </div>
      <div className="relative aspect-[4/3] w-full overflow-hidden bg-base-300">
        <img src={address(now)} alt={onOf(now)} className="absolute inset-0 h-full w-full object-cover" />
        <img
          src={address(then)}
          alt={onOf(then)}
          className="absolute inset-0 h-full w-full object-cover"
          style={{ clipPath: `inset(0 ${100 - part}% 0 0)` }}
        />
        <div className="absolute inset-y-0 w-0.5 bg-base-100" style={{ left: `${part}%` }} />
        {drawn.has(then) || drawn.has(now) ? (
          <span className="absolute right-2 bottom-2 bg-base-100 px-2 text-sm">{t("drawing")}</span>
        ) : null}
      </div>
      <input
        type="range"
        min={0}
        max={100}
        value={part}
        aria-label={t("betweenLeftAndRight")}
        className="range mt-2 w-full"
        onChange={(event) => setPart(Number(event.target.value))}
      />
    </div>
  );
}

/** What was noted of worms, moisture, trees and the rest, kind by kind, the latest first. */
function Followed({ log }: { log: LogEntryOut[] }) {
  const units = useUnits();
  const { data: kinds } = useKinds();
  const followed = (kinds?.log ?? [])
    .filter((kind) => kind.followed)
    .map((kind) => ({ kind, entries: log.filter((logged) => logged.entry.kind === kind.kind) }))
    .filter(({ entries }) => entries.length > 0);
  if (followed.length === 0) return <p>{t("nothingFollowedYet")}</p>;
  return followed.map(({ kind, entries }) => (
    <div key={kind.kind} className="mt-2">
      <h3 className="font-semibold">{kind.label}</h3>
      <ul className="divide-y divide-base-300">
        {entries.map((logged) => (
          <li key={logged.id} className="py-1">
            <strong>{day(logged.on)}</strong> {wordsOf(logged.entry, kinds, units).parts.join("; ")}
          </li>
        ))}
      </ul>
    </div>
  ));
}

/** What was logged on a plot, year against year. */
function Years({ years }: { years: PlotYear[] }) {
  const units = useUnits();
  if (years.length === 0) return <p>{t("noEntriesYet")}</p>;
  const rows: [string, (year: PlotYear) => string][] = [
    [t("laidSettled"), (year) => (year.laid_mm > 0 ? aboutDepth(year.laid_mm, units) : "–")],
    [t("lastReading"), (year) => (year.read_mm == null ? "–" : aboutDepth(year.read_mm, units))],
    [t("wormsInAHole"), (year) => (year.worms == null ? "–" : String(year.worms))],
    [t("trunkGirth"), (year) => (year.girth_m == null ? "–" : length(year.girth_m, units))],
    [t("plantsLost"), (year) => String(year.lost)],
    [t("hours"), (year) => (year.hours > 0 ? valueText(year.hours, "h", units) : "–")],
    [t("waterGiven"), (year) => (year.water_m3 > 0 ? volume(year.water_m3, units) : "–")],
  ];
  return (
    <Scroll label={t("year")}>
      <Table
        className="mt-2"
        testId="plot-years"
        rows={rows}
        columns={[
          [t("year"), ([label]) => label],
          ...years.map((year): Column<(typeof rows)[number]> => [year.year, ([, cell]) => cell(year)]),
        ]}
      />
    </Scroll>
  );
}
