import type { NewLogEntry } from "@/api/schema.gen";
import { dropWaiting, type FieldSite, keepWaiting, type Waiting, waitingOf } from "./store";

/** Sends what waits, once and only once: each entry and photo has an id of its own, which the server knows again. */

export type Outcome = "sent" | "offline" | "signed out";

const HOUR_MS = 3_600_000;
const DAY_MS = 24 * HOUR_MS;

class Offline extends Error {}

async function ask(address: string, options?: RequestInit): Promise<Response> {
  try {
    const response = await fetch(address, options);
    // A server, or a gateway before it, that is not there for now is as good as no signal.
    if (response.status >= 502 && response.status <= 504) throw new Offline();
    return response;
  } catch (error) {
    throw error instanceof Offline ? error : new Offline();
  }
}

/** The moment at which something is written down, by the clock of the site's workspace. */
export function momentAt(site: FieldSite): number {
  return Date.now() + (site.clockAheadS ?? 0) * 1000;
}

/** The day of a moment where the phone is. */
export function dayOf(moment: number): string {
  const at = new Date(moment);
  return new Date(moment - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 10);
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

interface Refusal {
  detail?: string;
  errors?: { field: string; detail: string }[];
}

async function refusalOf(response: Response): Promise<Refusal> {
  return (await response.json().catch(() => ({}))) as Refusal;
}

async function sendOne(waiting: Waiting, skew: number): Promise<{ said: string[] } | { problem: string }> {
  const site = `/api/v1/workspaces/${waiting.workspaceId}/sites/${waiting.siteId}`;
  for (const photo of waiting.photos) {
    const headers = { "Content-Type": "application/octet-stream" };
    const answer = await ask(`${site}/photos/${photo.id}`, { method: "PUT", headers, body: photo.content });
    if (!answer.ok) return { problem: (await refusalOf(answer)).detail ?? String(answer.status) };
  }
  const post = (on: string) =>
    ask(waiting.report ? `${site}/tasks` : `${site}/log`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(
        waiting.report
          ? { ...waiting.report, id: waiting.id, plot_id: waiting.plotId, on, units: waiting.units }
          : bodyOf(waiting, on),
      ),
    });
  const on = dayByServer(waiting, skew);
  let answer = await post(on);
  let refusal = answer.ok ? {} : await refusalOf(answer);
  if (answer.status === 422 && refusal.errors?.some((error) => error.field === "on")) {
    // Where the site is it may still be the day before.
    answer = await post(dayOf(Date.parse(`${on}T12:00:00`) - DAY_MS));
    refusal = answer.ok ? {} : await refusalOf(answer);
  }
  if (answer.ok) return { said: ((await answer.json()) as { said?: string[] }).said ?? [] };
  if (answer.status === 401) throw new Offline();
  return { problem: refusal.errors?.[0]?.detail ?? refusal.detail ?? String(answer.status) };
}

/** Sends what somebody has waiting, the earliest first; `report` hears what each entry has changed.
 *  What the server refuses is kept, with its sentence. Two tabs of one phone do not send at once. */
export async function sendWaiting(user: string, report: (sentences: string[]) => void): Promise<Outcome> {
  return navigator.locks.request("ulmatic.field", async () => {
    try {
      const session = await ask("/api/v1/session");
      const known = (await session.json()) as { user: { id: string } | null };
      if (known.user?.id !== user) return "signed out";
      const told = Date.parse(session.headers.get("date") ?? "");
      const skew = Number.isNaN(told) ? 0 : told - Date.now();
      for (const waiting of await waitingOf(user)) {
        if (waiting.problem) continue;
        const outcome = await sendOne(waiting, skew);
        if ("problem" in outcome) await keepWaiting({ ...waiting, problem: outcome.problem });
        else {
          await dropWaiting(waiting.id);
          report(outcome.said);
        }
      }
      return "sent";
    } catch (error) {
      if (error instanceof Offline) return "offline";
      throw error;
    }
  });
}
