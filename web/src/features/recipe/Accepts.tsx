import type { Estimate } from "@/api/schema.gen";
import { useMaterials } from "@/features/materials/materials";
import { SelectField } from "@/ui/Field";

const STAGES = {
  "": "as recipe and practice say",
  "fresh,ageing,aged,decomposed": "any, fresh too",
  "ageing,aged,decomposed": "a month old or more",
  "aged,decomposed": "aged or decomposed",
  decomposed: "decomposed only",
};

/** Which materials may be laid on a plot as mulch, and how far rotted: shown, and to be changed. */
export function Accepts({
  workspaceId,
  accepts,
  texts,
  set,
}: {
  workspaceId: string;
  accepts: Estimate["accepts"] | undefined;
  texts: Record<string, string>;
  set: (next: Record<string, string>) => void;
}) {
  const { data: materials } = useMaterials(workspaceId);
  const shown = accepts?.materials ?? [];
  const chosen = texts.accepts ? texts.accepts.split(",").filter(Boolean) : shown;
  const mulches = (materials ?? []).filter(({ material }) => !["sheet", "manure"].includes(material.kind));
  const toggle = (key: string) => {
    const next = chosen.includes(key) ? chosen.filter((other) => other !== key) : [...chosen, key];
    set({ accepts: next.join(",") });
  };
  return (
    <details data-testid="accepts">
      <summary className="press flex cursor-pointer items-center justify-between gap-2 font-semibold">
        What it accepts
        <span className="min-w-0 truncate text-sm font-normal text-base-content/75">
          {accepts?.names.map((name) => name.toLowerCase()).join(", ")}
        </span>
      </summary>
      <div className="space-y-2 pb-2">
        <SelectField
          label="How far rotted"
          value={texts.accepts_stages ?? ""}
          onChange={(accepts_stages) => set({ accepts_stages })}
          options={Object.entries(STAGES)}
          hint={`Now: ${accepts?.stages.join(", ") ?? ""}`}
        />
        <fieldset>
          <legend className="text-sm font-semibold">Materials</legend>
          <div className="grid grid-cols-1 sm:grid-cols-2">
            {mulches.map(({ material }) => (
              <label key={material.key} className="flex min-h-11 cursor-pointer items-center gap-2 text-sm">
                <input
                  type="checkbox"
                  className="checkbox checkbox-sm"
                  checked={chosen.includes(material.key)}
                  disabled={chosen.length === 1 && chosen.includes(material.key)}
                  onChange={() => toggle(material.key)}
                />
                {material.name}
              </label>
            ))}
          </div>
        </fieldset>
        {texts.accepts ? (
          <button type="button" className="btn btn-sm press" onClick={() => set({ accepts: "" })}>
            As recipe and practice say
          </button>
        ) : null}
      </div>
    </details>
  );
}
