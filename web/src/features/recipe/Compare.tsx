import { Plus, X } from "lucide-react";
import { useEffect, useState } from "react";
import { useNavigate, useParams } from "react-router";
import type { Estimate, PlotOut, SiteOut } from "@/api/schema.gen";
import { useMay, useSession } from "@/features/accounts/session";
import { MaterialSelect } from "@/features/materials/MaterialSelect";
import { type Entry, entryOf, plotEntry, TARGET_DEPTH } from "@/features/survey/entry";
import { useEstimate } from "@/features/survey/estimate";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/recipe";
import { Back } from "@/ui/Back";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { useSettled } from "@/ui/fields";
import { PLACEHOLDER } from "@/ui/format";
import { about } from "@/ui/precision";
import { Sentence } from "@/ui/Sentence";
import { Loading, Trouble } from "@/ui/states";
import { Units, useUnits } from "@/ui/units";
import { Value } from "@/ui/working";
import { AdviceList } from "./AdviceList";
import { Cut } from "./Cut";
import { CardboardSelect, StageSelect } from "./choices";
import { cutOf } from "./cutOf";

interface Variant {
  key: string;
  entry: Entry;
}

/** Two or three recipes for one plot, side by side. */
export function Compare() {
  const { plotId } = useParams();
  const { data: session } = useSession();
  const { sheet } = useSite();
  if (sheet.isPending) return <Loading what={t("thePlot")} />;
  if (sheet.isError) return <Trouble error={sheet.error} retry={() => sheet.refetch()} />;
  const plot = sheet.data.plots.find((plot) => plot.id === plotId);
  if (!plot) return <p className="p-6">{t("thisPlotDoesNotExistAny")}</p>;
  return (
    <Units value={session?.user?.units ?? sheet.data.site.units}>
      <Columns site={sheet.data.site} plot={plot} />
    </Units>
  );
}

function Columns({ site, plot }: { site: SiteOut; plot: PlotOut }) {
  const { workspaceId = "" } = useParams();
  const [variants, set] = useState<Variant[]>(() => {
    const entry = entryOf(plot, site.units);
    const other =
      plot.wanted_mm > 60 ? (site.units === "us" ? "1 1/2 in" : "40 mm") : site.units === "us" ? "4 in" : "100 mm";
    return [
      { key: "kept", entry },
      { key: "other", entry: { ...entry, wanted_mm: other } },
    ];
  });
  const [estimates, setFound] = useState<Record<string, Estimate>>({});
  const upTo = Math.max(0, ...variants.map((variant) => estimates[variant.key]?.recipe.target_mm ?? 0));
  const first = estimates[variants[0]?.key ?? ""];
  const parent = `/w/${workspaceId}/sites/${site.id}/plots/${plot.id}?part=recipe`;
  const change = (key: string, next: Partial<Entry>) =>
    set(
      variants.map((variant) => (variant.key === key ? { ...variant, entry: { ...variant.entry, ...next } } : variant)),
    );
  return (
    <div className="p-4">
      <header className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <Back to={parent}>{plot.name}</Back>
        <h1 className="mr-auto text-2xl">{t("compareRecipes")}</h1>
        {variants.length < 3 ? (
          <Button onClick={() => set([...variants, { key: crypto.randomUUID(), entry: entryOf(plot, site.units) }])}>
            <Plus size={17} /> {t("thirdRecipe")}
          </Button>
        ) : null}
      </header>
      <div className={`grid gap-4 lg:grid-cols-2 ${variants.length > 2 ? "xl:grid-cols-3" : ""}`}>
        {variants.map((variant, index) => (
          <Column
            key={variant.key}
            site={site}
            plot={plot}
            title={index === 0 ? t("currentRecipe") : index === 1 ? t("secondRecipe") : t("thirdRecipe")}
            entry={variant.entry}
            than={index > 0 ? first : undefined}
            upTo_mm={upTo}
            change={(next) => change(variant.key, next)}
            hear={(estimate) => setFound((before) => ({ ...before, [variant.key]: estimate }))}
            back={parent}
            {...(variants.length > 2 && index > 0
              ? { remove: () => set(variants.filter((other) => other.key !== variant.key)) }
              : {})}
          />
        ))}
      </div>
    </div>
  );
}

