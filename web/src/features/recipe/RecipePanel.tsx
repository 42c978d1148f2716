import { Columns3 } from "lucide-react";
import { Link } from "react-router";
import type { Estimate, Figure, Fix, SiteOut } from "@/api/schema.gen";
import { MaterialSelect } from "@/features/materials/MaterialSelect";
import { type Entry, targetLabel } from "@/features/survey/entry";
import { t } from "@/texts/recipe";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { Fold } from "@/ui/Fold";
import { day, PLACEHOLDER } from "@/ui/format";
import { inUnits, usualDepth } from "@/ui/precision";
import { Tick } from "@/ui/Tick";
import { useUnits } from "@/ui/units";
import { Value } from "@/ui/working";
import { Accepts } from "./Accepts";
import { AdviceList } from "./AdviceList";
import { CardboardSelect, StageSelect } from "./choices";
import { HoldBacks } from "./HoldBacks";
import { known, PracticeChoice } from "./PracticeChoice";
import { useWorkspacePractice } from "./practice";

interface RecipeProps {
  site: SiteOut;
  entry: Pick<Entry, "use" | "shape" | "wanted_mm" | "recipe" | "practice" | "holds">;
  estimate: Estimate | undefined;
  change: (next: Partial<Entry>) => void;
  errorAt: (path: string, text: string) => string | undefined;
  hint: (key: string) => string | undefined;
  workspaceId: string;
  compare: string | undefined;
}

const WORDS: Record<string, string> = {
  material: "material",
  wanted_mm: t("depth"),
  cardboard: t("cardboard"),
  compost_mm: t("compost"),
  laid_share: t("livingPart"),
};

