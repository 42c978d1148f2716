import type { Estimate } from "@/api/schema.gen";
import { useMaterials } from "@/features/materials/materials";
import { t } from "@/texts/recipe";
import { Button } from "@/ui/Button";
import { SelectField } from "@/ui/Field";
import { Tick } from "@/ui/Tick";

const STAGES = {
  "": t("byRecipeAndPractice"),
  "fresh,ageing,aged,decomposed": t("anyStage"),
  "ageing,aged,decomposed": t("atLeast1MonthOld"),
  "aged,decomposed": t("agedOrDecomposed"),
  decomposed: t("decomposedOnly"),
};

interface Props {
  workspaceId: string;
  accepts: Estimate["accepts"] | undefined;
  texts: Record<string, string>;
  set: (next: Record<string, string>) => void;
}

/** Which materials may be laid on a plot as mulch, and how far rotted: shown, and to be changed. */
export function Accepts({ workspaceId, accepts, texts, set }: Props) {
  const { data: materials } = useMaterials(workspaceId);
  const proposed = accepts?.materials ?? [];
  const chosen = texts.accepts ? texts.accepts.split(",").filter(Boolean) : proposed;
  const mulches = (materials ?? []).filter(({ material }) => !["sheet", "manure"].includes(material.kind));
  const toggle = (key: string) => {
    const next = chosen.includes(key) ? chosen.filter((other) => other !== key) : [...chosen, key];
    set({ accepts: next.join(",") });
  };
  return (
    <details data-testid="accepts">
      <summary className="press flex cursor-pointer items-center justify-between gap-2 font-semibold">
        {t("acceptedMaterial")}
        <span className="min-w-0 truncate text-sm font-normal text-base-content/75">
          {accepts?.names.map((name) => name.toLowerCase()).join(", ")}
        </span>
      </summary>
      <div className="space-y-2 pb-2">
        <SelectField
          label={t("acceptedStages")}
          value={texts.accepts_stages ?? ""}
          onChange={(accepts_stages) => set({ accepts_stages })}
          options={Object.entries(STAGES)}
          hint={t("now", { stages: accepts?.stages.join(", ") ?? "" })}
        />
        <fieldset>
          <legend className="text-sm font-semibold">{t("materials")}</legend>
          <div className="grid grid-cols-1 sm:grid-cols-2">
            {mulches.map(({ material }) => (
              <Tick
                key={material.key}
                small
                className="min-h-11 cursor-pointer text-sm"
                checked={chosen.includes(material.key)}
                disabled={chosen.length === 1 && chosen.includes(material.key)}
                onChange={() => toggle(material.key)}
              >
                {material.name}
              </Tick>
            ))}
          </div>
        </fieldset>
        {texts.accepts ? (
          <Button small onClick={() => set({ accepts: "" })}>
            {t("byRecipeAndPracticeHeading")}
          </Button>
        ) : null}
      </div>
    </details>
  );
}