interface ColumnProps {
  site: SiteOut;
  plot: PlotOut;
  title: string;
  entry: Entry;
  than: Estimate | undefined;
  upTo_mm: number;
  change: (next: Partial<Entry>) => void;
  hear: (estimate: Estimate) => void;
  back: string;
  remove?: () => void;
}

function Column({ site, plot, title, entry, than, upTo_mm, change, hear, back, remove }: ColumnProps) {
  const { workspaceId = "" } = useParams();
  const units = useUnits();
  const may = useMay();
  const navigate = useNavigate();
  const { refresh, changePlot } = useSite();
  const body = useSettled(plotEntry(entry, site.units));
  const { estimate, errors } = useEstimate({ plot_id: plot.id, plot: body }, true);
  // biome-ignore lint/correctness/useExhaustiveDependencies: told once for each answer
  useEffect(() => {
    if (estimate) hear(estimate);
  }, [estimate]);
  const { recipe } = entry;
  const set = (next: Record<string, string>) => change({ recipe: { ...recipe, ...next } });
  const more = than && estimate ? estimate.plot.to_target.value - than.plot.to_target.value : 0;
  return (
    <section aria-label={title} className="flex flex-col gap-3 border border-base-300 bg-base-100 p-3">
      <header className="flex items-center justify-between">
        <h2 className="text-xl">{title}</h2>
        {remove ? (
          <Button ghost square aria-label={t("remove", { title })} onClick={remove}>
            <X size={18} />
          </Button>
        ) : null}
      </header>
      <div className="grid grid-cols-2 gap-3">
        <MaterialSelect
          workspaceId={workspaceId}
          label={t("material")}
          value={recipe.material ?? ""}
          change={(material) => set({ material })}
          empty={t("proposedWithin")}
        />
        <TextField
          label={TARGET_DEPTH[plot.depth_means]}
          unit={PLACEHOLDER.depth[site.units]}
          value={entry.wanted_mm}
          onChange={(wanted_mm) => change({ wanted_mm })}
          error={errors.wanted_mm}
        />
        <StageSelect value={recipe.stage} change={(stage) => set({ stage })} />
        <CardboardSelect
          value={recipe.cardboard}
          change={(cardboard) => set({ cardboard })}
          proposed={estimate?.recipe.proposal.cardboard}
        />
      </div>
      {estimate ? (
        <>
          <Cut {...cutOf(estimate, entry.holds.length)} upTo_mm={upTo_mm} narrow />
          <p>
            <span className="text-sm text-base-content/75">{t("toOrderLoose")} </span>
            <Value figure={estimate.plot.to_target} className="display text-2xl" />
            {than ? (
              <span className="ml-2 text-sm font-semibold" data-testid="difference">
                {Math.abs(more) < 0.0005
                  ? t("theSame")
                  : t("thanTheCurrentRecipe", {
                      volume: about(Math.abs(more), units),
                      comparison: more > 0 ? t("more") : t("less"),
                    })}
              </span>
            ) : null}
          </p>
          <AdviceList advice={estimate.advice} />
        </>
      ) : null}
      <Sentence text={changePlot.error?.message} />
      <Button
        shown={may.edit && than !== undefined}
        primary
        className="mt-auto"
        disabled={changePlot.isPending}
        onClick={() =>
          changePlot.mutate(
            { id: plot.id, version: plot.version, entry: body },
            { onSuccess: () => refresh().then(() => navigate(back)) },
          )
        }
      >
        {t("useThisRecipe")}
      </Button>
    </section>
  );
}
