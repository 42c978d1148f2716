import { Check } from "lucide-react";
import { useState } from "react";
import type { TaskOut } from "@/api/schema.gen";
import { amountOf } from "@/features/work/amounts";
import { t } from "@/texts/log";
import { Button } from "@/ui/Button";
import { Tick } from "@/ui/Tick";
import { dayOf, momentAt } from "./sending";
import { type FieldSite, keepWaiting } from "./store";

interface Props {
  plot: { id: string; name: string };
  site: FieldSite;
  user: string;
  /** Keys of tasks that were ticked off and are not sent yet. */
  waiting: string[];
  written: () => void;
}

/** The tasks of a plot, to be ticked off: kept on the phone first, then sent; cautions are read before. */
export function FieldTasks({ plot, site, user, waiting, written }: Props) {
  const [read, setRead] = useState(false);
  const tasks = site.tasks.plots
    .filter(({ plot_id }) => plot_id === plot.id)
    .flatMap((ofPlot) => ofPlot.tasks)
    .filter((task) => !waiting.includes(task.key));
  if (tasks.length === 0) return null;
  const cautions = site.tasks.cautions.filter(({ key }) => tasks.some((task) => task.cautions.includes(key)));
  const tick = async (task: TaskOut) => {
    const typedAt = momentAt(site);
    await keepWaiting({
      id: crypto.randomUUID(),
      user,
      workspaceId: site.workspaceId,
      siteId: site.siteId,
      plotId: plot.id,
      pileId: null,
      name: plot.name,
      on: dayOf(typedAt),
      units: site.units,
      entry: { kind: t("taskTicked", { task: task.words }), key: task.key },
      report: {
        task: task.kind,
        own: task.own,
        season: site.tasks.season_key,
        cautions_read: read,
        ...(task.kind === "chips" ? { volume_m3: `${task.amount} m3` } : {}),
      },
      note: "",
      photos: [],
      typedAt,
    });
    written();
  };
  return (
    <details className="mb-4" data-testid="field-tasks">
      <summary className="press flex cursor-pointer items-center text-lg font-semibold">
        {t("tasksHere", { count: tasks.length })}
      </summary>
      {cautions.length > 0 ? (
        <div className="border-l-4 border-warning pl-2 text-sm">
          {cautions.map(({ key, about, words }) => (
            <p key={key}>
              <strong>{about}.</strong> {words}
            </p>
          ))}
          <Tick className="font-semibold" checked={read} onChange={setRead}>
            {t("cautionsRead", {
              about: cautions
                .map(({ about }) => about)
                .join(", ")
                .toLowerCase(),
            })}
          </Tick>
        </div>
      ) : null}
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {tasks.map((task) => (
          <li key={task.key} className="flex items-center gap-2 py-1">
            <span className="grow">
              <strong>{task.words}</strong>
              {task.unit === "h" ? "" : `, ${amountOf(task, site.units)}`}
            </span>
            <Button
              className="h-12"
              disabled={task.cautions.length > 0 && !read}
              aria-label={t("taskTicked", { task: task.words })}
              onClick={() => void tick(task)}
            >
              <Check size={20} aria-hidden /> {t("tickOff")}
            </Button>
          </li>
        ))}
      </ul>
    </details>
  );
}
