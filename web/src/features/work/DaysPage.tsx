import { Printer } from "lucide-react";
import { useParams } from "react-router";
import type { WorkDayOut } from "@/api/schema.gen";
import { Links } from "@/features/site/links";
import { SeasonSelect, useAskedSeason } from "@/features/site/SeasonSelect";
import { t } from "@/texts/work";
import { day, shown } from "@/ui/format";
import { Loading, Trouble } from "@/ui/states";
import { useUnits } from "@/ui/units";
import { useTasks } from "./tasks";

/** On which days the tasks of a season get done, with a work order for each day. */
export function DaysPage() {
  const units = useUnits();
  const asked = useAskedSeason();
  const { workspaceId, siteId } = useParams();
  const tasks = useTasks(asked);
  if (tasks.isPending) return <Loading what={t("theWork")} />;
  if (tasks.isError) return <Trouble error={tasks.error} retry={() => tasks.refetch()} />;
  const { days, people, day_hours, capacity_h, closes } = tasks.data;
  const late = days.filter((workDay) => workDay.late);
  return (
    <div className="mx-auto max-w-4xl space-y-5 p-4 sm:p-6" data-testid="days">
      <SeasonSelect seasons={tasks.data.seasons} value={tasks.data.season_key} />
      {days.length === 0 ? (
        <p>{t("nothingToDoIn", { season: tasks.data.season })}</p>
      ) : (
        <p>
          <span className="display text-4xl text-primary">{t("daysOfWork", { count: days.length })}</span>{" "}
          {t("withPeopleADay", { count: people, hours: shown(day_hours, "h", units) })}
        </p>
      )}
      {late.length > 0 ? (
        <p className="border-l-4 border-error pl-3">
          {t("daysAreLate", { count: late.length, closes: day(closes) })}
        </p>
      ) : null}
      <section className="space-y-2">
        <h2 className="text-lg">{t("calendar")}</h2>
        <a
          className="link press inline-flex items-center"
          href={`/api/v1/workspaces/${workspaceId}/sites/${siteId}/calendar.ics`}
          download
        >
          {t("calendarFile")}
        </a>
        <Links kind="calendar" address={(token) => `${location.origin}/api/v1/calendars/${token}.ics`} />
      </section>
      <ol className="space-y-3">
        {days.map((workDay) => (
          <Day key={workDay.on} workDay={workDay} capacity={capacity_h} season={asked} />
        ))}
      </ol>
    </div>
  );
}

function Day({
  workDay,
  capacity,
  season,
}: {
  workDay: WorkDayOut;
  capacity: number;
  season: string | undefined;
}) {
  const units = useUnits();
  const { workspaceId, siteId } = useParams();
  const query = new URLSearchParams({ on: workDay.on, ...(season ? { season } : {}) });
  return (
    <li className="border-t border-base-300 pt-2">
      <div className="flex flex-wrap items-center gap-x-4">
        <h2 className="text-lg">
          {new Date(`${workDay.on}T12:00`).toLocaleDateString(undefined, {
            weekday: "long",
            day: "numeric",
            month: "long",
          })}
        </h2>
        {workDay.late ? <span className="font-semibold text-error">{t("afterTheSeason")}</span> : null}
        <span className="grow" />
        <span>
          {t("ofHours", { hours: shown(workDay.hours, "h", units), all: shown(capacity, "h", units) })}
        </span>
        <a
          className="btn btn-sm press"
          href={`/api/v1/workspaces/${workspaceId}/sites/${siteId}/work-order.pdf?${query}`}
          download
        >
          <Printer size={16} /> {t("workOrder")}
        </a>
      </div>
      <ul>
        {workDay.stints.map((stint) => (
          <li key={stint.key} className="flex gap-x-3">
            <span className="min-w-0 grow">
              <strong>{stint.plot}</strong>: {stint.words}
              {stint.share < 0.999
                ? ` (${t("partToday", { share: `${Math.round(stint.share * 100)} %` })})`
                : ""}
            </span>
            <span className="whitespace-nowrap">{shown(stint.hours, "h", units)}</span>
          </li>
        ))}
      </ul>
    </li>
  );
}
