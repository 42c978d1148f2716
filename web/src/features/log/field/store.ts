import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { NewLogEntry, PileOut, PlotOut, TaskReport, TaskSheet, UnitSystem } from "@/api/schema.gen";

/** What a phone keeps: sites as they were last seen, and entries that wait to be sent; each by whose it is. */

export interface FieldSite {
  /** User and site. */
  key: string;
  user: string;
  workspaceId: string;
  siteId: string;
  name: string;
  units: UnitSystem;
  plots: Pick<PlotOut, "id" | "name" | "depth">[];
  piles: Pick<PileOut, "id" | "name">[];
  tasks: TaskSheet;
  /** So far its workspace's clock stands ahead of the server's, in seconds. */
  clockAheadS?: number;
  /** When it was seen, in milliseconds. */
  seen: number;
}

export interface FieldPhoto {
  id: string;
  content: ArrayBuffer;
  type: string;
}

export interface Waiting {
  id: string;
  user: string;
  workspaceId: string;
  siteId: string;
  /** The plot or pile it is of, and its name. */
  plotId: string | null;
  pileId: string | null;
  name: string;
  on: string;
  units: UnitSystem;
  entry: NewLogEntry["entry"];
  note: string;
  photos: FieldPhoto[];
  /** A task that was ticked off goes where tasks are reported, not into the log itself. */
  report?: Omit<TaskReport, "id" | "plot_id" | "on" | "units">;
  /** By the phone's clock, in milliseconds. */
  typedAt: number;
  /** Why the server did not take it. */
  problem?: string;
}

interface Schema extends DBSchema {
  sites: { key: string; value: FieldSite; indexes: { user: string } };
  waiting: { key: string; value: Waiting; indexes: { user: string } };
  used: { key: string; value: number };
}

let database: Promise<IDBPDatabase<Schema>> | undefined;

function opened(): Promise<IDBPDatabase<Schema>> {
  database ??= openDB<Schema>("ulmatic.field", 2, {
    upgrade(phone, version) {
      // Sites are seen again; what waits is kept as it was written.
      if (version > 0) phone.deleteObjectStore("sites");
      phone.createObjectStore("sites", { keyPath: "key" }).createIndex("user", "user");
      if (version > 0) return;
      phone.createObjectStore("waiting", { keyPath: "id" }).createIndex("user", "user");
      phone.createObjectStore("used");
    },
    terminated() {
      database = undefined;
    },
  });
  return database;
}

export async function sitesOf(user: string): Promise<FieldSite[]> {
  const sites = await (await opened()).getAllFromIndex("sites", "user", user);
  return sites.sort((a, b) => a.name.localeCompare(b.name));
}

/** Keeps the sites of somebody as they are now; those that are gone are forgotten. */
export async function keepSites(user: string, sites: FieldSite[]): Promise<void> {
  const store = (await opened()).transaction("sites", "readwrite");
  for (const key of await store.store.index("user").getAllKeys(user)) {
    if (!sites.some((site) => site.key === key)) await store.store.delete(key);
  }
  for (const site of sites) await store.store.put(site);
  await store.done;
}

export async function waitingOf(user: string): Promise<Waiting[]> {
  const waiting = await (await opened()).getAllFromIndex("waiting", "user", user);
  return waiting.sort((a, b) => a.typedAt - b.typedAt || a.id.localeCompare(b.id));
}

export async function keepWaiting(waiting: Waiting): Promise<void> {
  await (await opened()).put("waiting", waiting);
}

export async function dropWaiting(id: string): Promise<void> {
  await (await opened()).delete("waiting", id);
}

/** When each plot or pile was last written down, for the order in which they are listed. */
export async function lastUses(): Promise<Map<string, number>> {
  const [keys, values] = await Promise.all([(await opened()).getAllKeys("used"), (await opened()).getAll("used")]);
  return new Map(keys.map((key, at) => [key, values[at] ?? 0]));
}

export async function keepUse(id: string): Promise<void> {
  await (await opened()).put("used", Date.now(), id);
}
