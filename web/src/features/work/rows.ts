import { keepPreviousData, useMutation, useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { api, Problem, result } from "@/api/client";
import type { CropEntry, LaneEntry, OpenedRows, RowTrial } from "@/api/schema.gen";
import { useStale } from "@/api/stale";
import { t } from "@/texts/work";

const W = "/api/v1/workspaces/{workspace_id}" as const;
const S = `${W}/sites/{site_id}` as const;

function usePath() {
  const { workspaceId = "", siteId = "" } = useParams();
  return { workspace_id: workspaceId, site_id: siteId };
}

/** Opened ground of a site, crops, and what is watered until it has rooted. */
export function useRows() {
  const path = usePath();
  return useQuery({
    queryKey: ["supply", path.workspace_id, path.site_id, "rows"],
    queryFn: () => result(api.GET(`${S}/rows`, { params: { path } })),
  });
}

/** What opening rows comes to, while it is typed; and the server's sentences by field. */
export function useRowTrial(body: RowTrial, enabled: boolean) {
  const path = usePath();
  const query = useQuery({
    queryKey: ["supply", path.workspace_id, path.site_id, "row-trial", body],
    queryFn: () => result(api.POST(`${S}/rows/trial`, { params: { path }, body })),
    placeholderData: keepPreviousData,
    enabled,
    retry: false,
  });
  const problem = query.error instanceof Problem ? query.error : null;
  return { tried: problem ? undefined : query.data, errors: problem?.errors ?? [] };
}

/** Whether there is time for a crop from a day on, and what can be sown instead. */
export function useTimeLeft(crop: string, on: string) {
  const path = usePath();
  return useQuery({
    queryKey: ["supply", path.workspace_id, path.site_id, "time-left", crop, on],
    queryFn: () => result(api.GET(`${S}/time-left`, { params: { path, query: { crop, on } } })),
    placeholderData: keepPreviousData,
    enabled: crop !== "" && on !== "",
  });
}

export function useLanes() {
  const path = usePath();
  return useMutation({
    mutationFn: (body: LaneEntry) => result(api.POST(`${W}/lanes`, { params: { path }, body })),
  });
}

export function useCropChanges() {
  const path = usePath();
  const refresh = useStale("plan");
  const add = useMutation({
    mutationFn: (body: CropEntry & { id: string }) =>
      result(api.POST(`${W}/crops`, { params: { path }, body })),
    onSuccess: refresh,
  });
  const remove = useMutation({
    mutationFn: (key: string) =>
      result(api.DELETE(`${W}/crops/{key}`, { params: { path: { ...path, key } } })),
    onSuccess: refresh,
  });
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
