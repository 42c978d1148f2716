import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, apiOfWorkspace } from "@/api/client";
import type { PracticeChoices } from "@/api/schema.gen";
import { useStale } from "@/api/stale";

/** The questions, their schools, and what is shipped. */
export function usePractices() {
  return useQuery({
    queryKey: ["practices"],
    queryFn: () => api.get("/practices"),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** What the workspace chose for itself. */
export function useWorkspacePractice(workspace_id: string) {
  const cache = useQueryClient();
  const refresh = useStale("practice");
  const workspaceApi = apiOfWorkspace(workspace_id);
  const queryKey = ["practice", workspace_id];
  const choices = useQuery({
    queryKey,
    queryFn: () => workspaceApi.get("/practice"),
  });
  const change = useMutation({
    mutationFn: (body: PracticeChoices) => workspaceApi.put("/practice", { body }),
    onMutate: (body) => cache.setQueryData(queryKey, body),
    onSettled: refresh,
  });
  return { choices, change };
}
