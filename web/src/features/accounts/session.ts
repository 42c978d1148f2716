import { queryOptions, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate, useParams } from "react-router";
import { api, result } from "@/api/client";
import type { SessionOut, UnitSystem } from "@/api/schema.gen";

export const SESSION = queryOptions({
  queryKey: ["session"],
  queryFn: () => result(api.GET("/api/v1/session")),
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
    mutationFn: () => result(api.POST("/api/v1/session/demo")),
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
    mutationFn: () => result(api.DELETE("/api/v1/session")),
    onSuccess: () => {
      for (const key of Object.keys(localStorage))
        if (key.startsWith("ulmatic.draft.")) localStorage.removeItem(key);
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
    queryFn: () =>
      result(
        api.GET("/api/v1/workspaces/{workspace_id}/sites", {
          params: { path: { workspace_id: workspaceId } },
        }),
      ),
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
