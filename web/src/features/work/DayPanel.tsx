import { Printer } from "lucide-react";
import { Link, useParams } from "react-router";
import type { CalendarSheet, Occasion } from "@/api/schema.gen";
import { t } from "@/texts/work";
import { valueText } from "@/ui/format";
import { inUnits } from "@/ui/precision";
import { useUnits } from "@/ui/units";
import { CrewForm, MoveForm, PeopleForm } from "./DayForms";
import { crewsOf, dayWords, on } from "./days";
import { OccasionLine } from "./OccasionLine";

type Move = ((occasion: Occasion, to: string | null) => void) | undefined;

/** A day: how full it is, what falls on it and what that breaks, its work order, and moving work to another day. */
export function DayPanel({ sheet, day, move }: { sheet: CalendarSheet; day: string; move: Move }) {
  const units = useUnits();
  const { workspaceId, siteId } = useParams();
  const occasions = on(sheet.occasions, day);
  const room = sheet.days.find((other) => other.on === day);
  const works = occasions.filter((occasion) => occasion.kind === "work");
  const season = works[0]?.season;
  const query = new URLSearchParams({ on: day, ...(season ? { season } : {}) });
  return (
    <section className="min-w-0 space-y-2" aria-label={dayWords(day)} data-testid="day">
      <h2 className="text-lg">{dayWords(day)}</h2>
      {room && (works.length > 0 || room.closed) ? (
        <p className="text-sm">
          {room.closed
            ? t("closedBecause", { name: room.closed })
            : t("hoursOfCapacity", {
                hours: valueText(room.hours, "h", units),
                capacity: valueText(room.capacity_h, "h", units),
              })}
        </p>
      ) : null}
      {room?.warnings.map((words) => (
        <p key={words} className="border-l-4 border-warning pl-2 text-sm">
          {inUnits(words, units)} <span className="text-base-content/75">{t("simulatedOutlook")}</span>
        </p>
      ))}
      {occasions.length === 0 ? <p className="text-base-content/75">{t("nothingOnThisDay")}</p> : null}
      <ul className="divide-y divide-base-300">
        {occasions.map((occasion) => (
          <li key={occasion.key} className="py-2">
            <OccasionLine occasion={occasion} />
            {(occasion.details ?? []).length > 0 ? (
              <p className="text-sm text-base-content/75">
                {(occasion.details ?? []).map((words) => inUnits(words, units)).join(" · ")}
              </p>
            ) : null}
            {occasion.breaks?.map((words) => (
              <p key={words} className="text-sm text-error">
                {inUnits(words, units)}
              </p>
            ))}
            {occasion.kind === "work" && move ? (
              <div className="flex flex-wrap gap-x-3 text-sm">
                <MoveForm occasion={occasion} move={move} />
                <CrewForm occasion={occasion} known={crewsOf(sheet.occasions)} />
              </div>
            ) : null}
            {occasion.kind === "logged" || occasion.kind === "done" ? (
              <Link
                className="link press inline-flex items-center text-sm"
                to={`/w/${workspaceId}/sites/${siteId}/log`}
              >
                {t("toTheLog")}
              </Link>
            ) : null}
            {occasion.kind === "rows" ? (
              <Link
                className="link press inline-flex items-center text-sm"
                to={`/w/${workspaceId}/sites/${siteId}/work/rows`}
              >
                {t("toTheRows")}
              </Link>
            ) : null}
          </li>
        ))}
      </ul>
      {works.length > 0 ? (
        <div className="flex flex-wrap items-end gap-3">
          {[undefined, ...crewsOf(works)].map((crew) => (
            <a
              key={crew ?? ""}
              className="btn btn-sm press"
              href={`/api/v1/workspaces/${workspaceId}/sites/${siteId}/work-order.pdf?${query}${crew ? `&crew=${encodeURIComponent(crew)}` : ""}`}
              download
            >
              <Printer size={16} /> {crew ? t("workOrderOf", { crew }) : t("workOrder")}
            </a>
          ))}
          <PeopleForm sheet={sheet} day={day} key={day} />
        </div>
      ) : null}
    </section>
  );
}
