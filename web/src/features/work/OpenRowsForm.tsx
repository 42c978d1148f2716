import { useState } from "react";
import type { RowSheet, RowTrial } from "@/api/schema.gen";
import { useLogChanges } from "@/features/log/log";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/work";
import { SelectField, TextField } from "@/ui/Field";
import { FormFoot } from "@/ui/FormFoot";
import { useFields, useSettledTexts } from "@/ui/fields";
import { PLACEHOLDER, valueText } from "@/ui/format";
import { about, aboutArea, aboutDepth, inUnits } from "@/ui/precision";
import { useUnits } from "@/ui/units";
import { Value } from "@/ui/working";
import { Fact } from "./Fact";
import { RowSketch } from "./RowSketch";
import { useRowTrial } from "./rows";
import { seedWords } from "./seed";
import { TimeAnswer } from "./TimeAnswer";

interface Texts {
  plot: string;
  crop: string;
  form: "rows" | "strip" | "patch";
  count: string;
  length: string;
  width: string;
  apart: string;
  in: string;
  name: string;
  on: string;
}

/** How many rows; null where that cannot be. */
function countOf(texts: Texts): number | null {
  const count = Number(texts.count.trim());
  return Number.isInteger(count) && count >= 1 && count <= 500 ? count : null;
}

function entryOf(texts: Texts, opening: string): RowTrial["entry"] & { kind: "opened" } {
  return {
    kind: "opened",
    opening,
    form: texts.form,
    count: countOf(texts) ?? 1,
    length_m: texts.length,
    width_m: texts.width,
    ...(texts.apart.trim() ? { apart_m: texts.apart } : {}),
    ...(texts.in.trim() ? { in_m: texts.in } : {}),
    ...(texts.crop ? { crop: texts.crop } : {}),
    name: texts.name.trim(),
  };
}

/** Opens rows: where, how many, for which crop; whether there is time, and what lies aside, before it is done. */
export function OpenRowsForm({ sheet, close }: { sheet: RowSheet; close: (said?: string[]) => void }) {
  const units = useUnits();
  const { sheet: site } = useSite();
  const { add } = useLogChanges();
  const [id] = useState(() => crypto.randomUUID());
  const [opening] = useState(() => crypto.randomUUID());
  const us = units === "us";
  const form = useFields<Texts>({
    start: {
      plot: sheet.plots.find((plot) => plot.growing_mm > 0)?.plot_id ?? "",
      crop: "",
      form: "rows",
      count: "1",
      length: "",
      width: us ? "10 in" : "250 mm",
      apart: "",
      in: "",
      name: "",
      on: sheet.today,
    },
    draft: `rows.${site.data?.site.id ?? ""}`,
    problem: add.error,
  });
  const [texts] = useSettledTexts(form);
  const plot = sheet.plots.find((other) => other.plot_id === texts.plot);
  const drawn = site.data?.plots.find((other) => other.id === texts.plot);
  const badCount = countOf(texts) === null;
  const ready = texts.plot !== "" && texts.length.trim() !== "" && texts.width.trim() !== "";
  const { tried, errors } = useRowTrial({ plot_id: texts.plot, units, entry: entryOf(texts, opening) }, ready);
  const field = <Name extends keyof Texts>(name: Name, at: string = name) => {
    const props = form.field(name, `entry.${at}`);
    return { ...props, error: props.error ?? errors.find((error) => error.field === `entry.${at}`)?.detail };
  };
  const save = (typed: Texts) => {
    if (countOf(typed) === null) return;
    const entry = entryOf(typed, opening);
    add.mutate(
      { id, plot_id: typed.plot, on: typed.on, units, note: "", photos: [], entry },
      {
        onSuccess: (answer) => {
          form.clear();
          close([...(answer.said ?? [])]);
        },
      },
    );
  };
  return (
    <form
      noValidate
      className="space-y-3 border-l-4 border-primary bg-base-100 p-3"
      aria-label={t("openRows")}
      onSubmit={form.onSubmit(save)}
    >
      <div className="grid gap-3 sm:grid-cols-3">
        <SelectField
          label={t("plot")}
          {...form.field("plot", "plot_id")}
          options={[
            ["", t("chooseAPlot")],
            ...sheet.plots.map((other): [string, string] => [other.plot_id, other.plot]),
          ]}
        />
        <SelectField
          label={t("crop")}
          {...field("crop")}
          options={[["", t("notDecidedYet")], ...sheet.crops.map((crop): [string, string] => [crop.key, crop.name])]}
        />
        <TextField label={t("on")} type="date" {...form.field("on")} />
      </div>
      {plot?.holds.map((words) => (
        <p key={words} className="border-l-4 border-error pl-3">
          {inUnits(words, units)}
        </p>
      ))}
      {texts.crop ? (
        <TimeAnswer crop={texts.crop} crops={sheet.crops} on={texts.on} choose={(crop) => form.change({ crop })} />
      ) : null}
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-4">
        <SelectField
          label={t("form")}
          {...form.field("form")}
          options={{ rows: t("rowsForm"), strip: t("strip"), patch: t("patch") }}
        />
        {texts.form === "patch" ? null : (
          <TextField label={t("howMany")} {...field("count")} {...(badCount && { error: t("typeAWholeNumber") })} />
        )}
        <TextField label={t("length")} unit={PLACEHOLDER.length[units]} {...field("length", "length_m")} />
        <TextField label={t("width")} unit={PLACEHOLDER.length[units]} {...field("width", "width_m")} />
        {texts.form === "patch" ? null : (
          <TextField label={t("apart")} hint={t("emptyMeansEven")} {...field("apart", "apart_m")} />
        )}
        <TextField label={t("fromTheEdge")} hint={t("emptyMeansMiddle")} {...field("in", "in_m")} />
        <TextField label={t("name")} {...field("name")} />
      </div>
      <div className="grid gap-3 sm:grid-cols-2">
        {drawn ? <RowSketch outline={drawn.outline} rings={tried?.rings ?? []} /> : null}
        {tried ? (
          <dl className="grid grid-cols-2 content-start gap-2" data-testid="tried">
            <Fact label={t("groundOpened")}>
              <Value figure={tried.area}>{aboutArea(tried.area.value, units)}</Value>
            </Fact>
            <Fact label={t("chipsAside")}>
              <Value figure={tried.aside}>{about(tried.aside.value, units)}</Value>
            </Fact>
            <Fact label={t("goBackRoundPlants", { depth: aboutDepth(tried.growing_mm, units) })}>
              <Value figure={tried.back}>{about(tried.back.value, units)}</Value>
            </Fact>
            {tried.seed ? (
              <Fact label={t("seed")}>
                <Value figure={tried.seed}>{seedWords(tried.seed.value, units)}</Value>
              </Fact>
            ) : null}
            {tried.opening_hours ? (
              <Fact label={t("hoursToOpen")}>
                <Value figure={tried.opening_hours}>{valueText(tried.opening_hours.value, "h", units)}</Value>
              </Fact>
            ) : null}
            {tried.outside ? <p className="col-span-full text-error">{t("partlyOutside")}</p> : null}
            <p className="col-span-full text-sm text-base-content/75">{t("asideIsNotOrdered")}</p>
          </dl>
        ) : (
          <p className="text-base-content/75">{t("typeLengthToSee")}</p>
        )}
      </div>
      <FormFoot sentence={form.sentence} busy={add.isPending} save={t("openAndWriteDown")} close={() => close()} />
    </form>
  );
}
