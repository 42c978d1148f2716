import { apiOfSite, client, Problem, resultOf } from "@/api/client";
import { sendPhotoTo } from "@/api/files";
import type { NewLogEntry } from "@/api/schema.gen";
import { dropWaiting, type FieldSite, keepWaiting, type Waiting, waitingOf } from "./store";

/** Sends what waits, once and only once: each entry and photo has an id of its own, which the server knows again. */

export type Outcome = "sent" | "offline" | "signed out";

const HOUR_MS = 3_600_000;
const DAY_MS = 24 * HOUR_MS;

/** Whether the server could not be asked: one that is not there for now is as good as no signal. */
const unasked = (error: unknown) =>
  error instanceof Problem && (error.status === 0 || (error.status >= 502 && error.status <= 504));

/** The moment at which something is written down, by the clock of the site's workspace. */
export function momentAt(site: FieldSite): number {
  return Date.now() + (site.clockAheadS ?? 0) * 1000;
}

/** The day of a moment where the phone is. */
export function dayOf(moment: number): string {
  const time = new Date(moment);
  return new Date(moment - time.getTimezoneOffset() * 60_000).toISOString().slice(0, 10);
}

/** The day an entry is of: as it was written down, or put right where the phone's clock is wrong by an hour or more. */
export function dayByServer(waiting: Pick<Waiting, "on" | "typedAt">, skew: number): string {
  const typedToday = waiting.on === dayOf(waiting.typedAt);
  return typedToday && Math.abs(skew) >= HOUR_MS ? dayOf(waiting.typedAt + skew) : waiting.on;
}

function bodyOf(waiting: Waiting, on: string): NewLogEntry {
  return {
    id: waiting.id,
    plot_id: waiting.plotId,
    pile_id: waiting.pileId,
    on,
    units: waiting.units,
    note: waiting.note,
    photos: waiting.photos.map((photo) => photo.id),
    entry: waiting.entry,
  };
}

async function sendOne(waiting: Waiting, skew: number): Promise<string[]> {
  const { id, workspaceId, siteId, plotId, units, report } = waiting;
  for (const photo of waiting.photos) await sendPhotoTo(workspaceId, siteId, new Blob([photo.content]), photo.id);
  const siteApi = apiOfSite(workspaceId, siteId);
  const post = async (on: string) =>
    report && plotId
      ? siteApi.post("/tasks", { body: { ...report, id, plot_id: plotId, on, units } })
      : siteApi.post("/log", { body: bodyOf(waiting, on) });
  const on = dayByServer(waiting, skew);
  try {
    return (await post(on)).said ?? [];
  } catch (error) {
    if (!(error instanceof Problem) || error.byField.on === undefined) throw error;
    // Where the site is it may still be the day before.
    return (await post(dayOf(Date.parse(`${on}T12:00:00`) - DAY_MS))).said ?? [];
  }
}

/** Sends what somebody has waiting, the earliest first; `report` hears what each entry has changed.
 *  What the server refuses is kept, with its sentence. Two tabs of one phone do not send at once. */
export async function sendWaiting(user: string, report: (sentences: string[]) => void): Promise<Outcome> {
  return navigator.locks.request("ulmatic.field", async () => {
    try {
      const answer = await client.GET("/api/v1/session");
      const session = resultOf(answer);
      if (session.user?.id !== user) return "signed out";
      const serverTime = Date.parse(answer.response.headers.get("date") ?? "");
      const skew = Number.isNaN(serverTime) ? 0 : serverTime - Date.now();
      for (const waiting of await waitingOf(user)) {
        if (waiting.problem) continue;
        try {
          const sentences = await sendOne(waiting, skew);
          await dropWaiting(waiting.id);
          report(sentences);
        } catch (error) {
          if (!(error instanceof Problem) || unasked(error) || error.status === 401) throw error;
          await keepWaiting({ ...waiting, problem: error.errors[0]?.detail ?? error.message });
        }
      }
      return "sent";
    } catch (error) {
      if (unasked(error) || (error instanceof Problem && error.status === 401)) return "offline";
      throw error;
    }
  });
}
