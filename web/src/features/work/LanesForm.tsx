import type { Crop } from "@/api/schema.gen";
import { t } from "@/texts/work";
import { Button } from "@/ui/Button";
import { SelectField, TextField } from "@/ui/Field";
import { useFields } from "@/ui/fields";
import { PLACEHOLDER } from "@/ui/format";
import { aboutArea, aboutDistance } from "@/ui/precision";
import { useUnits } from "@/ui/units";
import { Value } from "@/ui/working";
import { useLanes } from "./rows";
import { seedWords } from "./seed";

/** A cover crop in lanes of large chipped ground: how many, how wide, how much seed. */
export function LanesForm({ crops }: { crops: Crop[] }) {
  const units = useUnits();
  const lanes = useLanes();
  const us = units === "us";
  const form = useFields({
    start: {
      crop: "rye",
      length: us ? "60 ft" : "20 m",
      width: us ? "50 ft" : "15 m",
      apart: us ? "10 ft" : "3 m",
      lane: us ? "12 in" : "0.3 m",
    },
    problem: lanes.error,
  });
  const texts = form.values;
  const places = crops.find((crop) => crop.key === texts.crop)?.kind === "flower";
  return (
    <section className="space-y-2" data-testid="lanes">
      <h2 className="text-xl">{t("coverCropInLanes")}</h2>
      <form
        noValidate
        className="grid grid-cols-2 items-end gap-3 sm:grid-cols-6"
        aria-label={t("coverCropInLanes")}
        onSubmit={form.onSubmit(() =>
          lanes.mutate({
            crop: texts.crop,
            units,
            length_m: texts.length,
            width_m: texts.width,
            apart_m: texts.apart,
            lane_m: texts.lane,
          }),
        )}
      >
        <SelectField
          label={t("crop")}
          {...form.field("crop")}
          options={crops
            .filter((crop) => crop.kind !== "vegetable")
            .map((crop): [string, string] => [crop.key, crop.name])}
        />
        {(
          [
            ["length", t("blockLength"), "length_m"],
            ["width", t("blockWidth"), "width_m"],
            ["apart", t("lanesApart"), "apart_m"],
            ["lane", t("laneWidth"), "lane_m"],
          ] as const
        ).map(([name, label, key]) => (
          <TextField key={name} label={label} unit={PLACEHOLDER.length[units]} {...form.field(name, key)} />
        ))}
        <Button type="submit" disabled={lanes.isPending}>
          {t("workItOut")}
        </Button>
      </form>
      {lanes.data ? (
        <p data-testid="lanes-answer">
          <strong className="display text-2xl">{t("lanesCounted", { count: lanes.data.count })}</strong>{" "}
          {t("lanesOf", {
            length: aboutDistance(lanes.data.length_m, units),
            width: aboutDistance(lanes.data.width_m, units),
          })}{" "}
          <Value figure={lanes.data.area}>{aboutArea(lanes.data.area.value, units)}</Value>.{" "}
          <Value figure={lanes.data.seed}>{seedWords(lanes.data.seed.value, units)}</Value> {t("ofSeed")}
          {places ? `, ${t("inPlaces", { count: lanes.data.places })}` : ""}.
        </p>
      ) : null}
    </section>
  );
}
