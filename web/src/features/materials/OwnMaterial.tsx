import { useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import type { MaterialEntry, MaterialOut, UnitSystem } from "@/api/schema.gen";
import { useMay, useWorkspaceUnits } from "@/features/accounts/session";
import { t } from "@/texts/materials";
import { Back } from "@/ui/Back";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { useFields } from "@/ui/fields";
import { valueText } from "@/ui/format";
import { Segments } from "@/ui/Segments";
import { Sentence } from "@/ui/Sentence";
import { Loading, Trouble } from "@/ui/states";
import { MaterialSelect } from "./MaterialSelect";
import { MixParts } from "./MixParts";
import { useMaterials, useOwnMaterials } from "./materials";

interface Texts {
  id: string;
  name: string;
  how: "copy" | "mix";
  base: string;
  /** As drafts on phones and desks have kept them. */
  parts: { key: string; material: string; share: string }[];
  figures: Record<string, string>;
}

const FIGURES = {
  density: t("looseDryDensity"),
  moisture: t("moistureOfWetMass"),
  carbon: t("carbonOfDryMass"),
  cn: t("carbonToNitrogen"),
  settling: t("settlingUntrodden"),
  rate: t("rateOfDecay"),
} as const;

function textsOf(stored: MaterialOut | undefined, from: string): Texts {
  const entry = (stored?.entry ?? {}) as {
    base?: string | null;
    parts?: { material: string; share: number }[];
    typed?: { figures?: Record<string, string>; parts?: { share?: string }[] };
  };
  const parts = entry.parts ?? [];
  return {
    id: crypto.randomUUID(),
    name: stored?.material.name ?? "",
    how: parts.length > 0 ? "mix" : "copy",
    base: entry.base ?? from,
    parts: (parts.length > 0
      ? parts
      : [
          { material: "arborist_leafy", share: 0.5 },
          { material: "conifer_bare", share: 0.5 },
        ]
    ).map((part, index) => ({
      key: String(index),
      material: part.material,
      share: entry.typed?.parts?.[index]?.share ?? `${part.share * 100} %`,
    })),
    figures: entry.typed?.figures ?? {},
  };
}

function entryOf(texts: Texts, units: UnitSystem): MaterialEntry {
  const figures = Object.fromEntries(Object.entries(texts.figures).filter(([, text]) => text.trim()));
  const source =
    texts.how === "mix"
      ? { parts: texts.parts.map(({ material, share }) => ({ material, share })) }
      : { base: texts.base };
  return { name: texts.name, units, figures, ...source };
}

/** A material of one's own: another one copied, or several mixed, with figures one knows better. */
export function OwnMaterial() {
  const { workspaceId = "", materialId } = useParams();
  const materials = useMaterials(workspaceId);
  if (materials.isPending) return <Loading what={t("theMaterials")} />;
  if (materials.isError) return <Trouble error={materials.error} retry={() => materials.refetch()} />;
  const stored = materials.data.find((material) => material.own && material.material.key === materialId);
  if (materialId !== "new" && !stored) return <p className="p-6">{t("thisMaterialDoesNotExistAny")}</p>;
  return <Form key={materialId} stored={stored} materials={materials.data} workspaceId={workspaceId} />;
}

interface Props {
  stored: MaterialOut | undefined;
  materials: MaterialOut[];
  workspaceId: string;
}

function Form({ stored, materials, workspaceId }: Props) {
  const [asked] = useSearchParams();
  const units = useWorkspaceUnits();
  const may = useMay();
  const navigate = useNavigate();
  const { add, change } = useOwnMaterials(workspaceId);
  const [start] = useState(() => textsOf(stored, asked.get("from") ?? "arborist_leafy"));
  const saving = stored ? change : add;
  const form = useFields<Texts>({
    start,
    draft: `${workspaceId}.material.${stored?.material.key ?? `new.${start.base}`}`,
    problem: saving.error,
  });
  const texts = form.values;
  const base = materials.find((material) => material.material.key === texts.base)?.material;
  const home = `/w/${workspaceId}/materials`;
  const save = () => {
    const typed = form.texts();
    const entry = entryOf(typed, units);
    const close = (out: MaterialOut) => {
      form.clear();
      navigate(`${home}/${out.material.key}`);
    };
    if (stored) change.mutate({ stored, entry }, { onSuccess: close });
    else add.mutate({ ...entry, id: typed.id }, { onSuccess: close });
  };
  return (
    <form noValidate className="mx-auto max-w-xl space-y-4 p-4 sm:p-6" onSubmit={form.onSubmit(save)}>
      <Back to={home}>{t("materials")}</Back>
      <h1 className="text-3xl">{stored ? stored.material.name : t("newMaterial")}</h1>
      <fieldset disabled={!may.edit} className="space-y-4">
        <TextField label={t("name")} {...form.field("name")} autoFocus={!stored} />
        <Segments
          label={t("madeFrom")}
          value={texts.how}
          options={[
            ["copy", t("anotherMaterial")],
            ["mix", t("aMix")],
          ]}
          choose={(how) => form.change({ how })}
        />
        {texts.how === "copy" ? (
          <MaterialSelect
            workspaceId={workspaceId}
            label={t("basedOn")}
            value={texts.base}
            error={form.errorAt("base")}
            without={stored?.material.key}
            change={(material) => form.change({ base: material })}
          />
        ) : (
          <MixParts
            workspaceId={workspaceId}
            parts={texts.parts.map(({ share, ...part }) => ({ ...part, amount: share }))}
            change={(parts) => form.change({ parts: parts.map(({ amount, ...part }) => ({ ...part, share: amount })) })}
            amount={t("byVolumeHeading")}
            unit="%"
            added={{ material: "ramial", amount: "20 %" }}
            errorAt={(index, name) => form.errorAt(`parts.${index}.${name === "amount" ? "share" : "material"}`)}
            without={stored?.material.key}
          />
        )}
        <p className="text-sm text-base-content/75">{t("fillInOnlyWhatYouKnow")}</p>
        <div className="grid grid-cols-2 gap-3">
          {(Object.keys(FIGURES) as (keyof typeof FIGURES)[]).map((field) => (
            <TextField
              key={field}
              label={FIGURES[field]}
              {...(field === "density" ? { unit: units === "us" ? "lb/yd³" : "kg/m³" } : {})}
              {...(["moisture", "carbon", "settling"].includes(field) ? { unit: "%" } : {})}
              {...form.field(`figures.${field}`)}
              hint={
                texts.how === "copy" && base
                  ? t("default", { figure: valueText(base[field].value, base[field].unit, units) })
                  : undefined
              }
            />
          ))}
        </div>
        <Sentence text={form.sentence} />
        <div className="flex gap-2">
          <Button type="submit" primary disabled={saving.isPending}>
            {t("saveMaterial")}
          </Button>
          <Link to={home} className="btn btn-ghost press" onClick={() => form.clear()}>
            {t("backWithoutSaving")}
          </Link>
        </div>
      </fieldset>
    </form>
  );
}
