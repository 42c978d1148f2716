import { Plus, X } from "lucide-react";
import type { UnitSystem } from "@/api/schema.gen";
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
      <Section title="Cut-outs" said={entry.cuts.length ? String(entry.cuts.length) : "none"}>
        <CutOuts {...props} />
      </Section>
      <Section title="Slope" said={entry.slope.angle_deg?.trim() || "level"}>
        <SlopeFields {...props} />
      </Section>
      <Section title="What was found" said={noted ? `${noted} noted` : "nothing noted"}>
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
              {cut.kind === "plants" ? "Plants or stones" : SHAPES[cut.kind].label}
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
                  label="How many"
                  value={cut.fields.plants ?? ""}
                  onChange={(plants) => fields({ plants })}
                  error={errorAt(`${path}.plants`, cut.fields.plants ?? "")}
                />
                <TextField
                  label="Gap round each"
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
                    label="Right of the middle"
                    unit={PLACEHOLDER.length[units]}
                    value={cut.fields.x_m ?? ""}
                    onChange={(x_m) => fields({ x_m })}
                    error={errorAt(`${path}.place.x_m`, cut.fields.x_m ?? "")}
                    hint="Empty: somewhere inside"
                  />
                  <TextField
                    label="Above the middle"
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
            <Plus size={16} /> {kind === "plants" ? "Plants" : SHAPES[kind].label}
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
        label="How steep"
        value={entry.slope.angle_deg ?? ""}
        onChange={(angle_deg) => change({ slope: { ...entry.slope, angle_deg } })}
        error={errorAt("slope.angle_deg", entry.slope.angle_deg ?? "")}
        hint="15 %, 9° or 1:4"
      />
      <SelectField
        label="Tape lay"
        value={entry.slope.taped ?? "along"}
        onChange={(taped) => change({ slope: { ...entry.slope, taped } })}
        options={{ along: "along the slope", plan: "level, or it is a plan" }}
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
    label: "Covered now by",
    decides: "Decides preparation, cardboard, least depth",
    choices: {
      bare: "nothing, bare",
      annual_weeds: "annual weeds",
      running_grass: "running grass",
      lawn: "lawn",
      old_fabric: "old fabric",
      old_mulch: "old mulch",
    },
  },
  {
    key: "soil",
    label: "Soil",
    decides: "Decides nitrogen supply, and whether it is built up first",
    choices: { sand: "sand", loam: "loam", clay: "clay", dead: "dead: rubble, subsoil" },
  },
  {
    key: "build_up",
    label: "Built up before planting",
    decides: "Poor ground gets a deep first layer",
    choices: YES_NO,
  },
  { key: "compacted", label: "Compacted", decides: "Decides loosening before planting", choices: YES_NO },
  {
    key: "sun",
    label: "Sun",
    decides: "Decides whether to soak before laying",
    choices: { full: "full", part: "part", shade: "shade" },
  },
  { key: "irrigated", label: "Irrigated", decides: "Counts as rain in decay", choices: YES_NO },
  {
    key: "pets",
    label: "Dogs or other pets",
    decides: "Decides whether cocoa shell is refused",
    choices: YES_NO,
  },
  {
    key: "children",
    label: "Children",
    decides: "Decides cautions on what a load may hold",
    choices: YES_NO,
  },
  {
    key: "guarded",
    label: "Trunks guarded",
    decides: "Decides whether guards are listed",
    choices: YES_NO,
  },
  { key: "organic_matter", label: "Organic matter, %", decides: "Of the soil; goes before its type" },
  {
    key: "soil_gives_n",
    label: "Soil gives nitrogen by test, g/m² a year",
    decides: "Goes before organic matter and type",
  },
  {
    key: "growth_m",
    label: "Canopy widens in a year",
    decides: "Of trees; decides how rings grow and when they close",
    bare: "small",
  },
  {
    key: "to_building_m",
    label: "To the next building",
    decides: "Decides fire and termite cautions",
    bare: "length",
  },
  {
    key: "to_water_m",
    label: "To the next water",
    decides: "Decides where nitrogen may be given",
    bare: "length",
  },
  {
    key: "way_width_m",
    label: "Narrowest way in",
    decides: "Decides which barrow or cart fits",
    bare: "small",
  },
  { key: "walk_m", label: "Walk from the tip", decides: "Decides labour", bare: "length" },
  { key: "climb_m", label: "Climb from the tip", decides: "Decides labour", bare: "small" },
];

function FoundFields({ entry, units, change, errorAt }: Props) {
  const set = (key: string, value: string) => change({ found: { ...entry.found, [key]: value } });
  return (
    <>
      <TextField
        label="Depth readings"
        unit={PLACEHOLDER.depth[units]}
        value={entry.readings_mm}
        onChange={(readings_mm) => change({ readings_mm })}
        error={errorAt("readings_mm", entry.readings_mm)}
        hint="At several points: 40, 65, 50. Their mean is taken as the existing depth."
      />
      <TextField
        label="Has lain for, months"
        value={entry.lain_months}
        onChange={(lain_months) => change({ lain_months })}
        error={errorAt("lain_months", entry.lain_months)}
        hint="A guess; decides how it goes on sinking."
      />
      <div className="grid grid-cols-2 gap-3">
        {FOUND.map(({ key, label, decides, choices, bare }) =>
          choices ? (
            <SelectField
              key={key}
              label={label}
              value={entry.found[key] ?? ""}
              onChange={(value) => set(key, value)}
              options={[["", "not noted"], ...Object.entries(choices)]}
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
