import { Plus, X } from "lucide-react";
import type { UnitSystem } from "@/api/schema.gen";
import { t } from "@/texts/survey";
import { Button } from "@/ui/Button";
import { SelectField, TextField } from "@/ui/Field";
import { Fold } from "@/ui/Fold";
import { PLACEHOLDER } from "@/ui/format";
import type { CutEntry, Entry } from "./entry";
import { ShapeFields } from "./ShapeFields";
import { CUT_KINDS, SHAPES } from "./shapes";

interface Props {
  entry: Pick<Entry, "cuts" | "slope" | "found" | "readings_mm" | "lain_months">;
  units: UnitSystem;
  change: (next: Partial<Entry>) => void;
  errorAt: (path: string, text: string) => string | undefined;
}

/** What most plots do without: cut-outs, slope, and what was found. */
export function Particulars(props: Props) {
  const { entry } = props;
  const noted = Object.values(entry.found).filter((text) => text.trim()).length;
  return (
    <div className="divide-y divide-base-300 border-y border-base-300">
      <Fold className="py-2" title={t("cutOuts")} note={entry.cuts.length ? String(entry.cuts.length) : t("none")}>
        <div className="space-y-3 pb-3">
          <CutOuts {...props} />
        </div>
      </Fold>
      <Fold className="py-2" title={t("slope")} note={entry.slope.angle_deg?.trim() || t("levelGround")}>
        <div className="space-y-3 pb-3">
          <SlopeFields {...props} />
        </div>
      </Fold>
      <Fold className="py-2" title={t("siteConditions")} note={noted ? t("noted", { noted }) : t("noneNoted")}>
        <div className="space-y-3 pb-3">
          <FoundFields {...props} />
        </div>
      </Fold>
    </div>
  );
}

function CutOuts({ entry, units, change, errorAt }: Props) {
  const set = (key: string, next: Partial<CutEntry>) =>
    change({ cuts: entry.cuts.map((cut) => (cut.key === key ? { ...cut, ...next } : cut)) });
  const add = (kind: CutEntry["kind"]) =>
    change({
      cuts: [
        ...entry.cuts,
        { key: crypto.randomUUID(), kind, fields: kind === "plants" ? { plants: "", gap_m: "" } : {} },
      ],
    });
  return (
    <>
      {entry.cuts.map((cut, index) => {
        const fields = (next: Record<string, string>) => set(cut.key, { fields: { ...cut.fields, ...next } });
        const path = `cut_outs.${index}`;
        const field = (name: string, at = name) => ({
          value: cut.fields[name] ?? "",
          onChange: (text: string) => fields({ [name]: text }),
          error: errorAt(`${path}.${at}`, cut.fields[name] ?? ""),
        });
        return (
          <div key={cut.key} className="space-y-2 border-l-4 border-base-300 pl-3">
            <p className="flex items-center justify-between text-sm font-semibold">
              {cut.kind === "plants" ? t("plantsOrStones") : SHAPES[cut.kind].label}
              <Button
                ghost
                square
                aria-label={t("removeCutOut", { number: index + 1 })}
                onClick={() => change({ cuts: entry.cuts.filter((other) => other.key !== cut.key) })}
              >
                <X size={18} />
              </Button>
            </p>
            {cut.kind === "plants" ? (
              <div className="grid grid-cols-2 gap-3">
                <TextField label={t("number")} {...field("plants")} />
                <TextField label={t("gapRoundEach")} unit={PLACEHOLDER.small[units]} {...field("gap_m")} />
              </div>
            ) : (
              <>
                <ShapeFields
                  kind={cut.kind}
                  units={units}
                  fields={cut.fields}
                  change={fields}
                  errorAt={(key, text) => errorAt(`${path}.shape.${key}`, text)}
                  hintFor={() => undefined}
                />
                <div className="grid grid-cols-2 gap-3">
                  <TextField
                    label={t("eastOfTheMiddle")}
                    unit={PLACEHOLDER.length[units]}
                    {...field("x_m", "place.x_m")}
                    hint={t("leaveEmptyIfThePositionDoes")}
                  />
                  <TextField
                    label={t("northOfTheMiddle")}
                    unit={PLACEHOLDER.length[units]}
                    {...field("y_m", "place.y_m")}
                  />
                </div>
              </>
            )}
          </div>
        );
      })}
      <div className="flex flex-wrap gap-2">
        {(["plants", ...CUT_KINDS] as const).map((kind) => (
          <Button key={kind} onClick={() => add(kind)}>
            <Plus size={16} /> {kind === "plants" ? t("plants") : SHAPES[kind].label}
          </Button>
        ))}
      </div>
    </>
  );
}

