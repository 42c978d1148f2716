import { useMutation, useQuery } from "@tanstack/react-query";
import { useChange, useRemoval } from "@/api/change";
import { apiOfWorkspace } from "@/api/client";
import { finished } from "@/api/errand";
import { ofSeason, useRequests } from "@/api/requests";
import type {
  Arrival,
  Booking,
  BuyingEntry,
  ChoiceEntry,
  DeliveryOut,
  NewBookLine,
  NewDelivery,
  NewSupplier,
  QuoteEntry,
  ReceiptEntry,
  SupplierEntry,
  SupplierOut,
} from "@/api/schema.gen";
import { useStale } from "@/api/stale";
import { t } from "@/texts/supply";

export function useSuppliers(workspace_id: string) {
  return useQuery({
    queryKey: ["suppliers", workspace_id],
    queryFn: () => apiOfWorkspace(workspace_id).get("/suppliers"),
    enabled: workspace_id !== "",
  });
}

/** What can be done with suppliers. */
export function useSupplierChanges(workspace_id: string) {
  const workspaceApi = apiOfWorkspace(workspace_id);
  const refresh = useStale("suppliers");
  // Not waited for: the form closes at once, before another can be opened in its place.
  const refreshLater = () => void refresh();
  const add = useChange((body: NewSupplier) => workspaceApi.post("/suppliers", { body }), refreshLater);
  const change = useChange(
    ({ stored, entry }: { stored: SupplierOut; entry: SupplierEntry }) =>
      workspaceApi.put("/suppliers/{supplier_id}", {
        path: { supplier_id: stored.id },
        version: stored.version,
        body: entry,
      }),
    refreshLater,
  );
  const remove = useRemoval<SupplierOut>({
    remove: ({ id }) => workspaceApi.delete("/suppliers/{supplier_id}", { path: { supplier_id: id } }),
    restore: ({ id }) => workspaceApi.post("/suppliers/{supplier_id}/restoration", { path: { supplier_id: id } }),
    refresh,
    sentence: ({ name }) => t("wasDeleted", { name }),
  });
  return { add, change, remove };
}

/** A site's supply: each part is fetched when it is looked at, and again when anything of it was changed. */
function useSupply() {
  const requests = useRequests();
  return {
    ...requests,
    key: (part: string, season?: string) => requests.key("supply", part, season),
    refresh: useStale("plan"),
  };
}

export function useOrder(season: string | undefined) {
  const { siteApi, key } = useSupply();
  return useQuery({
    queryKey: key("order", season),
    queryFn: () => siteApi.get("/orders", ofSeason(season)),
  });
}

/** The user's own choice of loads for a season, and booking a load. */
export function useChoice() {
  const { siteApi, refresh } = useSupply();
  const choose = useChange(
    ({ version, ...body }: ChoiceEntry & { version: number }) => siteApi.put("/choice", { version, body }),
    refresh,
  );
  const book = useChange((body: Booking) => siteApi.post("/bookings", { body }), refresh);
  return { choose, book };
}

export function useBuying() {
  const { siteApi, key } = useSupply();
  return useQuery({ queryKey: key("buying"), queryFn: () => siteApi.get("/buying") });
}

export function usePlanChanges() {
  const { siteApi, refresh } = useSupply();
  const buying = useChange(
    ({ entry, version }: { entry: BuyingEntry; version: number }) => siteApi.put("/buying", { version, body: entry }),
    refresh,
  );
  const priority = useChange(
    (priorities: Record<string, number>) => siteApi.put("/priorities", { body: { priorities } }),
    refresh,
  );
  return { buying, priority };
}

export function useStock() {
  const { siteApi, key } = useSupply();
  return useQuery({ queryKey: key("stock"), queryFn: () => siteApi.get("/stock") });
}

export function useStockChanges() {
  const { siteApi, path, refresh } = useSupply();
  const expect = useChange((body: NewDelivery) => siteApi.post("/deliveries", { body }), refresh);
  const arrive = useChange((body: Arrival) => siteApi.post("/arrivals", { body }), refresh);
  const receive = useChange(
    ({ delivery: { id, version }, entry }: { delivery: DeliveryOut; entry: ReceiptEntry }) =>
      siteApi.post("/deliveries/{delivery_id}/receipt", { path: { delivery_id: id }, version, body: entry }),
    refresh,
  );
  const cancel = useRemoval<DeliveryOut>({
    remove: ({ id }) => siteApi.delete("/deliveries/{delivery_id}", { path: { delivery_id: id } }),
    restore: ({ id }) => siteApi.post("/deliveries/{delivery_id}/restoration", { path: { delivery_id: id } }),
    refresh,
    sentence: ({ name }) => t("wasCancelled", { name }),
  });
  const enter = useChange(
    ({ pile_id, entry }: { pile_id: string; entry: NewBookLine }) =>
      siteApi.post("/piles/{pile_id}/lines", { path: { pile_id }, body: entry }),
    refresh,
  );
  const takeBack = useChange((line_id: string) => siteApi.delete("/lines/{line_id}", { path: { line_id } }), refresh);
  return { path, refresh, expect, arrive, receive, cancel, enter, takeBack };
}

export function useMoving(season: string | undefined) {
  const { siteApi, key } = useSupply();
  return useQuery({
    queryKey: key("moving", season),
    queryFn: () => siteApi.get("/moving", ofSeason(season)),
  });
}

export function useQuotes(season: string | undefined) {
  const { siteApi, path, key } = useSupply();
  const refresh = useStale("quotes");
  const sheet = useQuery({
    queryKey: key("quotes", season),
    queryFn: () => siteApi.get("/quotes", ofSeason(season)),
  });
  const keep = useChange((body: QuoteEntry) => siteApi.post("/quotes", { body }), refresh);
  const remove = useRemoval<{ id: string; number: number }>({
    remove: ({ id }) => siteApi.delete("/quotes/{quote_id}", { path: { quote_id: id } }),
    restore: ({ id }) => siteApi.post("/quotes/{quote_id}/restoration", { path: { quote_id: id } }),
    refresh,
    sentence: ({ number }) => t("quoteWasDeleted", { number }),
  });
  return { path, sheet, keep, remove };
}

/** The inbox: asked anew from the service when it is opened, and shown as last heard until the answer comes. */
export function useOffers(ask: boolean) {
  const { path, key, workspaceApi, refresh } = useSupply();
  const { workspace_id, site_id } = path;
  const heard = useQuery({
    queryKey: key("offers"),
    queryFn: () => workspaceApi.get("/offers", { query: { site_id } }),
  });
  const query = useQuery({
    queryKey: key("offers-asked"),
    queryFn: async () => {
      await finished(workspace_id, workspaceApi.post("/offers/refresh"));
      await heard.refetch();
      return true;
    },
    enabled: ask,
    staleTime: 30_000,
    retry: false,
  });
  const accept = useMutation({
    retry: false,
    mutationFn: (offer_id: string) =>
      finished(
        workspace_id,
        workspaceApi.post("/offers/{offer_id}/acceptance", { path: { offer_id }, body: { site_id } }),
      ),
    onSettled: refresh,
  });
  const decline = useChange(
    (offer_id: string) => workspaceApi.post("/offers/{offer_id}/refusal", { path: { offer_id } }),
    refresh,
  );
  return { heard, asked: query, accept, decline };
}
