import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { useParams } from "react-router";
import { api, result } from "@/api/client";
import { unpacked } from "@/features/schedule/timeline";

const S = "/api/v1/workspaces/{workspace_id}/sites/{site_id}" as const;

const grams = (text: string) => unpacked(text, 100);

export interface Product {
  name: string;
  percent: number;
  bag_kg: number | null;
  soluble: boolean;
}

export function useNitrogen(plotId: string | undefined, product: Product) {
  const { workspaceId = "", siteId = "" } = useParams();
  const sheet = useQuery({
    queryKey: ["seasons", workspaceId, siteId, "nitrogen", plotId, product],
    queryFn: () =>
      result(
        api.GET(`${S}/plots/{plot_id}/nitrogen`, {
          params: {
            path: { workspace_id: workspaceId, site_id: siteId, plot_id: plotId ?? "" },
            query: {
              product: product.name,
              n_percent: product.percent,
              soluble: product.soluble,
              ...(product.bag_kg ? { bag_kg: product.bag_kg } : {}),
            },
          },
        }),
      ),
    enabled: plotId !== undefined,
    placeholderData: keepPreviousData,
  });
  const series = useMemo(
    () =>
      sheet.data && {
        balance: grams(sheet.data.balance),
        low: grams(sheet.data.low),
        high: grams(sheet.data.high),
      },
    [sheet.data],
  );
  return { sheet, series };
}

/** Every plot's balance by week, for the plan. */
export function useSiteNitrogen() {
  const { workspaceId = "", siteId = "" } = useParams();
  const site = useQuery({
    queryKey: ["seasons", workspaceId, siteId, "nitrogen-site"],
    queryFn: () =>
      result(api.GET(`${S}/nitrogen`, { params: { path: { workspace_id: workspaceId, site_id: siteId } } })),
  });
  return useMemo(
    () => new Map((site.data?.plots ?? []).map((plot) => [plot.plot_id, grams(plot.balance)])),
    [site.data],
  );
}
