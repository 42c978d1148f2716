import { useState } from "react";
import type { OpenedRows, RowSheet } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { useLogChanges } from "@/features/log/log";
import { t } from "@/texts/work";
import { Button } from "@/ui/Button";
import { SelectField, TextField } from "@/ui/Field";
import { useFields } from "@/ui/fields";
import { day, valueText } from "@/ui/format";
import { Notices } from "@/ui/Notices";
import { about, aboutArea, aboutDepth, aboutDistance, inUnits } from "@/ui/precision";
import { Sentence } from "@/ui/Sentence";
import { Loading, Trouble } from "@/ui/states";
import { Tick } from "@/ui/Tick";
import { useUnits } from "@/ui/units";
import { Value } from "@/ui/working";
import { Crops } from "./Crops";
import { Fact } from "./Fact";
import { LanesForm } from "./LanesForm";
import { OpenRowsForm } from "./OpenRowsForm";
import { DOES, isStep, type RowStep, STATES, useRows } from "./rows";
import { seedWords } from "./seed";
import { Waterings } from "./Waterings";

/** Mulched ground that is opened, sown, and closed again: how it stands, and what comes next. */
export function RowsPage() {
  const may = useMay();
  const sheet = useRows();
  const [opening, open] = useState(false);
  const [notices, setNotices] = useState<string[]>([]);
  const units = useUnits();
  if (sheet.isPending) return <Loading what={t("theRows")} />;
  if (sheet.isError) return <Trouble error={sheet.error} retry={() => sheet.refetch()} />;
  const { rows, first_frost } = sheet.data;
  return (
    <div className="mx-auto max-w-4xl space-y-6 p-4 sm:p-6" data-testid="rows">
      <header className="flex flex-wrap items-start justify-between gap-3">
        <div>
          <p className="display text-4xl text-primary">{t("rowsOpen", { count: sheet.data.count })}</p>
          <p>
            {first_frost
              ? t(sheet.data.frost_observed ? "firstFrostObserved" : "firstFrostFromMonths", {
                  day: day(first_frost),
                })
              : t("noFrostHere")}
          </p>
        </div>
        <Button shown={may.edit && !opening} primary onClick={() => open(true)}>
          {t("openRows")}
        </Button>
      </header>
      <Notices notices={notices.map((notice) => inUnits(notice, units))} />
      {opening ? (
        <OpenRowsForm
          sheet={sheet.data}
          close={(sentences) => {
            open(false);
            if (sentences) setNotices(sentences);
          }}
        />
      ) : null}
      {rows.length === 0 && !opening ? <p>{t("noRowsYet")}</p> : null}
      <ol className="space-y-4">
        {rows.map((row) => (
          <Row key={row.id} row={row} sheet={sheet.data} setNotices={setNotices} />
        ))}
      </ol>
      <Waterings waterings={sheet.data.waterings} />
      <LanesForm crops={sheet.data.crops} />
      <Crops sheet={sheet.data} />
    </div>
  );
}

interface RowProps {
  row: OpenedRows;
  sheet: RowSheet;
  setNotices: (notices: string[]) => void;
}

