import { useState } from "react";
import type { TaskOut, TaskSheet, TaskWish } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/work";
import { Button } from "@/ui/Button";
import { SelectField, TextField } from "@/ui/Field";
import { FormFoot } from "@/ui/FormFoot";
import { useFields } from "@/ui/fields";
import { namesOf } from "@/ui/Select";
import { Sentence } from "@/ui/Sentence";
import { typedNumberOrNone } from "@/ui/typedNumber";
import { useChanges } from "./days";

interface Props {
  task: TaskOut;
  plotId: string;
  season: string;
  close: () => void;
}

/** Another day, other hours, or left out: a changed plan leaves that as it was said. */
export function ChangeForm({ task, plotId, season, close }: Props) {
  const { make, drop } = useChanges();
  const form = useFields({
    start: {
      on: task.on ?? "",
      hours: task.changed || task.own ? String(task.hours.value) : "",
      crew: task.crew,
    },
    problem: make.error,
  });
  const { on, hours, crew } = form.values;
  const change = (more: Partial<TaskWish>): TaskWish => ({
    season,
    plot_id: plotId,
    task: task.kind,
    own: task.own,
    ...more,
  });
  return (
    <form
      noValidate
      className="grid grid-cols-2 items-start gap-3 py-2 sm:grid-cols-5"
      aria-label={t("changeTask", { task: task.words })}
      onSubmit={form.onSubmit(() =>
        make.mutate([change({ on: on || null, hours: typedNumberOrNone(hours), crew })], {
          onSuccess: close,
        }),
      )}
    >
      <TextField label={t("day")} type="date" hint={t("emptyMeansPlan")} {...form.field("on", "changes.0.on")} />
      <TextField
        label={t("personHoursTaken")}
        unit="h"
        hint={task.own ? undefined : t("emptyMeansWorkedOut")}
        {...form.field("hours", "changes.0.hours")}
      />
      <TextField label={t("crew")} {...form.field("crew", "changes.0.crew")} />
      <Button type="submit" primary className="mt-6" disabled={make.isPending}>
        {t("saveChange")}
      </Button>
      <Button
        className="mt-6"
        onClick={() => {
          if (task.own) drop.mutate(task.own, { onSuccess: close });
          else make.mutate([change({ left_out: true })], { onSuccess: close });
        }}
      >
        {task.own ? t("deleteTask") : t("leaveOut")}
      </Button>
      <Sentence className="col-span-full" text={form.sentence} />
    </form>
  );
}

/** A task of one's own on a plot. */
export function AddTask({ season }: { season: string }) {
  const { sheet } = useSite();
  const { make } = useChanges();
  const [open, setOpen] = useState(false);
  const plots = sheet.data?.plots ?? [];
  const form = useFields({
    start: { words: "", plot: "", hours: "", on: "" },
    problem: make.error,
  });
  const { words, plot, hours, on } = form.values;
  if (!open) {
    return <Button onClick={() => setOpen(true)}>{t("addATask")}</Button>;
  }
  return (
    <form
      noValidate
      className="grid grid-cols-2 gap-3 border-l-4 border-primary bg-base-100 p-3 sm:grid-cols-4"
      aria-label={t("addATask")}
      onSubmit={form.onSubmit(() =>
        make.mutate(
          [
            {
              season,
              plot_id: plot || (plots[0]?.id ?? ""),
              task: "own",
              own: crypto.randomUUID(),
              words: words.trim(),
              hours: typedNumberOrNone(hours),
              on: on || null,
            },
          ],
          {
            onSuccess: () => {
              form.clear({ words: "", plot: "", hours: "", on: "" });
              setOpen(false);
            },
          },
        ),
      )}
    >
      <TextField label={t("whatIsToBeDone")} {...form.field("words", "changes.0.words")} />
      <SelectField label={t("plot")} {...form.field("plot", "changes.0.plot_id")} options={namesOf(plots)} />
      <TextField label={t("personHoursTaken")} unit="h" {...form.field("hours", "changes.0.hours")} />
      <TextField label={t("day")} type="date" hint={t("emptyMeansPlan")} {...form.field("on", "changes.0.on")} />
      <div className="col-span-full">
        <FormFoot sentence={form.sentence} busy={make.isPending} save={t("saveTask")} close={() => setOpen(false)} />
      </div>
    </form>
  );
}

/** Tasks that were left out, to be brought back. */
export function LeftOutList({ sheet }: { sheet: TaskSheet }) {
  const may = useMay();
  const { make } = useChanges();
  if (sheet.left_out.length === 0) return null;
  return (
    <section data-testid="left-out">
      <h2 className="text-lg">{t("leftOutTasks")}</h2>
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {sheet.left_out.map((task) => (
          <li key={`${task.plot_id} ${task.task}`} className="flex items-center gap-3 py-1">
            <span className="grow">
              {task.plot}: {task.words}
            </span>
            <Button
              shown={may.edit}
              small
              aria-label={t("bringBackTask", { task: task.words })}
              onClick={() =>
                make.mutate([{ season: sheet.season_key, plot_id: task.plot_id, task: task.task, left_out: false }])
              }
            >
              {t("bringBack")}
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