function SlopeFields({ entry, change, errorAt }: Props) {
  return (
    <div className="grid grid-cols-2 gap-3">
      <TextField
        label={t("slope")}
        value={entry.slope.angle_deg ?? ""}
        onChange={(angle_deg) => change({ slope: { ...entry.slope, angle_deg } })}
        error={errorAt("slope.angle_deg", entry.slope.angle_deg ?? "")}
        hint={t("n159Or14")}
      />
      <SelectField
        label={t("tapeWasHeld")}
        value={entry.slope.taped ?? "along"}
        onChange={(taped) => change({ slope: { ...entry.slope, taped } })}
        options={{ along: t("alongTheSlope"), plan: t("levelOrTakenFromAPlan") }}
      />
    </div>
  );
}

type Found = {
  key: string;
  label: string;
  decides: string;
  choices?: Record<string, string>;
  bare?: keyof typeof PLACEHOLDER;
};

const YES_NO = { yes: t("yes"), no: t("no") };
const FOUND: Found[] = [
  {
    key: "cover",
    label: t("existingCover"),
    decides: t("forPreparationCardboardAndLeastDepth"),
    choices: {
      bare: t("nothingBare"),
      annual_weeds: t("annualWeeds"),
      running_grass: t("runningGrass"),
      lawn: t("lawn"),
      old_fabric: t("oldFabric"),
      old_mulch: t("oldMulch"),
    },
  },
  {
    key: "soil",
    label: t("soil"),
    decides: t("forNitrogenSupplyAndBuildingUp"),
    choices: { sand: t("sand"), loam: t("loam"), clay: t("clay"), dead: t("deadRubbleSubsoil") },
  },
  { key: "build_up", label: t("buildUpBeforePlanting"), decides: t("poorGroundGetsADeepFirst"), choices: YES_NO },
  { key: "compacted", label: t("compacted"), decides: t("forLooseningBeforePlanting"), choices: YES_NO },
  {
    key: "sun",
    label: t("sun"),
    decides: t("forSoakingBeforeLaying"),
    choices: { full: t("full"), part: t("part"), shade: t("shade") },
  },
  { key: "irrigated", label: t("irrigated"), decides: t("countsAsRainForDecay"), choices: YES_NO },
  { key: "pets", label: t("dogsOrOtherPets"), decides: t("excludesCocoaShell"), choices: YES_NO },
  { key: "children", label: t("children"), decides: t("forCautionsAboutLoads"), choices: YES_NO },
  { key: "guarded", label: t("trunkGuardsInPlace"), decides: t("forTheListOfGuards"), choices: YES_NO },
  { key: "organic_matter", label: t("organicMatter"), decides: t("ofTheSoilUsedInsteadOf") },
  { key: "soil_gives_n", label: t("nitrogenSupplyBySoilTestG"), decides: t("usedInsteadOfOrganicMatterAnd") },
  { key: "growth_m", label: t("canopyGrowthPerYear"), decides: t("forTheGrowthOfRings"), bare: "small" },
  {
    key: "to_building_m",
    label: t("distanceToTheNextBuilding"),
    decides: t("forFireAndTermiteCautions"),
    bare: "length",
  },
  { key: "to_water_m", label: t("distanceToTheNextWater"), decides: t("forLimitsOnNitrogen"), bare: "length" },
  { key: "way_width_m", label: t("narrowestAccess"), decides: t("limitsWhichBarrowOrCartFits"), bare: "small" },
  { key: "walk_m", label: t("walkingDistanceFromTheTip"), decides: t("forHoursOfWork"), bare: "length" },
  { key: "climb_m", label: t("climbFromTheTip"), decides: t("forHoursOfWork"), bare: "small" },
];

function FoundFields({ entry, units, change, errorAt }: Props) {
  const set = (key: string, value: string) => change({ found: { ...entry.found, [key]: value } });
  return (
    <>
      <TextField
        label={t("depthReadings")}
        unit={PLACEHOLDER.depth[units]}
        value={entry.readings_mm}
        onChange={(readings_mm) => change({ readings_mm })}
        error={errorAt("readings_mm", entry.readings_mm)}
        hint={t("atSeveralPoints406550")}
      />
      <TextField
        label={t("ageMonths")}
        value={entry.lain_months}
        onChange={(lain_months) => change({ lain_months })}
        error={errorAt("lain_months", entry.lain_months)}
        hint={t("anEstimateForTheForecastOf")}
      />
      <div className="grid grid-cols-2 gap-3">
        {FOUND.map(({ key, label, decides, choices, bare }) =>
          choices ? (
            <SelectField
              key={key}
              label={label}
              value={entry.found[key] ?? ""}
              onChange={(value) => set(key, value)}
              options={[["", t("notSpecified")], ...Object.entries(choices)]}
              hint={decides}
            />
          ) : (
            <TextField
              key={key}
              label={label}
              {...(bare ? { unit: PLACEHOLDER[bare][units] } : {})}
              value={entry.found[key] ?? ""}
              onChange={(value) => set(key, value)}
              error={errorAt(`found.${key}`, entry.found[key] ?? "")}
              hint={decides}
            />
          ),
        )}
      </div>
    </>
  );
}
