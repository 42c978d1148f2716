import { useMutation, useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { api, result } from "@/api/client";
import type { LogEntryOut, NewLogEntry, RowReadings } from "@/api/schema.gen";
import { useStale } from "@/api/stale";
import { t } from "@/texts/log";
import { useUndo } from "@/ui/undo";

const S = "/api/v1/workspaces/{workspace_id}/sites/{site_id}" as const;

function usePath() {
  const { workspaceId = "", siteId = "" } = useParams();
  return { workspace_id: workspaceId, site_id: siteId };
}

/** What was seen and done on the plots and piles of a site, the latest first. */
export function useLog() {
  const path = usePath();
  return useQuery({
    queryKey: ["log", path.workspace_id, path.site_id],
    queryFn: () => result(api.GET(`${S}/log`, { params: { path } })),
  });
}

/** What readings teach, which are asked about, and how earlier forecasts have come out. */
export function useLearning() {
  const path = usePath();
  return useQuery({
    queryKey: ["log", path.workspace_id, path.site_id, "learning"],
    queryFn: () => result(api.GET(`${S}/log/learning`, { params: { path } })),
  });
}

export function usePhotos() {
  const path = usePath();
  return useQuery({
    queryKey: ["log", path.workspace_id, path.site_id, "photos"],
    queryFn: () => result(api.GET(`${S}/photos`, { params: { path } })),
  });
}

export function useLogChanges() {
  const path = usePath();
  const offerUndo = useUndo();
  const refresh = useStale("plan");
  const restore = useMutation({
    mutationFn: (entry_id: string) =>
      result(api.POST(`${S}/log/{entry_id}/restoration`, { params: { path: { ...path, entry_id } } })),
    onSuccess: refresh,
  });
  const add = useMutation({
    mutationFn: (body: NewLogEntry) => result(api.POST(`${S}/log`, { params: { path }, body })),
    onSuccess: refresh,
  });
  const addRows = useMutation({
    mutationFn: (body: RowReadings) => result(api.POST(`${S}/log/rows`, { params: { path }, body })),
    onSuccess: refresh,
  });
  const remove = useMutation({
    mutationFn: (entry_id: string) =>
      result(api.DELETE(`${S}/log/{entry_id}`, { params: { path: { ...path, entry_id } } })),
    onSuccess: async (_, entry_id) => {
      await refresh();
      offerUndo({ text: t("theEntryWasDeleted"), undo: () => restore.mutate(entry_id) });
    },
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
