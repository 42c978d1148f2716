import {
  Bug,
  CalendarRange,
  Check,
  Droplets,
  FlaskConical,
  type LucideIcon,
  NotebookPen,
  Ruler,
  Shovel,
  Sprout,
  Thermometer,
  TriangleAlert,
  Truck,
} from "lucide-react";
import type { Occasion } from "@/api/schema.gen";
import { valueText } from "@/ui/format";
import { inUnits } from "@/ui/precision";
import { useUnits } from "@/ui/units";

const ICONS: Record<Occasion["kind"], LucideIcon> = {
  season: CalendarRange,
  order: Truck,
  delivery: Truck,
  work: Shovel,
  reading: Ruler,
  dressing: FlaskConical,
  rows: Sprout,
  water: Droplets,
  pile: Thermometer,
  closure: Bug,
  done: Check,
  logged: NotebookPen,
};

/** What falls on a day, in a line: what it is, its hours, and whether it breaks something. */
export function OccasionLine({ occasion, short = false }: { occasion: Occasion; short?: boolean }) {
  const units = useUnits();
  const Icon = ICONS[occasion.kind];
  const broken = (occasion.breaks ?? []).length > 0;
  return (
    <span className={`flex min-w-0 items-start gap-1.5 ${short ? "text-xs leading-snug" : ""}`}>
      <Icon size={short ? 13 : 17} className="mt-0.5 shrink-0" aria-hidden />
      <span className={`min-w-0 grow ${short ? "truncate" : ""} ${occasion.kind === "work" ? "font-semibold" : ""}`}>
        {inUnits(occasion.words, units)}
        {short || !occasion.crews?.length ? "" : ` · ${occasion.crews.join(", ")}`}
      </span>
      {broken ? <TriangleAlert size={short ? 13 : 17} className="mt-0.5 shrink-0 text-error" aria-hidden /> : null}
      {occasion.hours != null && !short ? (
        <span className="whitespace-nowrap">{valueText(occasion.hours, "h", units)}</span>
      ) : null}
    </span>
  );
}
