import { useParams } from "react-router";
import { apiOfSite, apiOfWorkspace } from "./client";

/** What is asked of the workspace and the site of this address, and under which key the answers are kept. */
export function useRequests() {
  const { workspaceId = "", siteId = "" } = useParams();
  return {
    path: { workspace_id: workspaceId, site_id: siteId },
    workspaceApi: apiOfWorkspace(workspaceId),
    siteApi: apiOfSite(workspaceId, siteId),
    key: (part: string, ...rest: unknown[]) => [part, workspaceId, siteId, ...rest],
  };
}

/** The query of a season, or of the next where none is named. */
export const ofSeason = (season: string | undefined) => ({ query: season ? { season } : {} });
