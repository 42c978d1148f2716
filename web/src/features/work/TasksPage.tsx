import { useState } from "react";
import type { PlotTasks, TaskOut, TaskSheet } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { SeasonSelect, useAskedSeason } from "@/features/site/SeasonSelect";
import { useStock } from "@/features/supply/supply";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/work";
import { Button } from "@/ui/Button";
import { today } from "@/ui/clock";
import { SelectField, TextField } from "@/ui/Field";
import { FormFoot } from "@/ui/FormFoot";
import { useFields } from "@/ui/fields";
import { day, PLACEHOLDER, valueText } from "@/ui/format";
import { Notices } from "@/ui/Notices";
import { inUnits } from "@/ui/precision";
import { namesOf } from "@/ui/Select";
import { Sentence } from "@/ui/Sentence";
import { Loading, Trouble } from "@/ui/states";
import { Tick } from "@/ui/Tick";
import { typedNumberOrNone } from "@/ui/typedNumber";
import { useUnits } from "@/ui/units";
import { rangeOf, Value } from "@/ui/working";
import { amountOf } from "./amounts";
import { AddTask, ChangeForm, LeftOutList } from "./ChangeForms";
import { useReport, useTasks } from "./tasks";

/** What each plot needs in a season, in the order that saves redoing; what is done goes into the log in the same step. */
export function TasksPage() {
  const units = useUnits();
  const may = useMay();
  const season = useAskedSeason();
  const tasks = useTasks(season);
  const [notices, setNotices] = useState<string[]>([]);
  if (tasks.isPending) return <Loading what={t("theWork")} />;
  if (tasks.isError) return <Trouble error={tasks.error} retry={() => tasks.refetch()} />;
  const { plots, hours, cautions, people, each_h } = tasks.data;
  return (
    <div className="mx-auto max-w-4xl space-y-5 p-4 sm:p-6" data-testid="tasks">
      <SeasonSelect seasons={tasks.data.seasons} value={tasks.data.season_key} />
      {plots.length === 0 ? (
        <p>{t("nothingToDoIn", { season: tasks.data.season })}</p>
      ) : (
        <header data-testid="task-hours">
          <p className="display text-4xl text-primary">
            <Value figure={hours}>{valueText(hours.value, "h", units)}</Value>
          </p>
          <p>
            {t("hoursOfAllTasks", { range: rangeOf(hours, units) ?? "" })}
            {people > 1 ? t("withPeopleAbout", { people, each: valueText(each_h, "h", units) }) : ""}
          </p>
        </header>
      )}
      <Notices notices={notices.map((notice) => inUnits(notice, units))} />
      {may.edit ? <AddTask season={tasks.data.season_key} /> : null}
      {cautions.length > 0 ? (
        <section className="border-l-4 border-warning bg-base-100 p-3" data-testid="cautions">
          <h2 className="font-semibold">{t("cautions")}</h2>
          <ul className="text-sm">
            {cautions.map((caution) => (
              <li key={caution.key}>
                <strong>{caution.about}.</strong> {caution.words}
              </li>
            ))}
          </ul>
        </section>
      ) : null}
      <ol className="space-y-4">
        {plots.map((plot) => (
          <Plot key={plot.plot_id} plot={plot} sheet={tasks.data} setNotices={setNotices} />
        ))}
      </ol>
      <LeftOutList sheet={tasks.data} />
    </div>
  );
}

interface PlotProps {
  plot: PlotTasks;
  sheet: TaskSheet;
  setNotices: (notices: string[]) => void;
}

