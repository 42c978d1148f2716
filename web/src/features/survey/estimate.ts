import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, Problem, result } from "@/api/client";
import type { EstimateRequest } from "@/api/schema.gen";

const PAUSE_MS = 120;

function useSettled<T>(value: T): T {
  const text = JSON.stringify(value);
  const [settled, set] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => set(text), PAUSE_MS);
    return () => clearTimeout(timer);
  }, [text]);
  return JSON.parse(settled) as T;
}

/** The sentences by field of the plot, which is one part of what was asked. */
function fieldsOfPlot(problem: Problem) {
  return Object.fromEntries(
    problem.errors.map((error) => [error.field.replace(/^plot\./, ""), error.detail]),
  );
}

/** What the core says of the plot while it is being typed. */
export function useEstimate(path: { workspace_id: string; site_id: string }, request: EstimateRequest) {
  const body = useSettled(request);
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
  });
  const current = JSON.stringify(body) === JSON.stringify(request) && !query.isPlaceholderData;
  return {
    estimate: query.isError ? undefined : query.data,
    errors: query.error instanceof Problem ? fieldsOfPlot(query.error) : {},
    current,
  };
}
