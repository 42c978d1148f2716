import { Plus, X } from "lucide-react";
import type { UnitSystem } from "@/api/schema.gen";
import { t } from "@/texts/survey";
import { SelectField, TextField } from "@/ui/Field";
import { PLACEHOLDER } from "@/ui/format";
import type { CutEntry, Entry } from "./entry";
import { ShapeFields } from "./ShapeFields";
import { CUT_KINDS, SHAPES } from "./shapes";

interface Props {
  entry: Entry;
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
      <Section title={t("cutOuts")} said={entry.cuts.length ? String(entry.cuts.length) : "none"}>
        <CutOuts {...props} />
      </Section>
      <Section title={t("slope")} said={entry.slope.angle_deg?.trim() || "level"}>
        <SlopeFields {...props} />
      </Section>
      <Section title={t("whatWasFound")} said={noted ? t("noted", { noted }) : t("nothingNoted")}>
        <FoundFields {...props} />
      </Section>
    </div>
  );
}

function Section({ title, said, children }: { title: string; said: string; children: React.ReactNode }) {
  return (
    <details className="group">
      <summary className="press flex cursor-pointer items-center justify-between gap-3 py-2 font-semibold">
        {title}
        <span className="text-sm font-normal text-base-content/75">{said}</span>
      </summary>
      <div className="space-y-3 pb-3">{children}</div>
    </details>
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
        return (
          <div key={cut.key} className="space-y-2 border-l-4 border-base-300 pl-3">
            <p className="flex items-center justify-between text-sm font-semibold">
              {cut.kind === "plants" ? t("plantsOrStones") : SHAPES[cut.kind].label}
              <button
                type="button"
                className="btn btn-ghost btn-square press"
                aria-label={`Remove cut-out ${index + 1}`}
                onClick={() => change({ cuts: entry.cuts.filter((other) => other.key !== cut.key) })}
              >
                <X size={18} />
              </button>
            </p>
            {cut.kind === "plants" ? (
              <div className="grid grid-cols-2 gap-3">
                <TextField
                  label={t("howMany")}
                  value={cut.fields.plants ?? ""}
                  onChange={(plants) => fields({ plants })}
                  error={errorAt(`${path}.plants`, cut.fields.plants ?? "")}
                />
                <TextField
                  label={t("gapRoundEach")}
                  unit={PLACEHOLDER.small[units]}
                  value={cut.fields.gap_m ?? ""}
                  onChange={(gap_m) => fields({ gap_m })}
                  error={errorAt(`${path}.gap_m`, cut.fields.gap_m ?? "")}
                />
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
                    label={t("rightOfTheMiddle")}
                    unit={PLACEHOLDER.length[units]}
                    value={cut.fields.x_m ?? ""}
                    onChange={(x_m) => fields({ x_m })}
                    error={errorAt(`${path}.place.x_m`, cut.fields.x_m ?? "")}
                    hint={t("emptySomewhereInside")}
                  />
                  <TextField
                    label={t("aboveTheMiddle")}
                    unit={PLACEHOLDER.length[units]}
                    value={cut.fields.y_m ?? ""}
                    onChange={(y_m) => fields({ y_m })}
                    error={errorAt(`${path}.place.y_m`, cut.fields.y_m ?? "")}
                  />
                </div>
              </>
            )}
          </div>
        );
      })}
      <div className="flex flex-wrap gap-2">
        {(["plants", ...CUT_KINDS] as const).map((kind) => (
          <button key={kind} type="button" className="btn press" onClick={() => add(kind)}>
            <Plus size={16} /> {kind === "plants" ? t("plants") : SHAPES[kind].label}
          </button>
        ))}
      </div>
    </>
  );
}

