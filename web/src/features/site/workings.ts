import { useCallback } from "react";
import { useParams } from "react-router";
import { apiOfSite } from "@/api/client";
import type { SeasonWorkings } from "@/api/schema.gen";
import { useUnits } from "@/ui/units";
import { useWorkingSheet } from "@/ui/working";

/** Opens how a figure of a season is worked out; it is fetched when it is asked for. */
export function useWorkings() {
  const { workspaceId = "", siteId = "" } = useParams();
  const units = useUnits();
  const open = useWorkingSheet();
  return useCallback(
    async (part: keyof SeasonWorkings, season: string) => {
      const workings = await apiOfSite(workspaceId, siteId).get("/workings", { query: { season } });
      open(workings[part], units);
    },
    [workspaceId, siteId, units, open],
  );
}
