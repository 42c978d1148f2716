import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useChange, useRemoval } from "@/api/change";
import { api } from "@/api/client";
import { useRequests } from "@/api/requests";
import type {
  NewPlot,
  PlaceOutput as Place,
  PlotChanges,
  PlotEntry,
  SiteEntry,
  SiteSheet,
  Use,
} from "@/api/schema.gen";
import { useStale } from "@/api/stale";
import { t } from "@/texts/survey";

/** The site of this address and what can be done with it. */
export function useSite() {
  const { path, siteApi, key } = useRequests();
  const cache = useQueryClient();
  const queryKey = key("site");
  // Supply, seasons and nitrogen follow from the plots too; what is not looked at is fetched when it is.
  const refresh = useStale("plan");
  const sheet = useQuery({
    queryKey,
    queryFn: async () => {
      const page = (start: number) => siteApi.get("", { query: { start } });
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
    enabled: path.site_id !== "",
  });
  const change = useChange(
    ({ entry, version }: { entry: SiteEntry; version: number }) => siteApi.put("", { version, body: entry }),
    refresh,
  );
  const place = useMutation({
    mutationFn: (places: Record<string, Place | null>) => siteApi.put("/places", { body: { places } }),
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
  // Not waited for: what is typed next must not be cleared when the list has come.
  const addPlot = useChange(
    (entry: NewPlot) => siteApi.post("/plots", { body: entry }),
    () => void refresh(),
  );
  const changePlot = useMutation({
    mutationFn: ({ id, version, entry }: { id: string; version: number; entry: PlotEntry }) =>
      siteApi.put("/plots/{plot_id}", { path: { plot_id: id }, version, body: entry }),
    // After a refusal the new state is there before the sentence is, so that saving again starts from it.
    onSettled: (_, error) => (error ? refresh() : void refresh()),
  });
  const deletePlot = useRemoval<{ id: string; name: string }>({
    remove: ({ id }) => siteApi.delete("/plots/{plot_id}", { path: { plot_id: id } }),
    restore: ({ id }) => siteApi.post("/plots/{plot_id}/restoration", { path: { plot_id: id } }),
    refresh,
    sentence: ({ name }) => t("wasDeleted", { name }),
  });
  const changePlots = useChange((body: PlotChanges) => siteApi.post("/changes", { body }), refresh);
  const order = useMutation({
    mutationFn: (plots: string[]) => siteApi.put("/order", { body: { plots } }),
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
  const { siteApi, key } = useRequests();
  return useQuery({
    queryKey: key("sites", "usual-depths"),
    queryFn: () => siteApi.get("/usual-depths"),
    staleTime: 60_000,
  });
}

export function useUses() {
  return useQuery({
    queryKey: ["uses"],
    queryFn: () => api.get("/uses"),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** The uses of ground, as the options of a select. */
export function useUseOptions() {
  const { data: uses } = useUses();
  return (uses ?? []).map((use): [Use, string] => [use.use, use.label]);
}
