import { useMutation, useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { useChange } from "@/api/change";
import { finished } from "@/api/errand";
import { useRequests } from "@/api/requests";
import type { LayersSheet, Overrides, PlotFuture, RuleEntry } from "@/api/schema.gen";
import { useStale } from "@/api/stale";
import { unpacked } from "./timeline";

/** Ranges come for every fourth week. */
export const EVERY = 4;
const TENTHS = 10;

export interface Track {
  future: PlotFuture;
  held: Float32Array;
  humus: Float32Array;
  low: Float32Array;
  high: Float32Array;
}

export interface Layer {
  name: string;
  on: string;
  planned: boolean;
  quarter: number | null;
  chips: Float32Array;
}

export function useSeasons(years = 5) {
  const { path, siteApi, key } = useRequests();
  const refresh = useStale("plan");
  const sheet = useQuery({
    queryKey: key("seasons", years),
    queryFn: () => siteApi.get("/seasons", { query: { years } }),
    staleTime: 60_000,
  });
  const tracks = useMemo(
    () =>
      new Map<string, Track>(
        (sheet.data?.plots ?? []).map((future) => [
          future.plot_id,
          {
            future,
            held: unpacked(future.held, TENTHS),
            humus: unpacked(future.humus, TENTHS),
            low: unpacked(future.low, TENTHS),
            high: unpacked(future.high, TENTHS),
          },
        ]),
      ),
    [sheet.data],
  );
  const ask = useMutation({
    retry: false,
    mutationFn: () => finished(path.workspace_id, siteApi.post("/weather/refresh")),
    onSuccess: refresh,
  });
  const rule = useChange(
    ({ plot_id, version, entry }: { plot_id: string; version: number; entry: RuleEntry }) =>
      siteApi.put("/plots/{plot_id}/rule", { path: { plot_id }, version, body: entry }),
    refresh,
  );
  const override = useChange((body: Overrides) => siteApi.put("/seasons", { body }), refresh);
  return { path, sheet, tracks, refresh, ask, rule, override };
}

/** The layers of one plot through the same weeks. */
export function useLayers(plotId: string | undefined, years = 5) {
  const { siteApi, key } = useRequests();
  const layers = useQuery({
    queryKey: key("seasons", "layers", plotId, years),
    queryFn: () => siteApi.get("/plots/{plot_id}/layers", { path: { plot_id: plotId ?? "" }, query: { years } }),
    enabled: plotId !== undefined,
  });
  return useMemo(
    () =>
      layers.data && {
        layers: layers.data.layers.map(
          (layer: LayersSheet["layers"][number]): Layer => ({
            ...layer,
            chips: unpacked(layer.chips, TENTHS),
          }),
        ),
        shipped: layers.data.shipped ? unpacked(layers.data.shipped, TENTHS) : undefined,
      },
    [layers.data],
  );
}

/** The seasons and years ahead in numbers. */
export function useYears(years = 5) {
  const { siteApi, key } = useRequests();
  return useQuery({
    queryKey: key("seasons", "years", years),
    queryFn: () => siteApi.get("/years", { query: { years } }),
  });
}

export function useCompared(plotId: string | undefined) {
  const { siteApi, key } = useRequests();
  return useQuery({
    queryKey: key("seasons", "rules", plotId),
    queryFn: () => siteApi.get("/plots/{plot_id}/rules", { path: { plot_id: plotId ?? "" } }),
    enabled: plotId !== undefined,
  });
}

export function useHeld(supply_m3: number | null) {
  const { siteApi, key } = useRequests();
  return useQuery({
    queryKey: key("seasons", "held", supply_m3),
    queryFn: () => siteApi.get("/held", { query: { supply_m3: supply_m3 ?? 0 } }),
    enabled: supply_m3 !== null && supply_m3 > 0,
  });
}
