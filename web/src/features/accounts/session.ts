import { queryOptions, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate, useParams } from "react-router";
import { api, apiOfWorkspace } from "@/api/client";
import type { SessionOut, UnitSystem } from "@/api/schema.gen";

export const SESSION = queryOptions({
  queryKey: ["session"],
  queryFn: () => api.get("/session"),
  staleTime: 60_000,
});

export const useSession = () => useQuery(SESSION);

/** Takes over a session that the server just answered with. */
export function useEnter() {
  const cache = useQueryClient();
  return (session: SessionOut) => {
    cache.clear();
    cache.setQueryData(["session"], session);
  };
}

export function useDemo() {
  const enter = useEnter();
  const navigate = useNavigate();
  return useMutation({
    mutationFn: () => api.post("/session/demo"),
    onSuccess: (session) => {
      enter(session);
      navigate("/");
    },
  });
}

export function useSignOut() {
  const cache = useQueryClient();
  const navigate = useNavigate();
  return useMutation({
    mutationFn: () => api.delete("/session"),
    onSuccess: () => {
      for (const key of Object.keys(localStorage)) if (key.startsWith("ulmatic.draft.")) localStorage.removeItem(key);
      navigate("/sign-in");
      cache.clear();
    },
  });
}

/** The first site of the workspace, from which new things take what is usual there. */
function useFirstSite(enabled: boolean) {
  const { workspaceId = "" } = useParams();
  const { data: sites } = useQuery({
    queryKey: ["sites", workspaceId],
    queryFn: () => apiOfWorkspace(workspaceId).get("/sites"),
    enabled: workspaceId !== "" && enabled,
  });
  return { first: sites?.[0], known: sites !== undefined };
}

/** The units to type and read in where no site says: the reader's own choice, else those of the first site. */
export function useWorkspaceUnits(): UnitSystem {
  const { data: session } = useSession();
  const units = session?.user?.units;
  const { first } = useFirstSite(!units);
  return units ?? first?.site.units ?? "metric";
}

/** The currency in which the workspace buys: that of its first site; undefined until it is known. */
export function useWorkspaceCurrency(units: UnitSystem): string | undefined {
  const { first, known } = useFirstSite(true);
  return known ? (first?.now.currency ?? (units === "us" ? "USD" : "EUR")) : undefined;
}

/** What the signed-in member may do in the workspace of this address. */
export function useMay() {
  const { workspaceId } = useParams();
  const { data } = useSession();
  const role = data?.workspaces.find((workspace) => workspace.id === workspaceId)?.role ?? "viewer";
  return { edit: role !== "viewer", own: role === "owner" };
}
