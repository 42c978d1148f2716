import { useQuery } from "@tanstack/react-query";
import { useChange } from "@/api/change";
import { useRequests } from "@/api/requests";
import type { CrewEntry, Occasion, TaskWish } from "@/api/schema.gen";
import { useStale } from "@/api/stale";
import { dateFormat } from "@/ui/intl";

const DAY_MS = 86_400_000;

/** A day so many days after another; both as ISO dates. */
export function dayAfter(iso: string, days: number): string {
  return new Date(Date.parse(`${iso}T12:00Z`) + days * DAY_MS).toISOString().slice(0, 10);
}

/** A day in words, with its weekday. */
export function dayWords(iso: string): string {
  return dateFormat({ weekday: "long", day: "numeric", month: "long" }).format(new Date(`${iso}T12:00`));
}

/** The Monday of a day's week. */
export function mondayOf(iso: string): string {
  return dayAfter(iso, -((new Date(`${iso}T12:00Z`).getUTCDay() + 6) % 7));
}

export type View = "month" | "week" | "agenda";
const AGENDA_DAYS = 60;
export const WEEK_DAYS = 7;

/** The first day of a month so many months after a day's. */
function monthAfter(iso: string, months: number): string {
  const [year = 0, month = 1] = iso.split("-").map(Number);
  return new Date(Date.UTC(year, month - 1 + months, 1)).toISOString().slice(0, 10);
}

/** The first and the last day that a view shows of a day's week or month, in whole weeks, or from a day on in the agenda. */
export function spanOf(view: View, iso: string): [first: string, last: string] {
  if (view === "agenda") return [iso, dayAfter(iso, AGENDA_DAYS)];
  if (view === "week") return [mondayOf(iso), dayAfter(mondayOf(iso), WEEK_DAYS - 1)];
  const ends = dayAfter(monthAfter(iso, 1), -1);
  return [mondayOf(monthAfter(iso, 0)), dayAfter(mondayOf(ends), WEEK_DAYS - 1)];
}

/** The day to which a view goes on, or back. */
export function turned(view: View, iso: string, step: 1 | -1): string {
  if (view === "month") return monthAfter(iso, step);
  return dayAfter(iso, step * (view === "week" ? WEEK_DAYS : AGENDA_DAYS));
}

/** What falls on a day, spans among it. */
export function on(occasions: Occasion[], iso: string): Occasion[] {
  return occasions.filter((occasion) => occasion.on <= iso && occasion.until >= iso);
}

export function useCalendar(first: string, last: string) {
  const { siteApi, key } = useRequests();
  return useQuery({
    queryKey: key("supply", "calendar", first, last),
    queryFn: () => siteApi.get("/calendar", { query: { first, last } }),
    placeholderData: (before) => before,
  });
}

/** The crews that some occasions name. */
export function crewsOf(occasions: Occasion[]): string[] {
  return [...new Set(occasions.flatMap((occasion) => occasion.crews ?? []))].sort();
}

/** What is to be changed so that the work of an occasion is done on another day; null lets the plan choose. */
export function moved(occasion: Occasion, to: string | null): TaskWish[] {
  return wishesFor(occasion).map((wish) => ({ ...wish, on: to }));
}

/** The tasks of an occasion, to be changed. */
export function wishesFor(occasion: Occasion): TaskWish[] {
  return (occasion.tasks ?? []).map((key) => {
    const [plot = "", task = ""] = key.split(" ");
    const taskId = task.includes("-") ? task : null;
    return {
      season: occasion.season ?? "",
      plot_id: plot,
      task: taskId ? "own" : (task as TaskWish["task"]),
      own: taskId,
    };
  });
}

export function useChanges() {
  const { siteApi } = useRequests();
  const refresh = useStale("plan");
  const make = useChange(
    (changes: TaskWish[]) => siteApi.put("/task-changes", { body: { changes } }),
    () => void refresh(),
  );
  const attempt = useChange((changes: TaskWish[]) => siteApi.post("/task-changes/trial", { body: { changes } }));
  const drop = useChange(
    (own_id: string) => siteApi.delete("/task-changes/{own_id}", { path: { own_id } }),
    () => void refresh(),
  );
  return { make, attempt, drop };
}

export function useCrew() {
  const { siteApi } = useRequests();
  const refresh = useStale("plan");
  return useChange(
    (body: CrewEntry) => siteApi.put("/crew", { body }),
    () => void refresh(),
  );
}
