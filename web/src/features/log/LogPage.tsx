import { useMemo, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import type { LogEntryOut } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { useMaterials } from "@/features/materials/materials";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/log";
import { Button } from "@/ui/Button";
import { day } from "@/ui/format";
import { aboutDepth } from "@/ui/precision";
import { namesOf, Select } from "@/ui/Select";
import { Empty, Loading, Trouble } from "@/ui/states";
import { Tick } from "@/ui/Tick";
import { useUnits } from "@/ui/units";
import { useKinds } from "./kinds";
import { LogForm } from "./LogForm";
import { useLog, useLogChanges } from "./log";
import { PhotoThumb } from "./PhotoThumb";
import { Questions } from "./Questions";
import { entryWords } from "./said";

const AT_ONCE = 100;

/** What was seen and done on the plots, and a form to write more down. */
export function LogPage() {
  const { workspaceId = "", siteId = "" } = useParams();
  const units = useUnits();
  const may = useMay();
  const { sheet } = useSite();
  const log = useLog();
  const { remove } = useLogChanges();
  const [params, setParams] = useSearchParams();
  const lay = params.get("lay");
  const [all, showAll] = useState(false);
  const [sought, seek] = useState("");
  const [shownAtMost, show] = useState(AT_ONCE);
  const [correcting, correct] = useState<LogEntryOut>();
  const { data: kinds } = useKinds();
  const { data: materials } = useMaterials(workspaceId);
  const texts = useMemo(() => {
    const names = new Map((materials ?? []).map(({ material }) => [material.key, material.name.toLowerCase()]));
    return (log.data ?? []).map((logged) => ({
      logged,
      text: entryWords(logged, units, kinds, (key) => names.get(key) ?? "mulch"),
    }));
  }, [log.data, materials, units, kinds]);
  if (log.isPending || !sheet.data) return <Loading what={t("theLog")} />;
  if (log.isError) return <Trouble error={log.error} retry={() => log.refetch()} />;
  const { plots } = sheet.data;
  const chosen = plots.find((plot) => plot.id === params.get("plot")) ?? plots[0];
  if (!chosen) {
    return (
      <Empty title={t("noGroundYet")}>
        <p>{t("measureAPlotFirstItsLog")}</p>
      </Empty>
    );
  }
  const plotOf = (id: string | null) => plots.find((plot) => plot.id === id)?.name ?? t("theSite");
  const words = sought.trim().toLowerCase();
  const rows = texts
    .filter(({ logged }) => all || logged.plot_id === chosen.id)
    .filter(
      ({ logged, text }) =>
        words === "" || `${text} ${logged.note} ${logged.by} ${plotOf(logged.plot_id)}`.toLowerCase().includes(words),
    );
  return (
    <div
      className="mx-auto grid max-w-6xl grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-4 p-4 sm:p-6 lg:grid-cols-[24rem_minmax(0,1fr)]"
      data-testid="log"
    >
      <div>
        <div className="flex flex-wrap items-center gap-2">
          <Select
            className="w-auto max-w-full"
            label={t("plot")}
            value={chosen.id}
            onChange={(plot) => {
              correct(undefined);
              setParams({ plot }, { replace: true });
            }}
            options={namesOf(plots)}
          />
          <Link className="link press inline-flex items-center" to={`/field?site=${siteId}`}>
            {t("fieldMode")}
          </Link>
          <a
            className="link press inline-flex items-center"
            href={`/api/v1/workspaces/${workspaceId}/sites/${siteId}/labels.pdf`}
            download
          >
            {t("labelsForStakes")}
          </a>
        </div>
        <p className="mt-2" data-testid="log-depth">
          <span className="display text-3xl">{aboutDepth(chosen.depth.middle, units)}</span>{" "}
          {t("today80RangeTo", {
            depth: aboutDepth(chosen.depth.low, units),
            depth2: aboutDepth(chosen.depth.high, units),
          })}
        </p>
        {may.edit ? (
          <LogForm
            key={`${chosen.id}.${correcting?.id ?? ""}`}
            plot={chosen}
            close={() => {
              correct(undefined);
              setParams({ plot: chosen.id }, { replace: true });
            }}
            {...(lay === null ? {} : { laid: { depth: lay } })}
            {...(correcting ? { corrects: correcting } : {})}
          />
        ) : null}
      </div>
      <section data-testid="entries">
        <Questions plotOf={plotOf} log={log.data} />
        <div className="flex flex-wrap items-center gap-4">
          <label className="input press flex w-full max-w-xs items-center">
            <span className="sr-only">{t("searchTheLog")}</span>
            <input value={sought} onChange={(event) => seek(event.target.value)} placeholder={t("searchTheLog")} />
          </label>
          <Tick small checked={all} onChange={showAll}>
            {t("allPlots")}
          </Tick>
        </div>
        {rows.length === 0 ? <p className="mt-2">{t("noEntriesYet")}</p> : null}
        <ul className="mt-2 divide-y divide-base-300 border-y border-base-300">
          {rows.slice(0, shownAtMost).map(({ logged, text }) => (
            <li key={logged.id + (logged.entry.kind ?? "")} className="flex items-center gap-3 py-1.5">
              <span className="min-w-0 grow">
                <strong>{day(logged.on)}</strong>
                {all ? `, ${plotOf(logged.plot_id)}` : ""}
                {logged.trees ? `, ${t("trees", { first: logged.trees.first, last: logged.trees.last })}` : ""}: {text}
                {logged.note ? <span className="italic"> {logged.note}</span> : null}
                {logged.corrects ? <span className="text-sm"> ({t("corrected")})</span> : null}
                {logged.by ? <span className="text-sm text-base-content/75">, {logged.by}</span> : null}
              </span>
              {(logged.photos ?? []).map((photo) => (
                <PhotoThumb key={photo} workspaceId={workspaceId} photo={photo} words={text} />
              ))}
              {logged.in_book ? (
                <Link className="link text-sm" to={`/w/${workspaceId}/sites/${siteId}/order/piles`}>
                  {t("inThePileRecord")}
                </Link>
              ) : may.edit ? (
                <>
                  <Button
                    ghost
                    small
                    onClick={() => {
                      correct(logged);
                      if (logged.plot_id) setParams({ plot: logged.plot_id }, { replace: true });
                    }}
                  >
                    {t("correct")}
                  </Button>
                  <Button ghost small onClick={() => remove.mutate(logged.id)}>
                    {t("delete")}
                  </Button>
                </>
              ) : null}
            </li>
          ))}
        </ul>
        {rows.length > shownAtMost ? (
          <Button className="mt-2" onClick={() => show(shownAtMost + AT_ONCE)}>
            {t("showMoreOf", { count: rows.length - shownAtMost })}
          </Button>
        ) : null}
      </section>
    </div>
  );
}