function Row({ row, sheet, setNotices }: RowProps) {
  const units = useUnits();
  const may = useMay();
  const [doing, start] = useState<RowStep>();
  const { opened, figures } = row;
  const steps = row.after.filter(isStep);
  const next = steps.find((step) => step === row.next_state);
  const others = steps.filter((step) => step !== next);
  return (
    <li className="border-t-2 border-base-content pt-2" data-testid="row">
      <h2 className="text-xl">
        {row.plot}: {row.crop_name ?? t("nothingSownYet")}
        {opened.name ? `, ${opened.name}` : ""}
      </h2>
      <p>
        <strong>{STATES[row.state]}</strong> {t("since", { day: day(row.since) })}.{" "}
        {opened.form === "patch"
          ? t("aPatchOf", { area: aboutArea(figures.area.value, units) })
          : t("rowsOf", {
              count: opened.count ?? 1,
              length: aboutDistance(figures.length_m, units),
              area: aboutArea(figures.area.value, units),
            })}
      </p>
      <dl className="grid grid-cols-2 gap-x-4 gap-y-1 py-1 sm:grid-cols-4">
        <Fact label={t("chipsAside")}>
          <Value figure={figures.aside}>{about(figures.aside.value, units)}</Value>
        </Fact>
        <Fact label={t("goBackRoundPlants", { depth: aboutDepth(figures.growing_mm, units) })}>
          <Value figure={figures.back}>{about(figures.back.value, units)}</Value>
        </Fact>
        {figures.seed ? (
          <Fact label={t("seed")}>
            <Value figure={figures.seed}>{seedWords(figures.seed.value, units)}</Value>
          </Fact>
        ) : null}
        {row.ready_on ? <Fact label={t("readyAbout")}>{day(row.ready_on)}</Fact> : null}
      </dl>
      {row.hints.map((hint) => (
        <p key={hint} className="text-sm">
          {inUnits(hint, units)}
        </p>
      ))}
      {next && row.next_on ? (
        <div className="flex flex-wrap items-center gap-3 pt-1">
          <p className="grow">
            <strong>{row.next_on <= sheet.today ? t("now") : day(row.next_on)}:</strong> {row.next_words}
            {row.hours ? (
              <>
                , <Value figure={row.hours}>{valueText(row.hours.value, "h", units)}</Value>
              </>
            ) : null}
          </p>
          <Button shown={may.edit} primary onClick={() => start(next)}>
            {DOES[next]}
          </Button>
          {may.edit
            ? others.map((step) => (
                <Button key={step} small onClick={() => start(step)}>
                  {DOES[step]}
                </Button>
              ))
            : null}
        </div>
      ) : null}
      {doing ? (
        <StepForm
          key={doing}
          row={row}
          step={doing}
          sheet={sheet}
          close={(sentences) => {
            start(undefined);
            if (sentences) setNotices(sentences);
          }}
        />
      ) : null}
    </li>
  );
}

interface StepFormProps {
  row: OpenedRows;
  step: RowStep;
  sheet: RowSheet;
  close: (sentences?: string[]) => void;
}

/** Writes a step on opened ground into the log. */
function StepForm({ row, step, sheet, close }: StepFormProps) {
  const units = useUnits();
  const { add } = useLogChanges();
  const [id] = useState(() => crypto.randomUUID());
  const starts = step === "sown" || step === "planted";
  const crop = sheet.crops.find((other) => other.key === row.crop);
  const form = useFields({
    start: { on: sheet.today, crop: row.crop ?? "", depth: "", roots: crop?.kind === "legume" },
    problem: add.error,
  });
  const { on, crop: chosen, depth, roots } = form.values;
  return (
    <form
      noValidate
      className="grid grid-cols-2 items-end gap-3 py-2 sm:grid-cols-4"
      aria-label={`${DOES[step]}: ${row.plot}`}
      onSubmit={form.onSubmit(() =>
        add.mutate(
          {
            id,
            plot_id: row.plot_id,
            on,
            units,
            note: "",
            photos: [],
            entry: {
              kind: "row",
              opening: row.id,
              step,
              ...(starts && chosen ? { crop: chosen } : {}),
              ...(step === "closed" && depth.trim() ? { depth_mm: depth } : {}),
              ...(step === "cleared" && crop?.kind === "legume" ? { roots_left: roots } : {}),
            },
          },
          { onSuccess: (answer) => close([...(answer.said ?? [])]) },
        ),
      )}
    >
      <TextField label={t("on")} type="date" {...form.field("on")} />
      {starts ? (
        <SelectField
          label={t("crop")}
          {...form.field("crop")}
          options={[["", t("chooseACrop")], ...sheet.crops.map((other): [string, string] => [other.key, other.name])]}
        />
      ) : null}
      {step === "closed" ? (
        <TextField
          label={t("depthPutBack")}
          hint={t("leftEmptyMeans", { depth: aboutDepth(row.figures.growing_mm, units) })}
          {...form.field("depth", "entry.depth_mm")}
        />
      ) : null}
      {step === "cleared" && crop?.kind === "legume" ? (
        <Tick checked={roots} onChange={(roots) => form.change({ roots })}>
          {t("rootsLeft")}
        </Tick>
      ) : null}
      <div className="flex gap-2">
        <Button type="submit" primary disabled={add.isPending}>
          {t("writeDown")}
        </Button>
        <Button onClick={() => close()}>{t("close")}</Button>
      </div>
      <Sentence className="col-span-full" text={form.errorAt("entry.step") ?? form.sentence} />
    </form>
  );
}
