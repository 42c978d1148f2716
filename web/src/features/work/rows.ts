import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useChange } from "@/api/change";
import { Problem } from "@/api/client";
import { useRequests } from "@/api/requests";
import type { CropEntry, LaneEntry, OpenedRows, RowTrial } from "@/api/schema.gen";
import { useStale } from "@/api/stale";
import { t } from "@/texts/work";

/** Opened ground of a site, crops, and what is watered until it has rooted. */
export function useRows() {
  const { siteApi, key } = useRequests();
  return useQuery({
    queryKey: key("supply", "rows"),
    queryFn: () => siteApi.get("/rows"),
  });
}

/** What opening rows comes to, while it is typed; and the server's sentences by field. */
export function useRowTrial(body: RowTrial, enabled: boolean) {
  const { siteApi, key } = useRequests();
  const query = useQuery({
    queryKey: key("supply", "row-trial", body),
    queryFn: () => siteApi.post("/rows/trial", { body }),
    placeholderData: keepPreviousData,
    enabled,
    retry: false,
  });
  const problem = query.error instanceof Problem ? query.error : null;
  return { tried: problem ? undefined : query.data, errors: problem?.errors ?? [] };
}

/** Whether there is time for a crop from a day on, and what can be sown instead. */
export function useTimeLeft(crop: string, on: string) {
  const { siteApi, key } = useRequests();
  return useQuery({
    queryKey: key("supply", "time-left", crop, on),
    queryFn: () => siteApi.get("/time-left", { query: { crop, on } }),
    placeholderData: keepPreviousData,
    enabled: crop !== "" && on !== "",
  });
}

export function useLanes() {
  const { workspaceApi } = useRequests();
  return useChange((body: LaneEntry) => workspaceApi.post("/lanes", { body }));
}

export function useCropChanges() {
  const { workspaceApi } = useRequests();
  const refresh = useStale("plan");
  const add = useChange((body: CropEntry & { id: string }) => workspaceApi.post("/crops", { body }), refresh);
  const remove = useChange((key: string) => workspaceApi.delete("/crops/{key}", { path: { key } }), refresh);
  return { add, remove };
}

type RowState = OpenedRows["state"];

/** What is written down of opened ground: every state but the first, which opening it writes. */
export type RowStep = Exclude<RowState, "pulled_back">;

export function isStep(state: RowState): state is RowStep {
  return state !== "pulled_back";
}

export const STATES: Record<RowState, string> = {
  pulled_back: t("pulledBack"),
  loosened: t("loosened"),
  sown: t("sown"),
  planted: t("planted"),
  up: t("up"),
  closed: t("closedRoundPlants"),
  cleared: t("coveredAgain"),
};

/** What the button of a step says. */
export const DOES: Record<RowStep, string> = {
  loosened: t("loosen"),
  sown: t("sow"),
  planted: t("plant"),
  up: t("itIsUp"),
  closed: t("putChipsBack"),
  cleared: t("coverAgain"),
};
