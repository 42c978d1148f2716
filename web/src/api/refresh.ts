import { useQueryClient } from "@tanstack/react-query";

/** After a change everything is asked again. What was asked before it may answer late, and is not waited for. */
export function useRefresh() {
  const cache = useQueryClient();
  return async () => {
    await cache.cancelQueries();
    await cache.invalidateQueries();
  };
}
