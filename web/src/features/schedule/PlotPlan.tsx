import { useNavigate, useParams } from "react-router";
import { useChange } from "@/api/change";
import { useRequests } from "@/api/requests";
import type { DecisionEntry, PlotOut } from "@/api/schema.gen";
import { useStale } from "@/api/stale";
import { useMay } from "@/features/accounts/session";
import { plotEntry, entryOf as plotTexts } from "@/features/survey/entry";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/schedule";
import { Button } from "@/ui/Button";
import { day, month } from "@/ui/format";
import { about, aboutDepth, typedDepth } from "@/ui/precision";
import { useUnits } from "@/ui/units";

/** What the plan says of a plot, and what can be decided about it. */
export function PlotPlan({ plot }: { plot: PlotOut }) {
  const { workspaceId = "", siteId = "" } = useParams();
  const { siteApi } = useRequests();
  const units = useUnits();
  const may = useMay();
  const refresh = useStale("plan");
  const { sheet, changePlot } = useSite();
  const navigate = useNavigate();
  const decide = useChange(
    (body: DecisionEntry) => siteApi.put("/plots/{plot_id}/decision", { path: { plot_id: plot.id }, body }),
    refresh,
  );
  const now = sheet.data?.now;
  const site = sheet.data?.site;
  if (!now || !site) return null;
  const { laying, gap, decision } = plot;
  const spread = plot.depth_means === "spread";
  const isDue = laying?.season_key === now.key;
  const today = sheet.data?.today ?? "";
  const laid = new URLSearchParams({
    plot: plot.id,
    lay: laying ? typedDepth(spread ? laying.spread_mm : laying.settled_mm, site.units) : "",
  });
  const setDecision = (kind: "lay" | "skip" | null, on: string | null = null) =>
    decide.mutate({ season: now.key, decision: kind ? { kind, on } : null });
  const reshape = (change: { wanted_mm?: string; season?: string }) => {
    const texts = plotTexts(plot, site.units);
    const practice = change.season ? { ...texts.practice, season: change.season } : texts.practice;
    const next = { ...texts, ...(change.wanted_mm ? { wanted_mm: change.wanted_mm } : {}), practice };
    changePlot.mutate({ id: plot.id, version: plot.version, entry: plotEntry(next, site.units) });
  };
  return (
    <section className="space-y-1.5 border-l-4 border-primary pl-3" data-testid="plot-plan">
      <p>
        <strong>{aboutDepth(plot.depth.middle, units)}</strong>{" "}
        {t("todayWithLeast", {
          least: plot.least_mm > 0 ? t("leastClause", { depth: aboutDepth(plot.least_mm, units) }) : "",
        })}{" "}
        {laying ? (
          <>
            <strong>
              {t("lay", {
                depth: aboutDepth(spread ? laying.spread_mm : laying.settled_mm, units),
                when: isDue
                  ? t("by", { day: day(now.until) })
                  : t("inWithSeason", { season: laying.season.toLowerCase() }),
              })}
            </strong>{" "}
            (
            {spread
              ? t("looseSettled", { depth: aboutDepth(laying.settled_mm, units) })
              : t("settledLoose", { depth: aboutDepth(laying.spread_mm, units) })}
            , {about(laying.ordered_m3, units)}). {laying.reason}
            {laying.lasts_until ? ` ${t("lastsUntil", { month: month(laying.lasts_until) })}` : ""}
          </>
        ) : (
          t("nothingPlanned")
        )}
      </p>
      {gap ? (
        <p className="text-sm" data-testid="gap">
          {t("evenTheTargetDepthDoesNot", {
            depth: aboutDepth(plot.least_mm, units),
            day: day(gap.from),
            day2: day(gap.until),
          })}
          {may.edit ? (
            <span className="mt-1 flex flex-wrap gap-2">
              {gap.second_season ? (
                <Act label={t("layInBothSeasons")} press={() => reshape({ season: "both_thin" })} />
              ) : null}
              {gap.deeper_mm ? (
                <Act
                  label={t("targetDepthSettled", { depth: aboutDepth(gap.deeper_mm, units) })}
                  press={() =>
                    reshape({
                      wanted_mm: typedDepth((spread ? gap.deeper_spread_mm : gap.deeper_mm) ?? 0, site.units),
                    })
                  }
                />
              ) : null}
            </span>
          ) : null}
        </p>
      ) : null}
      {may.edit ? (
        <div className="flex flex-wrap gap-2">
          <Act label={t("logAsLaid")} press={() => navigate(`/w/${workspaceId}/sites/${siteId}/log?${laid}`)} />
          {isDue && laying && laying.on > today ? (
            <Act label={t("layToday")} press={() => setDecision("lay", today)} />
          ) : null}
          {!isDue && plot.wanted_mm > 0 && decision?.kind !== "skip" ? (
            <Act label={t("layInAnyway", { season: now.season.toLowerCase() })} press={() => setDecision("lay")} />
          ) : null}
          {isDue && decision === null ? <Act label={t("skipThisSeason")} press={() => setDecision("skip")} /> : null}
          {decision ? <Act label={t("undoDecision")} press={() => setDecision(null)} /> : null}
        </div>
      ) : null}
      {decision ? (
        <p className="text-sm text-base-content/75" data-testid="decision">
          {decision.kind === "skip"
            ? t("skippedIn", { season: now.season.toLowerCase() })
            : t("decidedLay", {
                when: decision.on
                  ? t("on", { day: day(decision.on) })
                  : t("inWithSeason", { season: now.season.toLowerCase() }),
              })}
        </p>
      ) : null}
    </section>
  );
}

function Act({ label, press }: { label: string; press: () => void }) {
  return (
    <Button small onClick={press}>
      {label}
    </Button>
  );
}
