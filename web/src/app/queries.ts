import { QueryClient } from "@tanstack/react-query";
import { Problem } from "@/api/client";
import { onRecovery } from "./connection";

const outage = (error: unknown) => error instanceof Problem && error.outage;

/** Outages are waited out: queries and saves are sent again until the server is back. */
export const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 10_000,
      networkMode: "always",
      retry: (count, error) => outage(error) && count < 1,
      retryDelay: 1000,
    },
    mutations: { networkMode: "always", retry: (_, error) => outage(error), retryDelay: 2000 },
  },
});

// While nothing could be asked anything may have changed.
onRecovery(() => void queries.invalidateQueries());
