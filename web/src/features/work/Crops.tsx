import { useState } from "react";
import type { Crop, CropEntry, RowSheet } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { t } from "@/texts/work";
import { Button } from "@/ui/Button";
import { SelectField, TextField } from "@/ui/Field";
import { FormFoot } from "@/ui/FormFoot";
import { useFields } from "@/ui/fields";
import { depth } from "@/ui/format";
import { Scroll } from "@/ui/Scroll";
import { Table } from "@/ui/Table";
import { typedNumber } from "@/ui/typedNumber";
import { useUnits } from "@/ui/units";
import { useCropChanges } from "./rows";

const HARDINESS = { tender: t("tender"), half_hardy: t("halfHardy"), hardy: t("hardy") };
const KINDS = {
  vegetable: t("vegetable"),
  legume: t("legume"),
  cover_crop: t("coverCrop"),
  flower: t("flower"),
};

/** The crops that can be grown: shipped ones by common practice, and the workspace's own. */
export function Crops({ sheet }: { sheet: RowSheet }) {
  const units = useUnits();
  const may = useMay();
  const { remove } = useCropChanges();
  const [adding, add] = useState(false);
  const isOwn = ({ key }: Crop) => Boolean(may.edit) && sheet.own.includes(key);
  return (
    <section className="space-y-2" data-testid="crops">
      <details>
        <summary className="press cursor-pointer text-xl">{t("cropsCounted", { count: sheet.crops.length })}</summary>
        <p className="py-2 text-sm text-base-content/75">{sheet.crops[0]?.source?.text}</p>
        <Scroll label={t("crop")}>
          <Table
            rows={sheet.crops}
            columns={[
              [t("crop"), (crop) => `${crop.name}${isOwn(crop) ? ` (${t("own")})` : ""}`],
              [t("daysToMaturity"), (crop) => `${crop.days} (${crop.days_least}–${crop.days_most})`, "words"],
              [t("frost"), (crop) => HARDINESS[crop.hardiness ?? "half_hardy"], "words"],
              [t("seedAMetre"), (crop) => (crop.seed_g_m ? `${crop.seed_g_m} g` : "–")],
              [t("seedASquareMetre"), (crop) => (crop.seed_g_m2 ? `${crop.seed_g_m2} g` : "–")],
              [t("sownDeep"), (crop) => depth(crop.sown_mm ?? 0, units)],
              [
                "",
                (crop) =>
                  isOwn(crop) ? (
                    <Button
                      small
                      aria-label={t("deleteClosure", { name: crop.name })}
                      onClick={() => remove.mutate(crop.key)}
                    >
                      {t("delete")}
                    </Button>
                  ) : null,
              ],
            ]}
          />
        </Scroll>
      </details>
      <Button shown={may.edit && !adding} onClick={() => add(true)}>
        {t("addAnOwnCrop")}
      </Button>
      {adding ? <CropForm close={() => add(false)} /> : null}
    </section>
  );
}

function CropForm({ close }: { close: () => void }) {
  const { add } = useCropChanges();
  const [id] = useState(() => crypto.randomUUID());
  const form = useFields({
    start: {
      name: "",
      kind: "vegetable" as NonNullable<CropEntry["kind"]>,
      hardiness: "half_hardy" as NonNullable<CropEntry["hardiness"]>,
      days_least: "",
      days: "",
      days_most: "",
      seed_g_m: "",
      seed_g_m2: "",
      sown_mm: "",
    },
    draft: "crop",
    problem: add.error,
  });
  const texts = form.values;
  const numbers: [keyof typeof texts & string, string][] = [
    ["days_least", t("daysAtLeast")],
    ["days", t("daysUsually")],
    ["days_most", t("daysAtMost")],
    ["seed_g_m", t("seedAMetre")],
    ["seed_g_m2", t("seedASquareMetre")],
    ["sown_mm", t("sownDeepMm")],
  ];
  return (
    <form
      noValidate
      className="grid grid-cols-2 gap-3 border-l-4 border-primary bg-base-100 p-3 sm:grid-cols-3"
      aria-label={t("addAnOwnCrop")}
      onSubmit={form.onSubmit(() =>
        add.mutate(
          {
            id,
            name: texts.name,
            kind: texts.kind,
            hardiness: texts.hardiness,
            days_least: typedNumber(texts.days_least),
            days: typedNumber(texts.days),
            days_most: typedNumber(texts.days_most),
            ...(texts.seed_g_m ? { seed_g_m: typedNumber(texts.seed_g_m) } : {}),
            ...(texts.seed_g_m2 ? { seed_g_m2: typedNumber(texts.seed_g_m2) } : {}),
            ...(texts.sown_mm ? { sown_mm: typedNumber(texts.sown_mm) } : {}),
          } as CropEntry & { id: string },
          {
            onSuccess: () => {
              form.clear();
              close();
            },
          },
        ),
      )}
    >
      <TextField label={t("name")} {...form.field("name")} />
      <SelectField label={t("kind")} {...form.field("kind")} options={KINDS} />
      <SelectField label={t("frost")} {...form.field("hardiness")} options={HARDINESS} />
      {numbers.map(([name, label]) => (
        <TextField
          key={name}
          label={label}
          value={texts[name]}
          onChange={(text) => form.change({ [name]: text })}
          error={form.errorAt(name)}
        />
      ))}
      <div className="col-span-full">
        <FormFoot sentence={form.sentence} busy={add.isPending} save={t("saveTheCrop")} close={close} />
      </div>
    </form>
  );
}