function Plot({ plot, sheet, setNotices }: PlotProps) {
  const units = useUnits();
  const may = useMay();
  const [open, setOpen] = useState<string>();
  const [changing, change] = useState<string>();
  return (
    <li>
      <h2 className="text-lg">{plot.plot}</h2>
      <ol className="divide-y divide-base-300 border-y border-base-300">
        {plot.tasks.map((task) => (
          <li key={task.key} className="py-2">
            <div className="flex flex-wrap items-baseline gap-x-4">
              <span className="min-w-0 grow">
                <strong>{task.words}</strong>
                {task.unit === "h" ? "" : ", "}
                {task.unit === "trees" ? t("treesCounted", { count: Math.round(task.amount) }) : amountOf(task, units)}
                {task.material ? `, ${task.material.toLowerCase()}` : ""}
                <span className="block text-sm text-base-content/75">{task.tools.join(", ")}</span>
              </span>
              <Value figure={task.hours} className="font-semibold">
                {valueText(task.hours.value, "h", units)}
              </Value>
              {task.changed || task.on ? (
                <span className="text-sm">{task.on ? t("putOnDay", { day: day(task.on) }) : t("hoursAsSaid")}</span>
              ) : null}
              <Button
                shown={may.edit}
                small
                aria-expanded={open === task.key}
                onClick={() => setOpen(open === task.key ? undefined : task.key)}
              >
                {t("done")}
              </Button>
              <Button
                shown={may.edit}
                ghost
                small
                aria-label={t("changeTask", { task: task.words })}
                aria-expanded={changing === task.key}
                onClick={() => change(changing === task.key ? undefined : task.key)}
              >
                {t("change")}
              </Button>
            </div>
            {changing === task.key ? (
              <ChangeForm task={task} plotId={plot.plot_id} season={sheet.season_key} close={() => change(undefined)} />
            ) : null}
            {open === task.key ? (
              <DoneForm
                task={task}
                cautions={sheet.cautions}
                plotId={plot.plot_id}
                season={sheet.season_key}
                close={(sentences) => {
                  setOpen(undefined);
                  if (sentences) setNotices(sentences);
                }}
              />
            ) : null}
          </li>
        ))}
      </ol>
    </li>
  );
}

interface DoneFormProps {
  task: TaskOut;
  cautions: TaskSheet["cautions"];
  plotId: string;
  season: string;
  close: (sentences?: string[]) => void;
}

/** Writes down that a task was done, or a share of it, with its hours and what was laid. */
function DoneForm({ task, cautions, plotId, season, close }: DoneFormProps) {
  const units = useUnits();
  const { sheet } = useSite();
  const siteUnits = sheet.data?.site.units ?? units;
  const stock = useStock();
  const report = useReport();
  const [id] = useState(() => crypto.randomUUID());
  const chips = task.kind === "chips";
  const form = useFields({
    start: {
      share: "100 %",
      hours: "",
      person: "",
      volume: chips ? amountOf(task, siteUnits) : "",
      pile: "",
      on: sheet.data?.today ?? today(),
      read: false,
    },
    problem: report.error,
  });
  const texts = form.values;
  const piles = (stock.data?.piles ?? []).filter((pile) => pile.stock_m3 > 0);
  return (
    <form
      noValidate
      className="grid grid-cols-2 gap-3 py-2 sm:grid-cols-3"
      aria-label={t("taskDone", { task: task.words })}
      onSubmit={form.onSubmit(() =>
        report.mutate(
          {
            id,
            plot_id: plotId,
            task: task.kind,
            season,
            on: texts.on,
            units: siteUnits,
            share: chips ? "100 %" : texts.share,
            hours: typedNumberOrNone(texts.hours),
            person: texts.person,
            volume_m3: chips ? texts.volume : null,
            pile_id: chips && texts.pile ? texts.pile : null,
            own: task.own,
            cautions_read: texts.read,
          },
          { onSuccess: (answer) => close(answer.said) },
        ),
      )}
    >
      {chips ? (
        <>
          <TextField
            label={t("volumeLaid")}
            unit={PLACEHOLDER.volume[siteUnits]}
            {...form.field("volume", "volume_m3")}
          />
          <SelectField
            label={t("fromWhere")}
            {...form.field("pile", "pile_id")}
            options={[["", t("straightFromTheLoad")], ...namesOf(piles)]}
          />
        </>
      ) : (
        <TextField label={t("shareDone")} {...form.field("share")} />
      )}
      <TextField label={t("personHoursTaken")} unit="h" {...form.field("hours")} />
      <TextField label={t("person")} {...form.field("person")} />
      <TextField label={t("on")} type="date" {...form.field("on")} />
      {task.cautions.length > 0 ? (
        <Tick
          className="col-span-full"
          checked={texts.read}
          aria-invalid={Boolean(form.errorAt("cautions_read"))}
          onChange={(read) => form.change({ read })}
        >
          {t("cautionsWereRead", { about: aboutOf(task.cautions, cautions) })}
        </Tick>
      ) : null}
      <Sentence className="col-span-full" text={form.errorAt("cautions_read")} />
      <div className="col-span-full">
        <FormFoot sentence={form.sentence} busy={report.isPending} save={t("saveAsDone")} close={() => close()} />
      </div>
    </form>
  );
}

/** What cautions are about, in one line. */
function aboutOf(keys: string[], cautions: TaskSheet["cautions"]): string {
  return cautions
    .filter((caution) => keys.includes(caution.key))
    .map((caution) => caution.about.toLowerCase())
    .join(", ");
}
