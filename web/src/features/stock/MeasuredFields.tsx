import type { UnitSystem } from "@/api/schema.gen";
import { t } from "@/texts/stock";
import { TextField } from "@/ui/Field";
import { PLACEHOLDER } from "@/ui/format";
import { Segments } from "@/ui/Segments";
import { Sentence } from "@/ui/Sentence";
import type { MeasuredKind, MeasuredTexts } from "./measured";

const WAYS: Record<MeasuredKind, string> = {
  heap: t("tapeMeasure"),
  barrows: t("numberOfBarrows"),
  weight: t("weight"),
  stated: t("volumeStated"),
};

interface Props {
  value: MeasuredTexts;
  change: (next: MeasuredTexts) => void;
  units: UnitSystem;
  errorAt: (name: string) => string | undefined;
  ways: MeasuredKind[];
}

/** How much it is: a pile measured with a tape, barrows counted, weighed, or as somebody says. */
export function MeasuredFields({ value, change, units, errorAt, ways }: Props) {
  const length = PLACEHOLDER.length[units];
  const field = (key: Exclude<keyof MeasuredTexts, "by">) => ({
    name: key,
    value: value[key],
    onChange: (text: string) => change({ ...value, [key]: text }),
    error: value[key].trim() === "" ? undefined : errorAt(`measured.${key}`),
  });
  return (
    <div className="space-y-2">
      <Segments
        label={t("measuredBy")}
        className="flex-wrap"
        button="px-3"
        value={value.by}
        options={ways.map((by) => [by, WAYS[by]] as const)}
        choose={(by) => change({ ...value, by })}
      />
      {value.by === "heap" ? (
        <div className="grid grid-cols-3 gap-3">
          <TextField label={t("widthAtTheBase")} unit={length} {...field("width_m")} />
          <TextField label={t("height")} unit={length} {...field("height_m")} />
          <TextField label={t("ridge")} unit={length} {...field("ridge_m")} hint={t("n0ForACone")} />
        </div>
      ) : value.by === "barrows" ? (
        <div className="grid grid-cols-2 gap-3">
          <TextField label={t("barrows")} {...field("barrows")} />
          <TextField label={t("oneBarrow")} unit={units === "us" ? t("cuFt") : "L"} {...field("barrow_m3")} />
        </div>
      ) : value.by === "weight" ? (
        <TextField
          label={t("weightHeading")}
          unit={units === "us" ? "lb" : "kg"}
          {...field("mass_kg")}
          hint={t("withItsUsualMoisture")}
        />
      ) : (
        <TextField label={t("volume")} unit={PLACEHOLDER.volume[units]} {...field("volume_m3")} />
      )}
      <Sentence text={errorAt("measured")} />
    </div>
  );
}
