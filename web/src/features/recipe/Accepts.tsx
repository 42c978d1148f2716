import type { Estimate } from "@/api/schema.gen";
import { useMaterials } from "@/features/materials/materials";
import { t } from "@/texts/recipe";
import { Button } from "@/ui/Button";
import { SelectField } from "@/ui/Field";
import { Fold } from "@/ui/Fold";
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
    <Fold
      testId="accepts"
      title={t("acceptedMaterial")}
      note={accepts?.names.map((name) => name.toLowerCase()).join(", ")}
    >
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
    </Fold>
  );
}
