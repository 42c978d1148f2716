import { useMutation, useQuery } from "@tanstack/react-query";
import { api, result } from "@/api/client";
import type { MaterialEntry, MaterialOut } from "@/api/schema.gen";
import { useStale } from "@/api/stale";
import { t } from "@/texts/materials";
import { useUndo } from "@/ui/undo";

/** Own materials, then the catalogue. */
export function useMaterials(workspace_id: string) {
  return useQuery({
    queryKey: ["materials", workspace_id],
    queryFn: () =>
      result(api.GET("/api/v1/workspaces/{workspace_id}/materials", { params: { path: { workspace_id } } })),
    staleTime: 60_000,
    enabled: workspace_id !== "",
  });
}

/** What can be done with own materials. */
export function useOwnMaterials(workspace_id: string) {
  const offerUndo = useUndo();
  const refresh = useStale("materials");
  const add = useMutation({
    mutationFn: (body: MaterialEntry & { id: string }) =>
      result(
        api.POST("/api/v1/workspaces/{workspace_id}/materials", { params: { path: { workspace_id } }, body }),
      ),
    onSuccess: refresh,
  });
  const change = useMutation({
    mutationFn: ({ stored, entry }: { stored: MaterialOut; entry: MaterialEntry }) =>
      result(
        api.PUT("/api/v1/workspaces/{workspace_id}/materials/{material_id}", {
          params: {
            path: { workspace_id, material_id: stored.material.key },
            header: { "if-match": `"${stored.version}"` },
          },
          body: entry,
        }),
      ),
    onSettled: refresh,
  });
  const restore = useMutation({
    mutationFn: (material_id: string) =>
      result(
        api.POST("/api/v1/workspaces/{workspace_id}/materials/{material_id}/restoration", {
          params: { path: { workspace_id, material_id } },
        }),
      ),
    onSuccess: refresh,
  });
  const remove = useMutation({
    mutationFn: ({ material: { key: material_id } }: MaterialOut) =>
      result(
        api.DELETE("/api/v1/workspaces/{workspace_id}/materials/{material_id}", {
          params: { path: { workspace_id, material_id } },
        }),
      ),
    onSuccess: async (_, { material }) => {
      await refresh();
      offerUndo({ text: t("wasDeleted", { name: material.name }), undo: () => restore.mutate(material.key) });
    },
  });
  return { add, change, remove };
}
