import { useQuery } from "@tanstack/react-query";
import { useChange, useRemoval } from "@/api/change";
import { apiOfWorkspace } from "@/api/client";
import type { MaterialEntry, MaterialOut } from "@/api/schema.gen";
import { useStale } from "@/api/stale";
import { t } from "@/texts/materials";

/** Own materials, then the catalogue. */
export function useMaterials(workspace_id: string) {
  return useQuery({
    queryKey: ["materials", workspace_id],
    queryFn: () => apiOfWorkspace(workspace_id).get("/materials"),
    staleTime: 60_000,
    enabled: workspace_id !== "",
  });
}

/** What can be done with own materials. */
export function useOwnMaterials(workspace_id: string) {
  const workspaceApi = apiOfWorkspace(workspace_id);
  const refresh = useStale("materials");
  const add = useChange((body: MaterialEntry & { id: string }) => workspaceApi.post("/materials", { body }), refresh);
  const change = useChange(
    ({ stored, entry }: { stored: MaterialOut; entry: MaterialEntry }) =>
      workspaceApi.put("/materials/{material_id}", {
        path: { material_id: stored.material.key },
        version: stored.version,
        body: entry,
      }),
    refresh,
  );
  const remove = useRemoval<MaterialOut>({
    remove: ({ material }) => workspaceApi.delete("/materials/{material_id}", { path: { material_id: material.key } }),
    restore: ({ material }) =>
      workspaceApi.post("/materials/{material_id}/restoration", { path: { material_id: material.key } }),
    refresh,
    sentence: ({ material }) => t("wasDeleted", { name: material.name }),
  });
  return { add, change, remove };
}
