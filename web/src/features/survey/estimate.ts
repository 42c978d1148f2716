import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Problem } from "@/api/client";
import { useRequests } from "@/api/requests";
import type { EstimateRequest } from "@/api/schema.gen";

/** The sentences by field of the plot, which is one part of what was asked. */
function fieldsOfPlot(problem: Problem) {
  return Object.fromEntries(problem.errors.map((error) => [error.field.replace(/^plot\./, ""), error.detail]));
}

/** What the core says of the plot while it is being typed. */
export function useEstimate(
  body: EstimateRequest,
  /** Whether enough is typed to ask. */
  enabled: boolean,
) {
  const { siteApi, key } = useRequests();
  const query = useQuery({
    queryKey: key("plot", "estimate", body),
    queryFn: ({ signal }) => siteApi.post("/estimate", { body, signal }),
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
