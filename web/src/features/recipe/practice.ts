import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, result } from "@/api/client";
import type { PracticeChoices } from "@/api/schema.gen";
import { useStale } from "@/api/stale";

/** The questions, their schools, and what is shipped. */
export function usePractices() {
  return useQuery({
    queryKey: ["practices"],
    queryFn: () => result(api.GET("/api/v1/practices")),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** What the workspace chose for itself. */
export function useWorkspacePractice(workspace_id: string) {
  const cache = useQueryClient();
  const refresh = useStale("practice");
  const params = { path: { workspace_id } };
  const queryKey = ["practice", workspace_id];
  const choices = useQuery({
    queryKey,
    queryFn: () => result(api.GET("/api/v1/workspaces/{workspace_id}/practice", { params })),
  });
  const change = useMutation({
    mutationFn: (body: PracticeChoices) =>
      result(api.PUT("/api/v1/workspaces/{workspace_id}/practice", { params, body })),
    onMutate: (body) => cache.setQueryData(queryKey, body),
    onSettled: refresh,
  });
  return { choices, change };
}
