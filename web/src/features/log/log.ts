import { useQuery } from "@tanstack/react-query";
import { useChange, useRemoval } from "@/api/change";
import { useRequests } from "@/api/requests";
import type { LogEntryOut, NewLogEntry, RowReadings } from "@/api/schema.gen";
import { useStale } from "@/api/stale";
import { t } from "@/texts/log";

/** What was seen and done on the plots and piles of a site, the latest first. */
export function useLog() {
  const { siteApi, key } = useRequests();
  return useQuery({
    queryKey: key("log"),
    queryFn: () => siteApi.get("/log"),
  });
}

/** What readings teach, which are asked about, and how earlier forecasts have come out. */
export function useLearning() {
  const { siteApi, key } = useRequests();
  return useQuery({
    queryKey: key("log", "learning"),
    queryFn: () => siteApi.get("/log/learning"),
  });
}

export function usePhotos() {
  const { siteApi, key } = useRequests();
  return useQuery({
    queryKey: key("log", "photos"),
    queryFn: () => siteApi.get("/photos"),
  });
}

export function useLogChanges() {
  const { siteApi } = useRequests();
  const refresh = useStale("plan");
  const add = useChange((body: NewLogEntry) => siteApi.post("/log", { body }), refresh);
  const addRows = useChange((body: RowReadings) => siteApi.post("/log/rows", { body }), refresh);
  const remove = useRemoval<string>({
    remove: (entry_id) => siteApi.delete("/log/{entry_id}", { path: { entry_id } }),
    restore: (entry_id) => siteApi.post("/log/{entry_id}/restoration", { path: { entry_id } }),
    refresh,
    sentence: () => t("theEntryWasDeleted"),
  });
  return { add, addRows, remove };
}

/** The same entry with something changed: it stands in place of the first, which is kept. */
export function correction(logged: LogEntryOut, change: object): NewLogEntry {
  return {
    id: crypto.randomUUID(),
    plot_id: logged.plot_id,
    pile_id: logged.pile_id ?? null,
    trees: logged.trees ?? null,
    on: logged.on,
    units: "metric",
    note: logged.note ?? "",
    photos: logged.photos ?? [],
    corrects: logged.id,
    entry: { ...logged.entry, kind: logged.entry.kind ?? "", ...change },
  };
}

export type DepthEntry = LogEntryOut & {
  entry: Extract<LogEntryOut["entry"], { kind?: "measured" | "profile" | "laid" }>;
};

/** Measurements and layings; what else is in the log belongs to the nitrogen account. */
export function hasDepth(logged: LogEntryOut): logged is DepthEntry {
  return ["measured", "profile", "laid"].includes(logged.entry.kind ?? "");
}

/** The depth that an entry states, in mm; null where it states a volume, or nothing. */
export function depthOf({ entry }: LogEntryOut): number | null {
  if (entry.kind === "laid") return entry.depth_mm ?? null;
  if (entry.kind === "profile") return entry.dry_mm + entry.moist_mm;
  if (entry.kind !== "measured") return null;
  const readings = entry.readings_mm ?? [];
  return readings.length > 0
    ? readings.reduce((sum, reading) => sum + reading, 0) / readings.length
    : (entry.depth_mm ?? 0);
}
