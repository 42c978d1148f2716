import { api, apiOfSite, apiOfWorkspace } from "@/api/client";
import type { Kinds, SessionOut } from "@/api/schema.gen";
import { store, stored } from "@/ui/stored";
import { type FieldSite, keepSites } from "./store";

/** Sees who is signed in and what their sites are like now, and keeps that for when there is no signal. */

export interface Person {
  id: string;
  name: string;
}

const PLACE = "ulmatic.field.person";

/** Who used the field mode on this phone last. */
export const lastPerson = () => stored<Person>(PLACE) ?? null;

const KINDS = "ulmatic.field.kinds";

/** What can be written down, as it was when the server was last asked. */
export const keptKinds = () => stored<Kinds>(KINDS);

/** Who is signed in; null for nobody. Raises where the server cannot be asked. */
export async function signedIn(): Promise<{ person: Person; session: SessionOut } | null> {
  const session = await api.get("/session");
  if (!session.user) return null;
  const person = { id: session.user.id, name: session.user.name };
  store(PLACE, person);
  return { person, session };
}

async function siteOf(user: string, workspace_id: string, site_id: string): Promise<FieldSite> {
  const siteApi = apiOfSite(workspace_id, site_id);
  const [sheet, stock, tasks] = await Promise.all([siteApi.get(""), siteApi.get("/stock"), siteApi.get("/tasks")]);
  return {
    key: `${user} ${site_id}`,
    user,
    workspaceId: workspace_id,
    siteId: site_id,
    name: sheet.site.name,
    units: sheet.site.units,
    plots: sheet.plots.map(({ id, name, depth }) => ({ id, name, depth })),
    piles: stock.piles.map(({ id, name }) => ({ id, name })),
    tasks,
    seen: Date.now(),
  };
}

/** Keeps the sites that somebody may write down on, as they are now. */
export async function seeSites({ person, session }: { person: Person; session: SessionOut }): Promise<void> {
  const sites: FieldSite[] = [];
  store(KINDS, await api.get("/kinds"));
  for (const { id, role, clock_ahead_s } of session.workspaces) {
    if (role === "viewer") continue;
    for (const { site } of await apiOfWorkspace(id).get("/sites")) {
      const siteSeen = await siteOf(person.id, id, site.id);
      sites.push({ ...siteSeen, units: session.user?.units ?? siteSeen.units, clockAheadS: clock_ahead_s });
    }
  }
  await keepSites(person.id, sites);
}
