import { type QueryKey, useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { useParams } from "react-router";

/** What follows from the plan of a site, or of every site of a workspace. */
const plan = (workspace: string, site?: string): QueryKey[] => [
  ["sites", workspace],
  ["seasons", workspace, "all"],
  ...["site", "supply", "seasons", "log", "plot"].map((part) =>
    site === undefined ? [part, workspace] : [part, workspace, site],
  ),
];

/** Which answers a change makes out of date, by what they begin with. */
export const STALE = {
  plan: (workspace: string, site: string) => plan(workspace, site),
  quotes: (workspace: string, site: string) => [["supply", workspace, site, "quotes"]],
  sites: (workspace: string) => [
    ["sites", workspace],
    ["seasons", workspace, "all"],
  ],
  suppliers: (workspace: string) => [["suppliers", workspace], ...plan(workspace)],
  materials: (workspace: string) => [["materials", workspace], ...plan(workspace)],
  practice: (workspace: string) => [["practice", workspace], ...plan(workspace)],
  parameters: (workspace: string) => [["parameters", workspace], ["materials", workspace], ...plan(workspace)],
  members: (workspace: string) => [["members", workspace], ["session"]],
  invitations: (workspace: string) => [["invitations", workspace]],
  session: () => [["session"]],
  signIns: () => [["sign-ins"]],
} satisfies Record<string, (workspace: string, site: string) => QueryKey[]>;

export type Change = keyof typeof STALE;

/** After a change what follows from it is asked again. What was asked before it may answer late, and is not waited
 *  for. */
export function useStale(change: Change) {
  const cache = useQueryClient();
  const { workspaceId = "", siteId = "" } = useParams();
  return useCallback(async () => {
    const keys = STALE[change](workspaceId, siteId);
    await Promise.all(keys.map((queryKey) => cache.cancelQueries({ queryKey })));
    await Promise.all(keys.map((queryKey) => cache.invalidateQueries({ queryKey })));
  }, [cache, change, workspaceId, siteId]);
}
