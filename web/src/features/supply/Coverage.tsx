import type { OrderSheet, PlotWant } from "@/api/schema.gen";
import { t } from "@/texts/supply";
import { about, SPECK_M3 } from "@/ui/precision";
import { Select } from "@/ui/Select";
import { useUnits } from "@/ui/units";
import { usePlanChanges } from "./supply";

const PRIORITIES: [string, string][] = [
  ["1", t("firstPriority")],
  ["2", t("normal")],
  ["3", t("low")],
];

/** Which ground gets it, the most important first; where there is too little, what stays bare. */
export function Coverage({ order, edit }: { order: OrderSheet; edit: boolean }) {
  const units = useUnits();
  const { priority } = usePlanChanges();
  const short = order.plots.filter((plot) => plot.short_m3 > SPECK_M3);
  const bare = short.filter((plot) => plot.gets_m3 <= SPECK_M3);
  return (
    <section data-testid="coverage">
      <h2 className="text-xl">{t("allocationByPlot")}</h2>
      <p className="mb-1 text-sm text-base-content/75" aria-live="polite">
        {short.length === 0
          ? t("allPlotsAreCovered")
          : t("lessThanNeeded", {
              plots: t("plotsGet2", { count: short.length }),
              none: bare.length > 0 ? t("noneFor", { bare: bare.map((plot) => plot.name).join(", ") }) : "",
            })}
      </p>
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {order.plots.map((plot) => (
          <li key={plot.plot_id} className="grid grid-cols-[minmax(0,1fr)_7rem] items-center gap-x-3 py-1.5">
            <div className="min-w-0">
              <span className="flex items-baseline justify-between gap-2">
                <span className="truncate">{plot.name}</span>
                <span className="text-sm whitespace-nowrap">
                  {plot.needs_m3 <= SPECK_M3 ? t("nothingDue") : about(plot.needs_m3, units)}
                </span>
              </span>
              <Bar want={plot} />
              <span className="line-clamp-2 text-sm text-base-content/75" title={plot.accepts.join(", ")}>
                {plot.needs_m3 > SPECK_M3 ? accepted(plot) : ""}
              </span>
              {plot.short_m3 > SPECK_M3 ? (
                <span className="text-sm font-medium text-error">
                  {t("short", { volume: about(plot.short_m3, units) })}
                </span>
              ) : null}
            </div>
            {plot.needs_m3 > SPECK_M3 ? (
              <Select
                className="w-full"
                label={t("priorityOf", { name: plot.name })}
                value={String(plot.priority)}
                disabled={!edit || priority.isPending}
                onChange={(level) => priority.mutate({ [plot.plot_id]: Number(level) })}
                options={PRIORITIES}
              />
            ) : (
              <span />
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What may be laid there, in words. */
function accepted({ accepts, stages }: PlotWant) {
  const aged = stages.includes("fresh") ? "" : `${t("stages", { stages: stages[0] ?? "" })} `;
  return t("accepts", { aged, materials: accepts.map((name) => name.toLowerCase()).join(", ") });
}

function Bar({ want }: { want: PlotWant }) {
  const all = Math.max(want.needs_m3, 0.001);
  const part = (amount: number) => `${Math.min(100, (100 * amount) / all)}%`;
  if (want.needs_m3 <= SPECK_M3) return null;
  return (
    <span
      className="mt-0.5 flex h-2 bg-base-300"
      role="img"
      aria-label={want.short_m3 > SPECK_M3 ? t("partlyCovered") : t("covered")}
    >
      <span className="h-full bg-secondary" style={{ width: part(want.gets_m3) }} />
    </span>
  );
}
