import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useParams } from "react-router";
import { api, result } from "@/api/client";
import type {
  NewPlot,
  PlaceOutput as Place,
  PlotChanges,
  PlotEntry,
  SiteEntry,
  SiteSheet,
} from "@/api/schema.gen";
import { useStale } from "@/api/stale";
import { t } from "@/texts/survey";
import { useUndo } from "@/ui/undo";

/** The site of this address and what can be done with it. */
export function useSite() {
  const { workspaceId = "", siteId = "" } = useParams();
  const cache = useQueryClient();
  const path = { workspace_id: workspaceId, site_id: siteId };
  const queryKey = ["site", workspaceId, siteId];
  // Supply, seasons and nitrogen follow from the plots too; what is not looked at is fetched when it is.
  const refresh = useStale("plan");
  const offerUndo = useUndo();

  const sheet = useQuery({
    queryKey,
    queryFn: async () => {
      const page = (start: number) =>
        result(
          api.GET("/api/v1/workspaces/{workspace_id}/sites/{site_id}", {
            params: { path, query: { start } },
          }),
        );
      let sheet = await page(0);
      while (sheet.plots.length < sheet.plots_in_all) {
        // What has come is shown while the rest is on its way, unless more is shown already.
        if (!cache.getQueryData(queryKey)) cache.setQueryData(queryKey, sheet);
        const next = await page(sheet.plots.length);
        if (next.plots.length === 0) break;
        sheet = { ...next, plots: [...sheet.plots, ...next.plots] };
      }
      return sheet;
    },
    enabled: siteId !== "",
  });
  const change = useMutation({
    mutationFn: ({ entry, version }: { entry: SiteEntry; version: number }) =>
      result(
        api.PUT("/api/v1/workspaces/{workspace_id}/sites/{site_id}", {
          params: { path, header: { "if-match": `"${version}"` } },
          body: entry,
        }),
      ),
    onSettled: refresh,
  });
  const place = useMutation({
    mutationFn: (places: Record<string, Place | null>) =>
      result(
        api.PUT("/api/v1/workspaces/{workspace_id}/sites/{site_id}/places", {
          params: { path },
          body: { places },
        }),
      ),
    onMutate: (places) => {
      cache.setQueryData<SiteSheet>(
        queryKey,
        (before) =>
          before && {
            ...before,
            plots: before.plots.map((plot) => ({ ...plot, place: places[plot.id] ?? plot.place })),
          },
      );
    },
    onSettled: refresh,
  });
  const addPlot = useMutation({
    mutationFn: (entry: NewPlot) =>
      result(
        api.POST("/api/v1/workspaces/{workspace_id}/sites/{site_id}/plots", {
          params: { path },
          body: entry,
        }),
      ),
    // Not waited for: what is typed next must not be cleared when the list has come.
    onSuccess: () => void refresh(),
  });
  const changePlot = useMutation({
    mutationFn: ({ id, version, entry }: { id: string; version: number; entry: PlotEntry }) =>
      result(
        api.PUT("/api/v1/workspaces/{workspace_id}/sites/{site_id}/plots/{plot_id}", {
          params: { path: { ...path, plot_id: id }, header: { "if-match": `"${version}"` } },
          body: entry,
        }),
      ),
    // After a refusal the new state is there before the sentence is, so that saving again starts from it.
    onSettled: (_, error) => (error ? refresh() : void refresh()),
  });
  const restorePlot = useMutation({
    mutationFn: (plot_id: string) =>
      result(
        api.POST("/api/v1/workspaces/{workspace_id}/sites/{site_id}/plots/{plot_id}/restoration", {
          params: { path: { ...path, plot_id } },
        }),
      ),
    onSuccess: refresh,
  });
  const deletePlot = useMutation({
    mutationFn: ({ id }: { id: string; name: string }) =>
      result(
        api.DELETE("/api/v1/workspaces/{workspace_id}/sites/{site_id}/plots/{plot_id}", {
          params: { path: { ...path, plot_id: id } },
        }),
      ),
    onSuccess: async (_, { id, name }) => {
      await refresh();
      offerUndo({ text: t("wasDeleted", { name }), undo: () => restorePlot.mutate(id) });
    },
  });
  const changePlots = useMutation({
    mutationFn: (body: PlotChanges) =>
      result(
        api.POST("/api/v1/workspaces/{workspace_id}/sites/{site_id}/changes", { params: { path }, body }),
      ),
    onSettled: refresh,
  });
  const order = useMutation({
    mutationFn: (plots: string[]) =>
      result(
        api.PUT("/api/v1/workspaces/{workspace_id}/sites/{site_id}/order", {
          params: { path },
          body: { plots },
        }),
      ),
    onMutate: (plots) => {
      cache.setQueryData<SiteSheet>(
        queryKey,
        (before) =>
          before && {
            ...before,
            plots: [...before.plots].sort((a, b) => plots.indexOf(a.id) - plots.indexOf(b.id)),
          },
      );
    },
    onSettled: refresh,
  });
  return { path, sheet, refresh, change, place, order, addPlot, changePlot, changePlots, deletePlot };
}

/** The target depths usual here, in the words of the practice. */
export function useUsualDepths() {
  const { path } = useSite();
  return useQuery({
    queryKey: ["sites", path.workspace_id, path.site_id, "usual-depths"],
    queryFn: () =>
      result(api.GET("/api/v1/workspaces/{workspace_id}/sites/{site_id}/usual-depths", { params: { path } })),
    staleTime: 60_000,
  });
}

export function useUses() {
  return useQuery({
    queryKey: ["uses"],
    queryFn: () => result(api.GET("/api/v1/uses")),
    staleTime: Number.POSITIVE_INFINITY,
  });
}
