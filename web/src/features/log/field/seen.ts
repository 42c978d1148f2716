import type { Kinds, SessionOut, SiteSheet, SiteSummary, StockSheet, TaskSheet } from "@/api/schema.gen";
import { amountOf } from "@/features/work/amounts";
import { store, stored } from "@/ui/stored";
import { type FieldSite, keepSites } from "./store";

/** Sees who is signed in and what their sites are like now, and keeps that for when there is no signal. */

export interface Person {
  id: string;
  name: string;
}

const PLACE = "ulmatic.field.person";

/** Who used the field mode on this phone last. */
export function lastPerson(): Person | null {
  try {
    return JSON.parse(localStorage.getItem(PLACE) ?? "null") as Person | null;
  } catch {
    return null;
  }
}

const KINDS = "ulmatic.field.kinds";

/** What can be written down, as it was when the server was last asked. */
export const keptKinds = () => stored<Kinds>(KINDS);

async function get<Answer>(address: string): Promise<Answer> {
  const response = await fetch(address);
  if (!response.ok) throw new Error(String(response.status));
  return (await response.json()) as Answer;
}

/** Who is signed in; null for nobody. Raises where the server cannot be asked. */
export async function signedIn(): Promise<{ person: Person; session: SessionOut } | null> {
  const session = await get<SessionOut>("/api/v1/session");
  if (!session.user) return null;
  const person = { id: session.user.id, name: session.user.name };
  localStorage.setItem(PLACE, JSON.stringify(person));
  return { person, session };
}

async function siteOf(user: string, workspaceId: string, summary: SiteSummary): Promise<FieldSite> {
  const siteId = summary.site.id;
  const address = `/api/v1/workspaces/${workspaceId}/sites/${siteId}`;
  const [sheet, stock, work] = await Promise.all([
    get<SiteSheet>(address),
    get<StockSheet>(`${address}/stock`),
    get<TaskSheet>(`${address}/tasks`),
  ]);
  return {
    key: `${user} ${siteId}`,
    user,
    workspaceId,
    siteId,
    name: summary.site.name,
    units: summary.site.units,
    plots: sheet.plots.map((plot) => ({
      id: plot.id,
      name: plot.name,
      depth_mm: plot.depth.middle,
      low_mm: plot.depth.low,
      high_mm: plot.depth.high,
    })),
    tasks: work.plots.flatMap((plot) =>
      plot.tasks.map((task) => ({
        key: task.key,
        plotId: plot.plot_id,
        kind: task.kind,
        own: task.own,
        words: task.words,
        amount: task.unit === "h" ? "" : amountOf(task, summary.site.units),
        volume_m3: task.kind === "chips" ? task.amount : null,
        season: work.season_key,
        cautions: work.cautions.filter((caution) => task.cautions.includes(caution.key)),
      })),
    ),
    piles: stock.piles.map(({ id, name }) => ({ id, name })),
    seen: Date.now(),
  };
}

/** Keeps the sites that somebody may write down on, as they are now. */
export async function seeSites({ person, session }: { person: Person; session: SessionOut }): Promise<void> {
  const sites: FieldSite[] = [];
  store(KINDS, await get<Kinds>("/api/v1/kinds"));
  for (const workspace of session.workspaces) {
    if (workspace.role === "viewer") continue;
    const summaries = await get<SiteSummary[]>(`/api/v1/workspaces/${workspace.id}/sites`);
    for (const summary of summaries) {
      const site = await siteOf(person.id, workspace.id, summary);
      sites.push({
        ...site,
        units: session.user?.units ?? site.units,
        clockAheadS: workspace.clock_ahead_s,
      });
    }
  }
  await keepSites(person.id, sites);
}
