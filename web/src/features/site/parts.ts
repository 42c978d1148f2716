import { CalendarRange, FlaskConical, LandPlot, type LucideIcon, NotebookPen, Shovel, Truck } from "lucide-react";
import { t } from "@/texts/site";

export interface Part {
  path: string;
  label: string;
  icon: LucideIcon;
}

/** The parts of a site in the order of the job. */
export const PARTS: Part[] = [
  { path: "", label: t("ground"), icon: LandPlot },
  { path: "/order", label: t("order"), icon: Truck },
  { path: "/work", label: t("work"), icon: Shovel },
  { path: "/seasons", label: t("seasons"), icon: CalendarRange },
  { path: "/nitrogen", label: t("nitrogen"), icon: FlaskConical },
  { path: "/log", label: t("log"), icon: NotebookPen },
];

/** The part of the job that comes after that of an address within a site. */
export function partAfter(within: string): Part | undefined {
  const index = PARTS.findLastIndex((part) => within === part.path || within.startsWith(`${part.path}/`));
  return PARTS[index + 1];
}
