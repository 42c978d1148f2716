import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { useRequests } from "@/api/requests";
import { unpacked } from "@/features/schedule/timeline";

const grams = (text: string) => unpacked(text, 100);

export interface Product {
  name: string;
  percent: number;
  bag_kg: number | null;
  soluble: boolean;
}

export function useNitrogen(plotId: string | undefined, product: Product) {
  const { siteApi, key } = useRequests();
  const sheet = useQuery({
    queryKey: key("seasons", "nitrogen", plotId, product),
    queryFn: () =>
      siteApi.get("/plots/{plot_id}/nitrogen", {
        path: { plot_id: plotId ?? "" },
        query: {
          product: product.name,
          n_percent: product.percent,
          soluble: product.soluble,
          ...(product.bag_kg ? { bag_kg: product.bag_kg } : {}),
        },
      }),
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
  const { siteApi, key } = useRequests();
  const site = useQuery({
    queryKey: key("seasons", "nitrogen-site"),
    queryFn: () => siteApi.get("/nitrogen"),
  });
  return useMemo(
    () => new Map((site.data?.plots ?? []).map((plot) => [plot.plot_id, grams(plot.balance)])),
    [site.data],
  );
}
