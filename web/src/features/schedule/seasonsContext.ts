import { useOutletContext } from "react-router";
import type { SeasonsSheet, SiteSheet } from "@/api/schema.gen";

/** What the pages of the seasons share: the site and its seasons. */
export interface SeasonsContext {
  site: SiteSheet;
  seasons: SeasonsSheet;
}

export const useSeasonsContext = () => useOutletContext<SeasonsContext>();
