import { useEffect, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import type { Estimate, PlotOut, SiteOut } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { Cut } from "@/features/recipe/Cut";
import { cutOf } from "@/features/recipe/cutOf";
import { PlantFrom, RecipePanel } from "@/features/recipe/RecipePanel";
import { PlotPlan } from "@/features/schedule/PlotPlan";
import { t } from "@/texts/survey";
import { Button } from "@/ui/Button";
import { DeferredMount } from "@/ui/DeferredMount";
import { SelectField, TextField } from "@/ui/Field";
import { FormPart, useFields, useSettledTexts } from "@/ui/fields";
import { day, PLACEHOLDER } from "@/ui/format";
import { usualDepth } from "@/ui/precision";
import { Sentence } from "@/ui/Sentence";
import { Tabs } from "@/ui/Tabs";
import {
  type Entry,
  emptyEntry,
  entryOf,
  FIRST_PLOT,
  measured,
  type Purpose,
  plotEntry,
  targetLabel,
  understood,
} from "./entry";
import { useEstimate } from "./estimate";
import { Particulars } from "./Particulars";
import { PlotFigures } from "./PlotFigures";
import { ShapeChoice } from "./ShapeChoice";
import { ShapeFields } from "./ShapeFields";
import { Sketch } from "./Sketch";
import { useSite, useUseOptions, useUsualDepths } from "./site";

/** What the site would need with the plot that is being typed; a new one is not among the kept plots. */
export interface Typed {
  id: string;
  isNew: boolean;
  estimate: Estimate | undefined;
  /** The same for a kept plot that is only looked at. */
  all: Estimate | undefined;
  holds: number;
}

interface Props {
  site: SiteOut;
  plot: PlotOut | undefined;
  /** How many plots the site has. */
  count: number;
  onEstimate: (typed: Typed) => void;
  back: string;
}

/** One plot: measured, computed while it is typed, saved. */
export function PlotForm({ site, plot, count, onEstimate, back }: Props) {
  const { path, refresh, addPlot, changePlot, deletePlot } = useSite();
  const navigate = useNavigate();
  const uses = useUseOptions();
  const may = useMay();
  const { data: depths } = useUsualDepths();
  const [asked, ask] = useSearchParams();
  const purpose = asked.get("for");
  const fresh = (more: number) =>
    emptyEntry(site.units, count + more, purpose !== null && purpose in FIRST_PLOT ? (purpose as Purpose) : "garden");
  const [start] = useState(() => (plot ? entryOf(plot, site.units) : fresh(1)));
  const saving = plot ? changePlot : addPlot;
  const form = useFields<Entry>({
    start,
    draft: `${path.workspace_id}.${site.id}.${plot?.id ?? "new"}`,
    problem: saving.error,
  });
  const { id, use } = form.values;
  const [settled, rests] = useSettledTexts(form);
  const [tried, setTried] = useState(false);
  const part = asked.get("part") === "recipe" ? "recipe" : "ground";
  const [focus, setFocus] = useState<string>();
  const [depthTouched, setDepthTouched] = useState(Boolean(plot) || form.changed);
  const body = plotEntry({ ...settled, name: settled.name || t("unnamed") }, site.units);
  const {
    estimate,
    errors: estimateErrors,
    current: answered,
  } = useEstimate({ plot_id: plot?.id ?? null, plot: body }, measured(settled));
  const current = rests && answered;
  const typing = form.changed || !plot;
  const isNew = !plot;
  const holds = settled.holds.length;
  useEffect(
    () => onEstimate({ id, isNew, estimate: typing ? estimate : undefined, all: estimate, holds }),
    [id, isNew, estimate, typing, holds, onEstimate],
  );

  const errorAt = (key: string, text: string) => {
    const sentence = estimateErrors[key] ?? form.errorAt(key);
    return sentence && (tried || text.trim() !== "") ? sentence : undefined;
  };
  const depth = depths?.find((usual) => usual.use === use);
  const proposed = depth && usualDepth(depth.proposed_mm, site.units);
  const { change } = form;
  // The usual depth of a use stands there until another is typed, also where it is known only after the use was chosen.
  useEffect(() => {
    if (!depthTouched && proposed !== undefined && proposed !== form.texts().wanted_mm) change({ wanted_mm: proposed });
  }, [depthTouched, proposed, change, form.texts]);
  const pick = (field: string) => {
    const [key = ""] = field.split(".");
    setFocus(field);
    document.querySelector<HTMLElement>(`form [name="${key}"]`)?.focus();
  };
  const copy = () => {
    const copyId = crypto.randomUUID();
    const entry = form.texts();
    const name = t("copy", { name: entry.name.slice(0, 70) });
    addPlot.mutate(
      { ...plotEntry({ ...entry, name }, site.units), id: copyId },
      { onSuccess: () => refresh().then(() => navigate(`${back}/plots/${copyId}`)) },
    );
  };
  const save = (another: boolean) => {
    setTried(true);
    const entry = plotEntry(form.texts(), site.units);
    const close = async () => {
      form.clear(plot ? undefined : fresh(another ? 2 : 1));
      setTried(false);
      setDepthTouched(Boolean(plot));
      if (another) return saving.reset();
      await refresh();
      // Whoever went elsewhere in the meantime stays there.
      if (location.pathname.startsWith(`${back}/plots/`)) navigate(plot ? back : `${back}/plots/${id}`);
    };
    // Not as a callback of `mutate`: that one is dropped when the form is drawn anew while the answer is under way.
    const saved = plot
      ? changePlot.mutateAsync({ id: plot.id, version: plot.version, entry })
      : addPlot.mutateAsync({ ...entry, id });
    saved.then(close, () => undefined);
  };
  const gravest = estimate?.advice.some((advice) => advice.severity === "stop" || advice.severity === "act");
  const usual =
    depth && depth.most_mm > 0
      ? t("usuallyTo", {
          least: usualDepth(depth.least_mm, site.units).replace(/ \D+$/, ""),
          most: usualDepth(depth.most_mm, site.units),
          means: depth.means === "spread" ? ` ${t("looseWithin")}` : "",
        })
      : undefined;
  const hint = (key: string, otherwise?: string) =>
    (current && estimate && understood(key, estimate, site.units)) || otherwise;

  const measuredOn = plot?.measured_on && !form.changed ? t("measured", { day: day(plot.measured_on) }) : undefined;

  return (
    <form noValidate className="flex grow flex-col lg:h-full" onSubmit={form.onSubmit(() => save(false))}>
      <fieldset disabled={!may.edit} className="min-h-0 min-w-0 grow space-y-3 overflow-y-auto p-4 pt-3">
        <Tabs
          label={t("plot")}
          chosen={part}
          choose={(tab) => ask(tab === "recipe" ? { part: "recipe" } : {}, { replace: true })}
          tabs={[
            {
              key: "ground",
              kept: true,
              label: t("ground"),
              panel: (
                <>
                  {plot && !form.changed ? <PlotPlan plot={plot} /> : null}
                  {plot?.builds_up && !form.changed ? <PlantFrom on={plot.plant_from} /> : null}
                  <div className="grid gap-3 lg:grid-cols-2">
                    <TextField
                      label={t("plotName")}
                      {...form.field("name")}
                      error={tried ? (settled.name.trim() ? form.errorAt("name") : t("pleaseTypeAName")) : undefined}
                      autoFocus={!plot}
                      onFocus={(event) => (plot ? undefined : event.currentTarget.select())}
                    />
                    <SelectField label={t("use")} value={use} onChange={(use) => change({ use })} options={uses} />
                  </div>
                  <FormPart form={form} names={["kind", "shape"]}>
                    {({ kind, shape }) => (
                      <>
                        <ShapeChoice value={kind} change={(next) => form.change({ kind: next })} />
                        <ShapeFields
                          kind={kind}
                          units={site.units}
                          fields={shape}
                          change={(next) => form.change({ shape: { ...form.texts().shape, ...next } })}
                          errorAt={(key, text) => errorAt(`shape.${key}`, text)}
                          hintFor={(key) => hint(key)}
                          onFocus={setFocus}
                        />
                      </>
                    )}
                  </FormPart>
                  {estimate ? (
                    <Sketch outline={estimate.outline} wanted_mm={estimate.wanted_mm} focus={focus} onPick={pick} />
                  ) : null}
                  <div className="grid grid-cols-2 gap-3">
                    <TextField
                      label={settled.readings_mm.trim() ? t("existingDepthFromReadings") : t("existingDepthSettled")}
                      disabled={Boolean(settled.readings_mm.trim())}
                      unit={PLACEHOLDER.depth[site.units]}
                      {...form.field("existing_mm")}
                      error={errorAt("existing_mm", settled.existing_mm)}
                      hint={[hint("existing_mm"), measuredOn].filter(Boolean).join("; ")}
                    />
                    <TextField
                      label={targetLabel(use, estimate?.depth_means ?? "settled")}
                      unit={PLACEHOLDER.depth[site.units]}
                      {...form.field("wanted_mm")}
                      onChange={(wanted_mm) => {
                        setDepthTouched(true);
                        form.change({ wanted_mm });
                      }}
                      error={errorAt("wanted_mm", settled.wanted_mm)}
                      hint={[hint("wanted_mm"), usual].filter(Boolean).join("; ")}
                    />
                  </div>
                  <FormPart form={form} names={["cuts", "slope", "found", "readings_mm", "lain_months"]}>
                    {(entry) => <Particulars entry={entry} units={site.units} change={form.change} errorAt={errorAt} />}
                  </FormPart>
                  {use === "play" ? (
                    <p className="border-l-4 border-warning pl-3 text-sm">{t("depthUnderPlayEquipmentDependsOn")}</p>
                  ) : null}
                </>
              ),
            },
            {
              key: "recipe",
              label: (
                <>
                  {t("recipe")}
                  {gravest ? <span className="badge badge-sm badge-warning ml-2">!</span> : null}
                </>
              ),
              panel: (
                <DeferredMount>
                  {estimate ? (
                    <div className="lg:hidden">
                      <Cut {...cutOf(estimate, holds)} narrow />
                    </div>
                  ) : null}
                  <FormPart form={form} names={["use", "shape", "wanted_mm", "recipe", "practice", "holds"]}>
                    {(entry) => (
                      <RecipePanel
                        site={site}
                        entry={entry}
                        estimate={estimate}
                        change={(next) => {
                          setDepthTouched(true);
                          form.change(next);
                        }}
                        errorAt={errorAt}
                        hint={hint}
                        workspaceId={path.workspace_id}
                        compare={plot ? `${back}/plots/${plot.id}/compare` : undefined}
                      />
                    )}
                  </FormPart>
                </DeferredMount>
              ),
            },
          ]}
        />
        <Sentence text={form.sentence} />
      </fieldset>
      <div className="sticky bottom-0 z-10 bg-base-100">
        <PlotFigures estimate={estimate} current={current} brief={part === "recipe"} />
        {may.edit ? (
          <div className="flex flex-wrap gap-2 border-t border-base-300 bg-base-100 p-3">
            <Button
              type="submit"
              primary
              className="grow"
              disabled={saving.isPending || (Boolean(plot) && !form.changed)}
            >
              {saving.isPending ? t("saving") : plot ? t("save") : t("savePlot")}
            </Button>
            {plot ? (
              form.changed ? (
                <Button onClick={() => form.clear(entryOf(plot, site.units))}>{t("discardChanges")}</Button>
              ) : (
                <>
                  <Button disabled={addPlot.isPending} onClick={copy}>
                    {t("copyHeading")}
                  </Button>
                  <Button
                    ghost
                    className="text-error"
                    onClick={() =>
                      deletePlot.mutate({ id: plot.id, name: plot.name }, { onSuccess: () => navigate(back) })
                    }
                  >
                    {t("delete")}
                  </Button>
                </>
              )
            ) : (
              <Button disabled={saving.isPending} onClick={() => save(true)}>
                {t("saveAndAddNext")}
              </Button>
            )}
          </div>
        ) : null}
      </div>
    </form>
  );
}
