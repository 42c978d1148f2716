import { useState } from "react";
import type { TaskChange, TaskOut } from "@/api/schema.gen";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/work";
import { SelectField, TextField } from "@/ui/Field";
import { FormFoot } from "@/ui/FormFoot";
import { useFields } from "@/ui/fields";
import { useChanges } from "./days";

/** Hours as a number; what is none goes to the server as it is, which says so. */
function hoursOf(text: string): number | null {
  if (text.trim() === "") return null;
  const hours = Number(text.replace(",", "."));
  return Number.isFinite(hours) ? hours : (text as unknown as number);
}

/** Another day, other hours, or left out: a changed plan leaves that as it was said. */
export function ChangeForm({
  task,
  plotId,
  season,
  close,
}: {
  task: TaskOut;
  plotId: string;
  season: string;
  close: () => void;
}) {
  const { make, drop } = useChanges();
  const form = useFields({
    start: {
      on: task.on ?? "",
      hours: task.changed || task.own ? String(task.hours.value) : "",
    },
    problem: make.error,
  });
  const { on, hours } = form.values;
  const change = (more: Partial<TaskChange>): TaskChange => ({
    season,
    plot_id: plotId,
    task: task.kind,
    own: task.own,
    ...(task.own ? { words: task.words } : {}),
    ...more,
  });
  return (
    <form
      noValidate
      className="grid grid-cols-2 items-end gap-3 py-2 sm:grid-cols-4"
      aria-label={t("changeTask", { task: task.words })}
      onSubmit={form.onSubmit(() =>
        make.mutate([change({ on: on || null, hours: hoursOf(hours) })], { onSuccess: close }),
      )}
    >
      <TextField
        label={t("day")}
        type="date"
        hint={t("emptyMeansPlan")}
        {...form.field("on")}
        error={form.errorAt("changes.0.on")}
      />
      <TextField
        label={t("personHoursTaken")}
        unit="h"
        hint={task.own ? undefined : t("emptyMeansWorkedOut")}
        {...form.field("hours")}
        error={form.errorAt("changes.0.hours")}
      />
      <button type="submit" className="btn btn-primary press" disabled={make.isPending}>
        {t("saveChange")}
      </button>
      <button
        type="button"
        className="btn press"
        onClick={() => {
          if (task.own) drop.mutate(task.own, { onSuccess: close });
          else make.mutate([change({ left_out: true })], { onSuccess: close });
        }}
      >
        {task.own ? t("deleteTask") : t("leaveOut")}
      </button>
      {form.sentence ? (
        <p className="col-span-full text-error" role="alert">
          {form.sentence}
        </p>
      ) : null}
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
    return (
      <button type="button" className="btn press" onClick={() => setOpen(true)}>
        {t("addATask")}
      </button>
    );
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
              hours: hoursOf(hours),
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
      <TextField
        label={t("whatIsToBeDone")}
        {...form.field("words")}
        error={form.errorAt("changes.0.words")}
      />
      <SelectField
        label={t("plot")}
        {...form.field("plot")}
        options={plots.map((other): [string, string] => [other.id, other.name])}
        error={form.errorAt("changes.0.plot_id")}
      />
      <TextField
        label={t("personHoursTaken")}
        unit="h"
        {...form.field("hours")}
        error={form.errorAt("changes.0.hours")}
      />
      <TextField
        label={t("day")}
        type="date"
        hint={t("emptyMeansPlan")}
        {...form.field("on")}
        error={form.errorAt("changes.0.on")}
      />
      <div className="col-span-full">
        <FormFoot
          sentence={form.sentence}
          busy={make.isPending}
          save={t("saveTask")}
          close={() => setOpen(false)}
        />
      </div>
    </form>
  );
}
