import { useState } from "react";
import type { NewBookLine, PileOut } from "@/api/schema.gen";
import { useStockChanges } from "@/features/supply/supply";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/stock";
import { today } from "@/ui/clock";
import { SelectField, TextField } from "@/ui/Field";
import { FormFoot } from "@/ui/FormFoot";
import { useFields } from "@/ui/fields";
import { about } from "@/ui/precision";
import { namesOf } from "@/ui/Select";
import { useUnits } from "@/ui/units";
import { MeasuredFields } from "./MeasuredFields";
import { emptyMeasured, measuredEntry } from "./measured";

export type PileAct = NewBookLine["kind"];

const TITLES: Record<PileAct, string> = {
  lay: t("layOnAPlot"),
  move: t("moveToAnotherPlace"),
  measure: t("measureAgain"),
  turn: t("turn"),
  take_away: t("remove"),
};

interface Props {
  pile: PileOut;
  act: PileAct;
  piles: PileOut[];
  close: () => void;
}

/** Something done with a pile. */
export function PileForm({ pile, act, piles, close }: Props) {
  const shownUnits = useUnits();
  const { sheet } = useSite();
  const { enter } = useStockChanges();
  const site = sheet.data?.site;
  const units = site?.units ?? shownUnits;
  const [id] = useState(() => crypto.randomUUID());
  const plots = (sheet.data?.plots ?? []).filter((plot) => plot.wanted_mm > 0);
  const places: [string, string][] = [
    ...piles
      .filter((other) => other.id !== pile.id && other.landmark_id === null)
      .map((other): [string, string] => [`pile:${other.id}`, other.name]),
    ...(sheet.data?.landmarks ?? [])
      .filter((landmark) => landmark.landmark.kind !== "way" && landmark.id !== pile.landmark_id)
      .map((landmark): [string, string] => [`place:${landmark.id}`, landmark.name]),
  ];
  const form = useFields({
    start: {
      measured: emptyMeasured(act === "measure" ? "heap" : "stated", units),
      on: today(),
      note: "",
      plot: plots[0]?.id ?? "",
      to: places[0]?.[0] ?? "",
    },
    problem: enter.error,
  });
  const save = ({ measured, on, note, plot, to }: typeof form.values) => {
    const [sort, key] = to.split(":");
    const entry: NewBookLine = {
      id,
      units,
      kind: act,
      on,
      note,
      measured: act === "turn" ? null : measuredEntry(measured),
      plot_id: act === "lay" ? plot || null : null,
      to_pile_id: act === "move" && sort === "pile" ? (key ?? null) : null,
      to_landmark_id: act === "move" && sort === "place" ? (key ?? null) : null,
    };
    enter.mutate({ pile_id: pile.id, entry }, { onSuccess: close });
  };
  return (
    <form
      noValidate
      className="space-y-3 border-t-4 border-primary bg-base-100 p-4"
      aria-label={TITLES[act]}
      onSubmit={form.onSubmit(save)}
    >
      <h2 className="text-xl">{TITLES[act]}</h2>
      <p className="text-base-content/75">
        {t("holds", { name: pile.name, volume: about(pile.stock_m3, shownUnits) })}{" "}
        {act === "turn" ? t("turningMixesThePileAndLets") : null}
      </p>
      {act === "lay" ? (
        <SelectField label={t("plot")} {...form.field("plot", "plot_id")} options={namesOf(plots)} />
      ) : null}
      {act === "move" ? (
        <SelectField
          label={t("to")}
          {...form.field("to", "to_landmark_id")}
          options={places}
          hint={places.length === 0 ? t("addAPilePlaceToThe") : undefined}
        />
      ) : null}
      {act !== "turn" ? (
        <MeasuredFields
          value={form.values.measured}
          change={(measured) => form.change({ measured })}
          units={units}
          errorAt={form.errorAt}
          ways={act === "measure" ? ["heap", "stated"] : ["stated", "barrows", "weight"]}
        />
      ) : null}
      <TextField label={t("on")} type="date" {...form.field("on")} />
      <TextField label={t("note")} {...form.field("note")} />
      <FormFoot sentence={form.sentence} busy={enter.isPending} save={t("saveEntry")} close={close} />
    </form>
  );
}
