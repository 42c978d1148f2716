import { Copy } from "lucide-react";
import { useState } from "react";
import type { Now, PlotOut, SiteOut, TipPlan } from "@/api/schema.gen";
import { amountOf, besideAmount } from "@/features/site/season";
import { useUses } from "@/features/survey/site";
import { t } from "@/texts/supply";
import { Button } from "@/ui/Button";
import { valueText } from "@/ui/format";
import { about, aboutRest, SPECK_M3 } from "@/ui/precision";
import { useUnits } from "@/ui/units";
import { nothingOrdered } from "./nothingOrdered";
import { sourceOf } from "./OrderTab";
import { Tips } from "./Tips";

interface Props {
  site: SiteOut;
  plots: PlotOut[];
  now: Now;
  tips: TipPlan[];
}

/** The order as somebody would say it on the telephone, and what it is made of. */
export function OrderInWords({ site, plots, now, tips }: Props) {
  const units = useUnits();
  const { data: uses } = useUses();
  const [copied, setCopied] = useState(false);
  if (plots.length === 0) return null;
  if (now.needed_m3 <= SPECK_M3) {
    return (
      <p className="p-4" data-testid="in-words">
        {t("nothingIsDueInWithSeason", {
          season: now.season.toLowerCase(),
          next: now.next ? ` ${t("needs", { season: now.next.season, volume: about(now.next.needed_m3, units) })}` : "",
        })}
      </p>
    );
  }
  const lines = now.order.map((line) => {
    const { what, who } = sourceOf(line);
    const each = line.exact
      ? ""
      : ` ${t("ofAbout", { volume: about(line.volume_m3 / Math.max(1, line.loads), units) })}`;
    return t("ofWithAmount", {
      amount: amountOf(line, units),
      each,
      what,
      source: line.source ? ` ${who}` : "",
    });
  });
  const text = t("for", { lines: lines.join(", "), name: site.name });
  const byUse = (uses ?? [])
    .map((use) => ({
      ...use,
      plots: plots.filter((plot) => plot.use === use.use && plot.planned_m3 > SPECK_M3),
    }))
    .filter((use) => use.plots.length > 0);
  return (
    <div className="space-y-5 p-4" data-testid="in-words">
      <section className="space-y-2">
        <h2 className="text-xl">{t("theOrderHeading")}</h2>
        {lines.length > 0 ? (
          <>
            <ul className="text-lg">
              {lines.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </ul>
            <p>
              {now.short_m3 > SPECK_M3
                ? t("staysUncovered", { volume: about(now.short_m3, units) })
                : t("thatCoversTheSeasonAndLeaves", { volume: aboutRest(now.left_over_m3, units) })}
            </p>
            <Button
              className="print:hidden"
              onClick={() => {
                navigator.clipboard?.writeText(text);
                setCopied(true);
              }}
            >
              <Copy size={17} /> {copied ? t("copied") : t("copyTheOrder")}
            </Button>
          </>
        ) : (
          <p className="text-lg">{nothingOrdered(now, units)}</p>
        )}
        {now.also.length > 0 ? (
          <p data-testid="also">
            {t("withIt", {
              also: now.also
                .map(
                  (layer) =>
                    `${besideAmount(layer, units)} ${layer.role === "guard" ? "" : "of "}${layer.material.toLowerCase()}`,
                )
                .join(", "),
            })}
          </p>
        ) : null}
      </section>
      <section data-testid="haul">
        <h2 className="text-lg">{t("work")}</h2>
        <p>
          {t("trips", { count: now.trips })}, <strong>{valueText(now.hours, "h", units)}</strong>{" "}
          {t("byOnePersonLiftWithBent")}
        </p>
      </section>
      <Tips tips={tips} load_m3={site.load_m3} />
      <section>
        <h2 className="mb-1 text-lg">{t("allocationByPlot")}</h2>
        <ul>
          {byUse.map((use) => (
            <li key={use.use} className="py-1">
              <strong>{use.label}</strong>:{" "}
              {use.plots.map((plot) => `${plot.name} ${about(plot.planned_m3, units)}`).join(", ")}
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
