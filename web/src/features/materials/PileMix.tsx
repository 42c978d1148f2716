import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { Problem } from "@/api/client";
import { useRequests } from "@/api/requests";
import type { PileMixEntry } from "@/api/schema.gen";
import { useWorkspaceUnits } from "@/features/accounts/session";
import { t } from "@/texts/materials";
import { Back } from "@/ui/Back";
import { TextField } from "@/ui/Field";
import { useFields, useSettledTexts } from "@/ui/fields";
import { PLACEHOLDER, valueText } from "@/ui/format";
import { Segments } from "@/ui/Segments";
import { Loading, Trouble } from "@/ui/states";
import { Units } from "@/ui/units";
import { Value } from "@/ui/working";
import { MaterialSelect } from "./MaterialSelect";
import { type MixPart, MixParts } from "./MixParts";
import { useMaterials } from "./materials";

interface Texts {
  by: "m3" | "kg";
  parts: MixPart[];
  add: string;
  ratio: string;
  moisture: string;
}

const START: Texts = {
  by: "m3",
  parts: [
    { key: "1", material: "grass_clippings", amount: "1" },
    { key: "2", material: "leaves_shredded", amount: "1" },
  ],
  add: "arborist_leafy",
  ratio: "30",
  moisture: "60 %",
};

/** A compost pile: carbon to nitrogen and moisture of what goes in, and how much of something is missing. */
export function PileMix() {
  const { workspaceId = "" } = useParams();
  const { workspaceApi } = useRequests();
  const units = useWorkspaceUnits();
  const materials = useMaterials(workspaceId);
  const form = useFields<Texts>({ start: START, draft: `${workspaceId}.heap` });
  const texts = form.values;
  const [settled] = useSettledTexts(form);
  const body: PileMixEntry = {
    ...settled,
    units,
    parts: settled.parts.map(({ material, amount }) => ({ material, amount })),
  };
  const mixed = useQuery({
    queryKey: ["pile-mix", workspaceId, body],
    queryFn: () => workspaceApi.post("/pile-mix", { body }),
    placeholderData: keepPreviousData,
  });
  if (materials.isPending) return <Loading what={t("theMaterials")} />;
  if (materials.isError) return <Trouble error={materials.error} retry={() => materials.refetch()} />;
  const errors = mixed.error instanceof Problem ? mixed.error.byField : {};
  const out = mixed.isError ? undefined : mixed.data;
  const added = materials.data.find((material) => material.material.key === texts.add)?.material.name.toLowerCase();
  const amount = (measured: { kg: number | null; m3: number | null } | null | undefined) =>
    measured?.m3 == null || measured.kg == null
      ? t("notPossibleWith", { added })
      : t("of", { m3: valueText(measured.m3, "m3", units), added, kg: valueText(measured.kg, "kg", units) });
  return (
    <Units value={units}>
      <div className="mx-auto grid max-w-5xl gap-6 p-4 sm:p-6 lg:grid-cols-[1fr_21rem]">
        <div className="space-y-3">
          <Back to={`/w/${workspaceId}/materials`}>{t("materials")}</Back>
          <h1 className="text-3xl">{t("mixAPile")}</h1>
          <p className="max-w-prose text-base-content/75">{t("aPileHeatsAndDecaysWith")}</p>
          <Segments
            label={t("amountsIn")}
            button="btn-sm"
            value={texts.by}
            options={[
              ["m3", t("byVolume")],
              ["kg", t("weight")],
            ]}
            choose={(by) => form.change({ by })}
          />
          <MixParts
            workspaceId={workspaceId}
            parts={texts.parts}
            change={(parts) => form.change({ parts })}
            amount={t("amount")}
            unit={texts.by === "m3" ? PLACEHOLDER.volume[units] : units === "us" ? "lb" : "kg"}
            added={{ material: "arborist_leafy", amount: "1" }}
            errorAt={(index, name) => errors[`parts.${index}.${name}`]}
          />
          <h2 className="pt-3 text-xl">{t("whatToAdd")}</h2>
          <div className="grid gap-3 sm:grid-cols-[1fr_8rem_8rem]">
            <MaterialSelect
              workspaceId={workspaceId}
              label={t("materialToAdd")}
              value={texts.add}
              change={(add) => form.change({ add })}
            />
            <TextField label={t("targetCN")} {...form.field("ratio")} error={errors.ratio} />
            <TextField label={t("targetMoisture")} unit="%" {...form.field("moisture")} error={errors.moisture} />
          </div>
        </div>
        <section aria-label={t("theMix")} className="lg:sticky lg:top-4 lg:self-start" data-testid="pile-mix">
          {out ? (
            <div className="space-y-4 border-t-4 border-primary bg-base-100 p-4">
              <dl className="grid grid-cols-2 gap-3">
                <div>
                  <dt className="text-sm text-base-content/75">{t("cNOfTheMix")}</dt>
                  <dd>
                    <Value figure={out.cn} className="display text-3xl text-primary" />
                  </dd>
                </div>
                <div>
                  <dt className="text-sm text-base-content/75">{t("moisture")}</dt>
                  <dd>
                    <Value figure={out.moisture} className="display text-3xl" />
                  </dd>
                </div>
              </dl>
              <div>
                <h3 className="font-semibold">{t("byBuckets")}</h3>
                <ul>
                  {out.buckets.map((bucket) => (
                    <li key={bucket.name} className="flex justify-between gap-3 border-b border-base-300 py-1">
                      <span>{bucket.name}</span>
                      <span className="font-semibold">{Number(bucket.buckets.toFixed(1))}</span>
                    </li>
                  ))}
                </ul>
              </div>
              <div className="space-y-1">
                <h3 className="font-semibold">{t("forACNOfAdd", { ratio: settled.ratio })}</h3>
                <p data-testid="for-ratio">{amount(out.for_ratio)}</p>
                <h3 className="pt-2 font-semibold">{t("forMoistureAdd", { moisture: settled.moisture })}</h3>
                <p data-testid="for-moisture">{amount(out.for_moisture)}</p>
              </div>
              <p className="text-sm text-base-content/75">{t("theTwoEquationsCanGiveDifferent")}</p>
            </div>
          ) : (
            <p className="border-t-4 border-base-300 bg-base-100 p-4">{t("theMixAppearsHereWhileYou")}</p>
          )}
        </section>
      </div>
    </Units>
  );
}