/** What goes on this ground: material, depth, what lies beneath, and what speaks against it. */
export function RecipePanel(props: RecipeProps) {
  const { site, entry, estimate, change, errorAt, hint, workspaceId, compare } = props;
  const units = useUnits();
  const workspace = useWorkspacePractice(workspaceId);
  const { recipe: texts } = entry;
  const set = (next: Record<string, string>) => change({ recipe: { ...texts, ...next } });
  const recipeField = (key: string) => ({
    value: texts[key] ?? "",
    onChange: (text: string) => set({ [key]: text }),
    error: errorAt(`recipe.${key}`, texts[key] ?? ""),
  });
  const depthUnit = PLACEHOLDER.depth[site.units];
  const recipe = estimate?.recipe;
  const trees = recipe?.gap_m !== null && recipe?.gap_m !== undefined;
  const apply = ({ field, value }: Fix) => {
    if (field === "wanted_mm") return change({ wanted_mm: inUnits(`{${value}}`, site.units).replace(/[{}]/g, "") });
    if (field === "gap_m") return change({ shape: { ...entry.shape, gap_m: inUnits(`{${value}}`, site.units) } });
    if (field === "growing_mm") return set({ growing_mm: inUnits(`{${value}}`, site.units) });
    set({ [field]: typeof value === "boolean" ? (value ? "yes" : "no") : value });
  };
  const proposed = recipe?.proposal;
  return (
    <>
      {recipe && recipe.overridden.length > 0 ? (
        <p className="flex items-center justify-between gap-2 border-l-4 border-primary pl-3 text-sm">
          <span>
            {t("yourRecipeDiffersFromTheProposal", {
              overridden: recipe.overridden.map((field) => WORDS[field] ?? field).join(", "),
            })}
          </span>
          <Button
            small
            onClick={() =>
              change({
                wanted_mm: usualDepth(estimate?.proposed_mm ?? recipe.proposal.depth.value, site.units),
                recipe: {
                  ...texts,
                  material: "",
                  cardboard: "",
                  compost_mm: "",
                  laid_share: "",
                  growing_mm: "",
                },
              })
            }
          >
            {t("useTheProposal")}
          </Button>
        </p>
      ) : null}
      {proposed ? (
        <p className="text-sm text-base-content/75" data-testid="reasons">
          {t("proposedWithName", {
            name: proposed.material.name.toLowerCase(),
            depth: usualDepth(proposed.depth.value, units),
            reasons: proposed.reasons.join(" "),
          })}
        </p>
      ) : null}
      <MaterialSelect
        workspaceId={workspaceId}
        label={t("material")}
        value={texts.material ?? ""}
        change={(material) => set({ material })}
        empty={t("proposedWithMaterial", {
          material: proposed ? t("materialNamed", { name: proposed.material.name }) : "",
        })}
        error={errorAt("recipe.material", texts.material ?? "")}
        aside={
          <Link className="link text-sm" to={`/w/${workspaceId}/materials/guess`}>
            {t("identifyTheMaterial")}
          </Link>
        }
      />
      <div className="grid grid-cols-2 gap-3">
        <TextField
          label={targetLabel(entry.use, estimate?.depth_means ?? "settled")}
          unit={depthUnit}
          value={entry.wanted_mm}
          onChange={(wanted_mm) => change({ wanted_mm })}
          error={errorAt("wanted_mm", entry.wanted_mm)}
          hint={hint("wanted_mm")}
        />
        <StageSelect
          value={texts.chipped_on ? recipe?.layers.at(-1)?.stage : texts.stage}
          change={(stage) => set({ stage })}
          by={texts.chipped_on ? t("fromAgeAndClimate") : undefined}
        />
      </div>
      {entry.use === "vegetables" ? (
        <TextField
          label={t("depthRoundGrowingPlants", {
            means: estimate?.depth_means === "spread" ? t("loose") : t("settled"),
          })}
          unit={depthUnit}
          {...recipeField("growing_mm")}
          hint={t("inRowsWithPlants", {
            hint: hint("growing_mm") ?? "",
            usual: texts.growing_mm?.trim() ? "" : ` ${t("usual")}`,
          })}
        />
      ) : null}
      {recipe?.builds_up ? <PlantFrom on={estimate?.plant_from ?? null} /> : null}
      {estimate ? <Layers estimate={estimate} /> : null}
      <AdviceList advice={estimate?.advice ?? []} fix={apply} />
      <Fold title={t("layersBeneathGapsAndBareParts")}>
        <div className="grid grid-cols-2 gap-3 pb-2">
          <CardboardSelect
            value={texts.cardboard}
            change={(cardboard) => set({ cardboard })}
            proposed={proposed?.cardboard}
          />
          <TextField
            label={t("compostBeneath")}
            unit={depthUnit}
            {...recipeField("compost_mm")}
            hint={t("leaveEmptyForTheProposal", {
              depth: proposed?.compost_mm ? usualDepth(proposed.compost_mm, units) : t("none"),
            })}
          />
          <TextField
            label={trees ? t("biocharCollar") : t("biocharBeneath")}
            unit={depthUnit}
            {...recipeField("biochar_mm")}
            hint={t("leaveEmptyForNone")}
          />
          <TextField
            label={t("chippedOn")}
            type="date"
            {...recipeField("chipped_on")}
            hint={t("theStageThenChangesWithThe")}
          />
          {trees ? (
            <>
              <TextField
                label={t("gapAtTheTrunk")}
                unit={PLACEHOLDER.small[site.units]}
                value={entry.shape.gap_m ?? ""}
                onChange={(gap_m) => change({ shape: { ...entry.shape, gap_m } })}
                error={errorAt("shape.gap_m", entry.shape.gap_m ?? "")}
              />
              <TextField
                label={t("partMulched")}
                unit="%"
                {...recipeField("laid_share")}
                hint={t("leaveEmptyForTheProposalWithPercent", {
                  percent: Math.round((proposed?.laid_share ?? 1) * 100),
                })}
              />
            </>
          ) : null}
          <Tick
            className="col-span-2"
            checked={texts.dug_in === "yes"}
            onChange={(checked) => set({ dug_in: checked ? "yes" : "" })}
          >
            {t("dugIntoTheSoil")}
          </Tick>
          <HoldBacks entry={entry} site={site} change={change} errorAt={errorAt} />
        </div>
      </Fold>
      <Accepts workspaceId={workspaceId} accepts={estimate?.accepts} texts={texts} set={set} />
      <Fold title={t("practiceOnThisPlot")} note={Object.keys(known(entry.practice)).length || t("asTheSite")}>
        <PracticeChoice
          chosen={entry.practice}
          wider={[workspace.choices.data ?? {}, site.practice]}
          from={Object.keys(known(site.practice)).length ? t("theSite") : t("yourPractice")}
          change={(practice) => change({ practice: known(practice) })}
        />
      </Fold>
      {compare ? (
        <Link className="btn press w-full" to={compare}>
          <Columns3 size={17} /> {t("compareRecipesSideBySide")}
        </Link>
      ) : null}
    </>
  );
}

/** From when ground that is built up can be planted. */
export function PlantFrom({ on }: { on: string | null }) {
  return (
    <p className="border-l-4 border-primary pl-3" data-testid="plant-from">
      {on ? (
        <>
          {t("canBePlantedFromAbout")} <strong>{day(on)}</strong>
          {t("enoughHumusByThen")}
        </>
      ) : (
        t("thereWillNotBeEnoughHumus")
      )}
    </p>
  );
}

/** What each layer takes, from the top down. */
function Layers({ estimate }: { estimate: Estimate }) {
  const { layers, area, laid, to_target: toTarget } = estimate.plot;
  const rows: [string, Figure, string][] = [
    [t("toTheTargetToday", { name: estimate.recipe.material.name }), toTarget, "font-semibold"],
    ...[...layers].reverse().map(({ name, amount }): [string, Figure, string] => [name, amount, "font-semibold"]),
  ];
  if (laid.value < area.value - 0.005) rows.push([t("mulchedOfTheWholeArea"), laid, "text-base-content/75"]);
  return (
    <table className="w-full text-sm" data-testid="layers">
      <caption className="sr-only">{t("layersFromTheTopDownWith")}</caption>
      <tbody>
        {rows.map(([name, amount, look]) => (
          <tr key={name} className="border-b border-base-300">
            <td className="py-1">{name}</td>
            <td className={`py-1 text-right whitespace-nowrap ${look}`}>
              <Value figure={amount} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
