import { useMutation, useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { api, result } from "@/api/client";
import { finished } from "@/api/errand";
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
import { useUndo } from "@/ui/undo";

const W = "/api/v1/workspaces/{workspace_id}" as const;
const S = `${W}/sites/{site_id}` as const;

export function useSuppliers(workspace_id: string) {
  return useQuery({
    queryKey: ["suppliers", workspace_id],
    queryFn: () => result(api.GET(`${W}/suppliers`, { params: { path: { workspace_id } } })),
    enabled: workspace_id !== "",
  });
}

/** What can be done with suppliers. */
export function useSupplierChanges(workspace_id: string) {
  const offerUndo = useUndo();
  const refresh = useStale("suppliers");
  const add = useMutation({
    mutationFn: (body: NewSupplier) =>
      result(api.POST(`${W}/suppliers`, { params: { path: { workspace_id } }, body })),
    // Not waited for: the form closes at once, before another can be opened in its place.
    onSuccess: () => void refresh(),
  });
  const change = useMutation({
    mutationFn: ({ stored, entry }: { stored: SupplierOut; entry: SupplierEntry }) =>
      result(
        api.PUT(`${W}/suppliers/{supplier_id}`, {
          params: {
            path: { workspace_id, supplier_id: stored.id },
            header: { "if-match": `"${stored.version}"` },
          },
          body: entry,
        }),
      ),
    onSettled: () => void refresh(),
  });
  const restore = useMutation({
    mutationFn: (supplier_id: string) =>
      result(
        api.POST(`${W}/suppliers/{supplier_id}/restoration`, {
          params: { path: { workspace_id, supplier_id } },
        }),
      ),
    onSuccess: refresh,
  });
  const remove = useMutation({
    mutationFn: ({ id: supplier_id }: SupplierOut) =>
      result(api.DELETE(`${W}/suppliers/{supplier_id}`, { params: { path: { workspace_id, supplier_id } } })),
    onSuccess: async (_, { id, name }) => {
      await refresh();
      offerUndo({ text: t("wasDeleted", { name }), undo: () => restore.mutate(id) });
    },
  });
  return { add, change, remove };
}

/** A site's supply: each part is fetched when it is looked at, and again when anything of it was changed. */
function useSupply() {
  const { workspaceId = "", siteId = "" } = useParams();
  const offerUndo = useUndo();
  const path = { workspace_id: workspaceId, site_id: siteId };
  const refresh = useStale("plan");
  const key = (part: string) => ["supply", workspaceId, siteId, part];
  return { path, key, refresh, offerUndo };
}

export function useOrder(season: string | undefined) {
  const { path, key } = useSupply();
  return useQuery({
    queryKey: [...key("order"), season],
    queryFn: () => result(api.GET(`${S}/orders`, { params: { path, query: season ? { season } : {} } })),
  });
}

/** The user's own choice of loads for a season, and booking a load. */
export function useChoice() {
  const { path, refresh } = useSupply();
  const choose = useMutation({
    mutationFn: ({ version, ...body }: ChoiceEntry & { version: number }) =>
      result(api.PUT(`${S}/choice`, { params: { path, header: { "if-match": `"${version}"` } }, body })),
    onSettled: refresh,
  });
  const book = useMutation({
    mutationFn: (body: Booking) => result(api.POST(`${S}/bookings`, { params: { path }, body })),
    onSettled: refresh,
  });
  return { choose, book };
}

export function useBuying() {
  const { path, key } = useSupply();
  return useQuery({
    queryKey: key("buying"),
    queryFn: () => result(api.GET(`${S}/buying`, { params: { path } })),
  });
}

export function usePlanChanges() {
  const { path, refresh } = useSupply();
  const buying = useMutation({
    mutationFn: ({ entry, version }: { entry: BuyingEntry; version: number }) =>
      result(
        api.PUT(`${S}/buying`, {
          params: { path, header: { "if-match": `"${version}"` } },
          body: entry,
        }),
      ),
    onSettled: refresh,
  });
  const priority = useMutation({
    mutationFn: (priorities: Record<string, number>) =>
      result(api.PUT(`${S}/priorities`, { params: { path }, body: { priorities } })),
    onSettled: refresh,
  });
  return { buying, priority };
}

export function useStock() {
  const { path, key } = useSupply();
  return useQuery({
    queryKey: key("stock"),
    queryFn: () => result(api.GET(`${S}/stock`, { params: { path } })),
  });
}

export function useStockChanges() {
  const { path, refresh, offerUndo } = useSupply();
  const expect = useMutation({
    mutationFn: (body: NewDelivery) => result(api.POST(`${S}/deliveries`, { params: { path }, body })),
    onSuccess: refresh,
  });
  const arrive = useMutation({
    mutationFn: (body: Arrival) => result(api.POST(`${S}/arrivals`, { params: { path }, body })),
    onSuccess: refresh,
  });
  const receive = useMutation({
    mutationFn: ({ delivery, entry }: { delivery: DeliveryOut; entry: ReceiptEntry }) =>
      result(
        api.POST(`${S}/deliveries/{delivery_id}/receipt`, {
          params: {
            path: { ...path, delivery_id: delivery.id },
            header: { "if-match": `"${delivery.version}"` },
          },
          body: entry,
        }),
      ),
    onSettled: refresh,
  });
  const reopen = useMutation({
    mutationFn: (delivery_id: string) =>
      result(
        api.POST(`${S}/deliveries/{delivery_id}/restoration`, { params: { path: { ...path, delivery_id } } }),
      ),
    onSuccess: refresh,
  });
  const cancel = useMutation({
    mutationFn: ({ id: delivery_id }: DeliveryOut) =>
      result(api.DELETE(`${S}/deliveries/{delivery_id}`, { params: { path: { ...path, delivery_id } } })),
    onSuccess: async (_, { id, name }) => {
      await refresh();
      offerUndo({ text: t("wasCancelled", { name }), undo: () => reopen.mutate(id) });
    },
  });
  const enter = useMutation({
    mutationFn: ({ pile_id, entry }: { pile_id: string; entry: NewBookLine }) =>
      result(api.POST(`${S}/piles/{pile_id}/lines`, { params: { path: { ...path, pile_id } }, body: entry })),
    onSettled: refresh,
  });
  const takeBack = useMutation({
    mutationFn: (line_id: string) =>
      result(api.DELETE(`${S}/lines/{line_id}`, { params: { path: { ...path, line_id } } })),
    onSettled: refresh,
  });
  return { path, refresh, expect, arrive, receive, cancel, enter, takeBack };
}

export function useMoving(season: string | undefined) {
  const { path, key } = useSupply();
  return useQuery({
    queryKey: [...key("moving"), season],
    queryFn: () => result(api.GET(`${S}/moving`, { params: { path, query: season ? { season } : {} } })),
  });
}

export function useQuotes(season: string | undefined) {
  const { path, key, offerUndo } = useSupply();
  const refresh = useStale("quotes");
  const sheet = useQuery({
    queryKey: [...key("quotes"), season],
    queryFn: () => result(api.GET(`${S}/quotes`, { params: { path, query: season ? { season } : {} } })),
  });
  const keep = useMutation({
    mutationFn: (body: QuoteEntry) => result(api.POST(`${S}/quotes`, { params: { path }, body })),
    onSuccess: refresh,
  });
  const restore = useMutation({
    mutationFn: (quote_id: string) =>
      result(api.POST(`${S}/quotes/{quote_id}/restoration`, { params: { path: { ...path, quote_id } } })),
    onSuccess: refresh,
  });
  const remove = useMutation({
    mutationFn: ({ id: quote_id }: { id: string; number: number }) =>
      result(api.DELETE(`${S}/quotes/{quote_id}`, { params: { path: { ...path, quote_id } } })),
    onSuccess: async (_, { id, number }) => {
      await refresh();
      offerUndo({ text: t("quoteWasDeleted", { number }), undo: () => restore.mutate(id) });
    },
  });
  return { path, sheet, keep, remove };
}

/** The inbox: asked anew from the service when it is opened, and shown as last heard until the answer comes. */
export function useOffers(ask: boolean) {
  const { path, key, refresh } = useSupply();
  const { workspace_id, site_id } = path;
  const params = { path: { workspace_id }, query: { site_id } };
  const heard = useQuery({
    queryKey: key("offers"),
    queryFn: () => result(api.GET(`${W}/offers`, { params })),
  });
  const query = useQuery({
    queryKey: key("offers-asked"),
    queryFn: async () => {
      await finished(
        workspace_id,
        result(api.POST(`${W}/offers/refresh`, { params: { path: { workspace_id } } })),
      );
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
        result(
          api.POST(`${W}/offers/{offer_id}/acceptance`, {
            params: { path: { workspace_id, offer_id } },
            body: { site_id },
          }),
        ),
      ),
    onSettled: refresh,
  });
  const decline = useMutation({
    mutationFn: (offer_id: string) =>
      result(api.POST(`${W}/offers/{offer_id}/refusal`, { params: { path: { workspace_id, offer_id } } })),
    onSettled: refresh,
  });
  return { heard, asked: query, accept, decline };
}
