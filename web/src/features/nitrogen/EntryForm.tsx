import { useState } from "react";
import { useParams } from "react-router";
import type { NewLogEntry, PlotOut } from "@/api/schema.gen";
import { useLogChanges } from "@/features/log/log";
import { MaterialSelect } from "@/features/materials/MaterialSelect";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/nitrogen";
import { today } from "@/ui/clock";
import { SelectField, TextField } from "@/ui/Field";
import { FormFoot } from "@/ui/FormFoot";
import { useFields } from "@/ui/fields";
import { LB_PER_1000, PLACEHOLDER } from "@/ui/format";
import { useUnits } from "@/ui/units";

type Kind = "fed" | "spread" | "grown" | "dug_in";

const KINDS: Record<Kind, string> = {
  fed: t("fertiliserByItsLabel"),
  spread: t("compostManureClippingsOrLeaves"),
  grown: t("legumeOrCoverCropCut"),
  dug_in: t("existingMulchDugIn"),
};

/** Writes down what was paid into the account, or that chips were dug in. */
export function EntryForm({ plot, close }: { plot: PlotOut; close: () => void }) {
  const { workspaceId = "" } = useParams();
  const shownUnits = useUnits();
  const { sheet } = useSite();
  const units = sheet.data?.site.units ?? shownUnits;
  const { add } = useLogChanges();
  const [id] = useState(() => crypto.randomUUID());
  const form = useFields({
    start: {
      kind: "fed" as Kind,
      on: sheet.data?.today ?? today(),
      product: "",
      n: "10",
      p: "",
      k: "",
      amount: "",
      depth_mm: units === "us" ? "1 in" : "25 mm",
      material: "compost",
      crop: "legume" as "legume" | "cover_crop",
      grams: "",
      soluble: "yes" as "yes" | "no",
    },
    problem: add.error,
  });
  const texts = form.values;
  const { kind, on } = texts;
  const number = (text: string) => Number(text.trim().replace(",", "."));
  const save = () => {
    // Labels speak of grams on a m², or of pounds on 1,000 sq ft.
    const perGround = units === "us" ? LB_PER_1000 : 1;
    const entries: Record<Kind, NewLogEntry["entry"]> = {
      fed: {
        kind: "fed",
        product: texts.product.trim() || t("dressing"),
        n: texts.n,
        p: texts.p.trim() || "0",
        k: texts.k.trim() || "0",
        grams_m2: number(texts.amount) * perGround || 0,
        soluble: texts.soluble === "yes",
      },
      spread: { kind: "spread", material: texts.material, depth_mm: texts.depth_mm },
      grown: {
        kind: "grown",
        crop: texts.crop,
        grams_n_m2: texts.grams.trim() ? number(texts.grams) * perGround : null,
      },
      dug_in: { kind: "dug_in" },
    };
    add.mutate({ id, plot_id: plot.id, on, units, entry: entries[kind] }, { onSuccess: close });
  };
  const rate = units === "us" ? t("lb1000SqFt") : "g/m²";
  return (
    <form noValidate className="space-y-3" aria-label={t("logNitrogen")} onSubmit={form.onSubmit(save)}>
      <h2 className="text-xl">{t("nitrogenGiven", { name: plot.name })}</h2>
      <SelectField label={t("type")} {...form.field("kind")} options={KINDS} />
      {kind === "fed" ? (
        <>
          <TextField label={t("product")} {...form.field("product")} error={form.errorAt("entry.product")} />
          <TextField label={t("nitrogenN")} unit="%" {...form.field("n")} error={form.errorAt("entry.n")} />
          <div className="grid grid-cols-2 gap-3">
            <TextField
              label={t("phosphorusP")}
              unit="%"
              {...form.field("p")}
              hint={t("storedWithTheEntry")}
              error={form.errorAt("entry.p")}
            />
            <TextField
              label={t("potassiumK")}
              unit="%"
              {...form.field("k")}
              hint={t("storedWithTheEntry")}
              error={form.errorAt("entry.k")}
            />
          </div>
          <div>
            <TextField
              label={t("productGiven")}
              unit={rate}
              {...form.field("amount")}
              error={form.errorAt("entry.grams_m2") && t("typeAnAmountForExample30")}
            />
          </div>
          <SelectField
            label={t("soluble")}
            {...form.field("soluble")}
            options={{ yes: t("yes"), no: t("noSlowRelease") }}
          />
        </>
      ) : kind === "spread" ? (
        <>
          <MaterialSelect
            workspaceId={workspaceId}
            label={t("material")}
            value={texts.material}
            change={(material) => form.change({ material })}
            error={form.errorAt("entry.material")}
          />
          <TextField
            label={t("depth")}
            unit={PLACEHOLDER.depth[units]}
            {...form.field("depth_mm")}
            error={form.errorAt("entry.depth_mm")}
          />
        </>
      ) : kind === "grown" ? (
        <>
          <SelectField
            label={t("crop")}
            {...form.field("crop")}
            options={{ legume: t("legume"), cover_crop: t("coverCrop") }}
          />
          <TextField
            label={t("nitrogenInIt")}
            unit={rate}
            {...form.field("grams")}
            hint={t("ifKnownOtherwiseTheUsualValue")}
            error={form.errorAt("entry.grams_n_m2")}
          />
        </>
      ) : (
        <p>{t("dugInRotaryTilledOrPlanted")}</p>
      )}
      <TextField label={t("on")} type="date" {...form.field("on")} />
      <FormFoot sentence={form.sentence} busy={add.isPending} save={t("saveEntry")} close={close} />
    </form>
  );
}
