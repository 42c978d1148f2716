import { useQuery } from "@tanstack/react-query";
import { useChange } from "@/api/change";
import { ofSeason, useRequests } from "@/api/requests";
import type { TaskReport } from "@/api/schema.gen";
import { useStale } from "@/api/stale";

/** The tasks of a season by plot. */
export function useTasks(season: string | undefined) {
  const { siteApi, key } = useRequests();
  return useQuery({
    queryKey: key("supply", "tasks", season ?? ""),
    queryFn: () => siteApi.get("/tasks", ofSeason(season)),
  });
}

export function useReport() {
  const { siteApi } = useRequests();
  const refresh = useStale("plan");
  // Not waited for: the form of what is done goes with the answer, and has to hear it first.
  return useChange(
    (body: TaskReport) => siteApi.post("/tasks", { body }),
    () => void refresh(),
  );
}
