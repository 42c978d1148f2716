import { useMutation, useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { useParams } from "react-router";
import { api, result } from "@/api/client";
import { finished } from "@/api/errand";
import type { LayersSheet, Overrides, PlotFuture, RuleEntry } from "@/api/schema.gen";
import { useStale } from "@/api/stale";
import { unpacked } from "./timeline";

const S = "/api/v1/workspaces/{workspace_id}/sites/{site_id}" as const;
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
  const { workspaceId = "", siteId = "" } = useParams();
  const path = { workspace_id: workspaceId, site_id: siteId };
  const key = ["seasons", workspaceId, siteId, years];
  const refresh = useStale("plan");
  const sheet = useQuery({
    queryKey: key,
    queryFn: () => result(api.GET(`${S}/seasons`, { params: { path, query: { years } } })),
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
    mutationFn: () => finished(workspaceId, result(api.POST(`${S}/weather/refresh`, { params: { path } }))),
    onSuccess: refresh,
  });
  const rule = useMutation({
    mutationFn: ({ plot_id, version, entry }: { plot_id: string; version: number; entry: RuleEntry }) =>
      result(
        api.PUT(`${S}/plots/{plot_id}/rule`, {
          params: { path: { ...path, plot_id }, header: { "if-match": `"${version}"` } },
          body: entry,
        }),
      ),
    onSettled: refresh,
  });
  const override = useMutation({
    mutationFn: (body: Overrides) => result(api.PUT(`${S}/seasons`, { params: { path }, body })),
    onSettled: refresh,
  });
  return { path, sheet, tracks, refresh, ask, rule, override };
}

/** The layers of one plot through the same weeks. */
export function useLayers(plotId: string | undefined, years = 5) {
  const { workspaceId = "", siteId = "" } = useParams();
  const layers = useQuery({
    queryKey: ["seasons", workspaceId, siteId, "layers", plotId, years],
    queryFn: () =>
      result(
        api.GET(`${S}/plots/{plot_id}/layers`, {
          params: {
            path: { workspace_id: workspaceId, site_id: siteId, plot_id: plotId ?? "" },
            query: { years },
          },
        }),
      ),
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
  const { workspaceId = "", siteId = "" } = useParams();
  return useQuery({
    queryKey: ["seasons", workspaceId, siteId, "years", years],
    queryFn: () =>
      result(
        api.GET(`${S}/years`, {
          params: { path: { workspace_id: workspaceId, site_id: siteId }, query: { years } },
        }),
      ),
  });
}

export function useCompared(plotId: string | undefined) {
  const { workspaceId = "", siteId = "" } = useParams();
  return useQuery({
    queryKey: ["seasons", workspaceId, siteId, "rules", plotId],
    queryFn: () =>
      result(
        api.GET(`${S}/plots/{plot_id}/rules`, {
          params: { path: { workspace_id: workspaceId, site_id: siteId, plot_id: plotId ?? "" } },
        }),
      ),
    enabled: plotId !== undefined,
  });
}

export function useHeld(supply_m3: number | null) {
  const { workspaceId = "", siteId = "" } = useParams();
  return useQuery({
    queryKey: ["seasons", workspaceId, siteId, "held", supply_m3],
    queryFn: () =>
      result(
        api.GET(`${S}/held`, {
          params: {
            path: { workspace_id: workspaceId, site_id: siteId },
            query: { supply_m3: supply_m3 ?? 0 },
          },
        }),
      ),
    enabled: supply_m3 !== null && supply_m3 > 0,
  });
}
