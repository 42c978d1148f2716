import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, Problem, result } from "@/api/client";
import type { EstimateRequest } from "@/api/schema.gen";

/** The sentences by field of the plot, which is one part of what was asked. */
function fieldsOfPlot(problem: Problem) {
  return Object.fromEntries(
    problem.errors.map((error) => [error.field.replace(/^plot\./, ""), error.detail]),
  );
}

/** What the core says of the plot while it is being typed. */
export function useEstimate(
  path: { workspace_id: string; site_id: string },
  body: EstimateRequest,
  /** Whether enough is typed to ask. */
  enabled: boolean,
) {
  const query = useQuery({
    queryKey: ["plot", path.workspace_id, path.site_id, "estimate", body],
    queryFn: ({ signal }) =>
      result(
        api.POST("/api/v1/workspaces/{workspace_id}/sites/{site_id}/estimate", {
          params: { path },
          body,
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    gcTime: 10_000,
    enabled,
  });
  return {
    estimate: query.isError || !enabled ? undefined : query.data,
    errors: query.error instanceof Problem ? fieldsOfPlot(query.error) : {},
    current: !query.isPlaceholderData,
  };
}
