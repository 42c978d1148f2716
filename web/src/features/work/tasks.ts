import { useMutation, useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { api, result } from "@/api/client";
import type { TaskReport } from "@/api/schema.gen";
import { useStale } from "@/api/stale";

const S = "/api/v1/workspaces/{workspace_id}/sites/{site_id}" as const;

function usePath() {
  const { workspaceId = "", siteId = "" } = useParams();
  return { workspace_id: workspaceId, site_id: siteId };
}

/** The tasks of a season by plot. */
export function useTasks(season: string | undefined) {
  const path = usePath();
  return useQuery({
    queryKey: ["supply", path.workspace_id, path.site_id, "tasks", season ?? ""],
    queryFn: () => result(api.GET(`${S}/tasks`, { params: { path, query: season ? { season } : {} } })),
  });
}

export function useReport() {
  const path = usePath();
  const refresh = useStale("plan");
  return useMutation({
    mutationFn: (body: TaskReport) => result(api.POST(`${S}/tasks`, { params: { path }, body })),
    // Not waited for: the form of what is done goes with the answer, and has to hear it first.
    onSuccess: () => void refresh(),
  });
}
