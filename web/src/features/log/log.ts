import { useMutation, useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { api, result } from "@/api/client";
import type { LogEntryOut, NewLogEntry } from "@/api/schema.gen";
import { useStale } from "@/api/stale";
import { t } from "@/texts/log";
import { useUndo } from "@/ui/undo";

const S = "/api/v1/workspaces/{workspace_id}/sites/{site_id}" as const;

/** What was seen and done on the plots of a site, the latest first. */
export function useLog() {
  const { workspaceId = "", siteId = "" } = useParams();
  const path = { workspace_id: workspaceId, site_id: siteId };
  return useQuery({
    queryKey: ["log", workspaceId, siteId],
    queryFn: () => result(api.GET(`${S}/log`, { params: { path } })),
  });
}

export function useLogChanges() {
  const { workspaceId = "", siteId = "" } = useParams();
  const path = { workspace_id: workspaceId, site_id: siteId };
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
  const remove = useMutation({
    mutationFn: (entry_id: string) =>
      result(api.DELETE(`${S}/log/{entry_id}`, { params: { path: { ...path, entry_id } } })),
    onSuccess: async (_, entry_id) => {
      await refresh();
      offerUndo({ text: t("theEntryWasDeleted"), undo: () => restore.mutate(entry_id) });
    },
  });
  return { add, remove };
}

export type DepthEntry = LogEntryOut & {
  entry: Extract<LogEntryOut["entry"], { kind?: "measured" | "laid" }>;
};

/** Measurements and layings; what else is in the log belongs to the nitrogen account. */
export function hasDepth(logged: LogEntryOut): logged is DepthEntry {
  return logged.entry.kind === "measured" || logged.entry.kind === "laid";
}

/** The depth that an entry states, in mm; null where it states a volume, or nothing. */
export function depthOf({ entry }: LogEntryOut): number | null {
  if (entry.kind === "laid") return entry.depth_mm ?? null;
  if (entry.kind !== "measured") return null;
  const readings = entry.readings_mm ?? [];
  return readings.length > 0
    ? readings.reduce((sum, reading) => sum + reading, 0) / readings.length
    : (entry.depth_mm ?? 0);
}
