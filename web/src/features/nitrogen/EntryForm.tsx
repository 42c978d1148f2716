import { useState } from "react";
import { useParams } from "react-router";
import { Problem } from "@/api/client";
import type { NewLogEntry, PlotOut } from "@/api/schema.gen";
import { sent } from "@/api/sent";
import { useLogChanges } from "@/features/log/log";
import { MaterialSelect } from "@/features/materials/MaterialSelect";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/nitrogen";
import { SelectField, TextField } from "@/ui/Field";
import { FormFoot } from "@/ui/FormFoot";
import { LB_PER_1000, PLACEHOLDER, today } from "@/ui/format";
import { useUnits } from "@/ui/units";

type Kind = "fed" | "spread" | "grown" | "dug_in";

const KINDS: Record<Kind, string> = {
  fed: t("aDressingByItsLabel"),
  spread: t("compostManureClippingsOrLeaves"),
  grown: t("aLegumeOrCoverCropCut"),
  dug_in: t("whatLiesThereWasDugIn"),
};

/** Writes down what was paid into the account, or that chips were dug in. */
export function EntryForm({ plot, close }: { plot: PlotOut; close: () => void }) {
  const { workspaceId = "" } = useParams();
  const shownUnits = useUnits();
  const { sheet } = useSite();
  const units = sheet.data?.site.units ?? shownUnits;
  const { add } = useLogChanges();
  const [id] = useState(() => crypto.randomUUID());
  const [kind, setKind] = useState<Kind>("fed");
  const [on, setOn] = useState(sheet.data?.today ?? today());
  const [texts, setTexts] = useState<Record<string, string>>({
    product: "",
    n: "10",
    p: "",
    k: "",
    amount: "",
    depth_mm: units === "us" ? "1 in" : "25 mm",
    material: "compost",
    crop: "legume",
    grams: "",
    soluble: "yes",
  });
  const set = (key: string) => (value: string) => setTexts((before) => ({ ...before, [key]: value }));
  const problem = add.error instanceof Problem ? add.error : null;
  const errors = problem?.byField ?? {};
  const number = (text: string) => Number(text.trim().replace(",", "."));
  const save = () => {
    // Labels speak of grams on a m², or of pounds on 1,000 sq ft.
    const perGround = units === "us" ? LB_PER_1000 : 1;
    const entries: Record<Kind, Record<string, unknown>> = {
      fed: {
        kind: "fed",
        product: texts.product?.trim() || t("dressing"),
        n: texts.n,
        p: texts.p?.trim() || "0",
        k: texts.k?.trim() || "0",
        grams_m2: number(texts.amount ?? "") * perGround || 0,
        soluble: texts.soluble === "yes",
      },
      spread: { kind: "spread", material: texts.material, depth_mm: texts.depth_mm },
      grown: {
        kind: "grown",
        crop: texts.crop,
        grams_n_m2: texts.grams?.trim() ? number(texts.grams) * perGround : null,
      },
      dug_in: { kind: "dug_in" },
    };
    add.mutate(
      { id, plot_id: plot.id, on, units, entry: sent<NewLogEntry["entry"]>(entries[kind]) },
      { onSuccess: close },
    );
  };
  const rate = units === "us" ? t("lb1000SqFt") : "g/m²";
  return (
    <form
      noValidate
      className="space-y-3"
      aria-label={t("logNitrogen")}
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <h2 className="text-xl">{t("whatWasPaidIn", { name: plot.name })}</h2>
      <SelectField
        label={t("what")}
        value={kind}
        onChange={(next) => setKind(next as Kind)}
        options={KINDS}
      />
      {kind === "fed" ? (
        <>
          <TextField
            label={t("product")}
            value={texts.product ?? ""}
            onChange={set("product")}
            error={errors["entry.product"]}
          />
          <TextField
            label={t("nitrogenOnTheLabel")}
            unit="%"
            value={texts.n ?? ""}
            onChange={set("n")}
            error={errors["entry.n"]}
          />
          <div className="grid grid-cols-2 gap-3">
            <TextField
              label={t("pOnIt")}
              unit="%"
              value={texts.p ?? ""}
              onChange={set("p")}
              hint={t("keptWithTheEntry")}
              error={errors["entry.p"]}
            />
            <TextField
              label={t("kOnIt")}
              unit="%"
              value={texts.k ?? ""}
              onChange={set("k")}
              hint={t("keptWithTheEntry")}
              error={errors["entry.k"]}
            />
          </div>
          <div>
            <TextField
              label={t("productGiven")}
              unit={rate}
              value={texts.amount ?? ""}
              onChange={set("amount")}
              error={errors["entry.grams_m2"] ? t("writeHowMuchSuchAs30") : undefined}
            />
          </div>
          <SelectField
            label={t("soluble")}
            value={texts.soluble ?? "yes"}
            onChange={set("soluble")}
            options={{ yes: "yes", no: "no, slow" }}
          />
        </>
      ) : kind === "spread" ? (
        <>
          <MaterialSelect
            workspaceId={workspaceId}
            label={t("material")}
            value={texts.material ?? "compost"}
            change={set("material")}
            error={errors["entry.material"]}
          />
          <TextField
            label={t("depth")}
            unit={PLACEHOLDER.depth[units]}
            value={texts.depth_mm ?? ""}
            onChange={set("depth_mm")}
            error={errors["entry.depth_mm"]}
          />
        </>
      ) : kind === "grown" ? (
        <>
          <SelectField
            label={t("crop")}
            value={texts.crop ?? "legume"}
            onChange={set("crop")}
            options={{ legume: "legume", cover_crop: t("coverCrop") }}
          />
          <TextField
            label={t("nitrogenInIt")}
            unit={rate}
            value={texts.grams ?? ""}
            onChange={set("grams")}
            hint={t("ifKnownElseWhatIsUsual")}
            error={errors["entry.grams_n_m2"]}
          />
        </>
      ) : (
        <p>{t("dugInRototilledOrPlantedThrough")}</p>
      )}
      <TextField label={t("on")} type="date" value={on} onChange={setOn} error={errors.on} />
      <FormFoot problem={problem} busy={add.isPending} save={t("writeItDown")} close={close} />
    </form>
  );
}
