import { useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import type { LogEntryOut } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { useMaterials } from "@/features/materials/materials";
import { PageHead } from "@/features/site/PageHead";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/log";
import { day, depth, onGround } from "@/ui/format";
import { about, aboutDepth } from "@/ui/precision";
import { Empty, Loading, Trouble } from "@/ui/states";
import { useUnits } from "@/ui/units";
import { LogForm } from "./LogForm";
import { depthOf, useLog, useLogChanges } from "./log";

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
  const { data: materials } = useMaterials(workspaceId);
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
  const shown = log.data.filter((logged) => all || logged.plot_id === chosen.id);
  const plotOf = (id: string) => plots.find((plot) => plot.id === id)?.name ?? "";
  const nameOf = (key: string) =>
    materials?.find(({ material }) => material.key === key)?.material.name.toLowerCase() ?? "mulch";
  const said = (logged: LogEntryOut) => {
    const { entry } = logged;
    const mm = depthOf(logged);
    switch (entry.kind) {
      case "measured":
        return t("measured", { depth: depth(mm ?? 0, units) });
      case "laid":
        return t("laidOf", {
          amount: mm !== null ? depth(mm, units) : entry.volume_m3 ? about(entry.volume_m3, units) : "",
          material: nameOf(entry.material),
          source: logged.pile_id ? t("fromAPile") : "",
        });
      case "removed":
        return t("dugOut", {
          chips:
            (entry.chips_mm ?? 0) > 0
              ? `${t("removedOfChips", { depth: depth(entry.chips_mm ?? 0, units) })} `
              : "",
          humus:
            entry.humus_mm == null ? t("allHumus") : t("ofHumus", { depth: depth(entry.humus_mm, units) }),
        });
      case "dug_in":
        return t("dugInTheExistingMulch");
      case "fed":
        return t("gaveOf", {
          grams: onGround(entry.grams_m2, units),
          product: entry.product ?? t("aDressing"),
        });
      case "spread":
        return t("spreadOf", { depth: depth(entry.depth_mm, units), material: nameOf(entry.material) });
      case "grown":
        return entry.crop === "legume" ? t("cutALegume") : t("cutACoverCrop");
      default:
        return t("weedsAreComingThroughWithin");
    }
  };
  return (
    <div
      className="mx-auto grid max-w-6xl grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-4 p-4 sm:p-6 lg:grid-cols-[24rem_minmax(0,1fr)]"
      data-testid="log"
    >
      <div className="lg:col-span-2">
        <PageHead title={t("log")}>
          <select
            className="select press w-auto"
            aria-label={t("plot")}
            value={chosen.id}
            onChange={(event) => setParams({ plot: event.target.value }, { replace: true })}
          >
            {plots.map((plot) => (
              <option key={plot.id} value={plot.id}>
                {plot.name}
              </option>
            ))}
          </select>
        </PageHead>
      </div>
      <div>
        <p className="mt-2" data-testid="log-depth">
          <span className="display text-3xl">{aboutDepth(chosen.depth.middle, units)}</span>{" "}
          {t("today80RangeTo", {
            depth: aboutDepth(chosen.depth.low, units),
            depth2: aboutDepth(chosen.depth.high, units),
          })}
        </p>
        {may.edit ? (
          <LogForm
            key={chosen.id}
            plot={chosen}
            close={() => setParams({ plot: chosen.id }, { replace: true })}
            {...(lay === null ? {} : { laid: { depth: lay } })}
          />
        ) : null}
      </div>
      <section data-testid="entries">
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={all}
            onChange={(event) => showAll(event.target.checked)}
          />
          {t("allPlots")}
        </label>
        {shown.length === 0 ? <p className="mt-2">{t("noEntriesYet")}</p> : null}
        <ul className="mt-2 divide-y divide-base-300 border-y border-base-300">
          {shown.map((logged) => (
            <li key={logged.id + (logged.entry.kind ?? "")} className="flex items-center gap-3 py-1.5">
              <span className="min-w-0 grow">
                <strong>{day(logged.on)}</strong>
                {all ? `, ${plotOf(logged.plot_id)}` : ""}: {said(logged)}
                {logged.by ? <span className="text-sm text-base-content/75">, {logged.by}</span> : null}
              </span>
              {logged.pile_id ? (
                <Link className="link text-sm" to={`/w/${workspaceId}/sites/${siteId}/order/piles`}>
                  {t("inThePileRecord")}
                </Link>
              ) : may.edit ? (
                <button
                  type="button"
                  className="btn btn-ghost btn-sm press"
                  onClick={() => remove.mutate(logged.id)}
                >
                  {t("delete")}
                </button>
              ) : null}
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