function SlopeFields({ entry, change, errorAt }: Props) {
  return (
    <div className="grid grid-cols-2 gap-3">
      <TextField
        label={t("howSteep")}
        value={entry.slope.angle_deg ?? ""}
        onChange={(angle_deg) => change({ slope: { ...entry.slope, angle_deg } })}
        error={errorAt("slope.angle_deg", entry.slope.angle_deg ?? "")}
        hint={t("n159Or14")}
      />
      <SelectField
        label={t("tapeLay")}
        value={entry.slope.taped ?? "along"}
        onChange={(taped) => change({ slope: { ...entry.slope, taped } })}
        options={{ along: t("alongTheSlope"), plan: t("levelOrItIsAPlan") }}
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

const YES_NO = { yes: "yes", no: "no" };
const FOUND: Found[] = [
  {
    key: "cover",
    label: t("coveredNowBy"),
    decides: t("decidesPreparationCardboardLeastDepth"),
    choices: {
      bare: "nothing, bare",
      annual_weeds: t("annualWeeds"),
      running_grass: t("runningGrass"),
      lawn: "lawn",
      old_fabric: t("oldFabric"),
      old_mulch: t("oldMulch"),
    },
  },
  {
    key: "soil",
    label: t("soil"),
    decides: t("decidesNitrogenSupplyAndWhetherIt"),
    choices: { sand: "sand", loam: "loam", clay: "clay", dead: "dead: rubble, subsoil" },
  },
  {
    key: "build_up",
    label: t("builtUpBeforePlanting"),
    decides: t("poorGroundGetsADeepFirst"),
    choices: YES_NO,
  },
  { key: "compacted", label: t("compacted"), decides: t("decidesLooseningBeforePlanting"), choices: YES_NO },
  {
    key: "sun",
    label: t("sun"),
    decides: t("decidesWhetherToSoakBeforeLaying"),
    choices: { full: "full", part: "part", shade: "shade" },
  },
  { key: "irrigated", label: t("irrigated"), decides: t("countsAsRainInDecay"), choices: YES_NO },
  {
    key: "pets",
    label: t("dogsOrOtherPets"),
    decides: t("decidesWhetherCocoaShellIsRefused"),
    choices: YES_NO,
  },
  {
    key: "children",
    label: t("children"),
    decides: t("decidesCautionsOnWhatALoad"),
    choices: YES_NO,
  },
  {
    key: "guarded",
    label: t("trunksGuarded"),
    decides: t("decidesWhetherGuardsAreListed"),
    choices: YES_NO,
  },
  { key: "organic_matter", label: t("organicMatter"), decides: t("ofTheSoilGoesBeforeIts") },
  {
    key: "soil_gives_n",
    label: t("soilGivesNitrogenByTestG"),
    decides: t("goesBeforeOrganicMatterAndType"),
  },
  {
    key: "growth_m",
    label: t("canopyWidensInAYear"),
    decides: t("ofTreesDecidesHowRingsGrow"),
    bare: "small",
  },
  {
    key: "to_building_m",
    label: t("toTheNextBuilding"),
    decides: t("decidesFireAndTermiteCautions"),
    bare: "length",
  },
  {
    key: "to_water_m",
    label: t("toTheNextWater"),
    decides: t("decidesWhereNitrogenMayBeGiven"),
    bare: "length",
  },
  {
    key: "way_width_m",
    label: t("narrowestWayIn"),
    decides: t("decidesWhichBarrowOrCartFits"),
    bare: "small",
  },
  { key: "walk_m", label: t("walkFromTheTip"), decides: t("decidesLabour"), bare: "length" },
  { key: "climb_m", label: t("climbFromTheTip"), decides: t("decidesLabour"), bare: "small" },
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
        label={t("hasLainForMonths")}
        value={entry.lain_months}
        onChange={(lain_months) => change({ lain_months })}
        error={errorAt("lain_months", entry.lain_months)}
        hint={t("aGuessDecidesHowItGoes")}
      />
      <div className="grid grid-cols-2 gap-3">
        {FOUND.map(({ key, label, decides, choices, bare }) =>
          choices ? (
            <SelectField
              key={key}
              label={label}
              value={entry.found[key] ?? ""}
              onChange={(value) => set(key, value)}
              options={[["", t("notNoted")], ...Object.entries(choices)]}
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
