import { Copy } from "lucide-react";
import { useState } from "react";
import type { PlotOut, SiteHaul, SiteNeed, SiteOut, TipPlan } from "@/api/schema.gen";
import { useUses } from "@/features/survey/site";
import { count, length, share, volume } from "@/ui/format";
import { useUnits } from "@/ui/units";
import { rangeOf, Value } from "@/ui/working";
import { Sure, Tips } from "./Sure";

interface Props {
  site: SiteOut;
  plots: PlotOut[];
  need: SiteNeed;
  haul: SiteHaul;
  tips: TipPlan[];
}

/** The order as somebody would say it on the telephone, and what it is made of. */
export function OrderInWords({ site, plots, need, haul, tips }: Props) {
  const units = useUnits();
  const { data: uses } = useUses();
  const [copied, setCopied] = useState(false);
  const { order } = need;
  const loads = order.loads.value;
  if (need.volume.value <= 0 && need.also.length === 0) {
    return plots.length > 0 ? (
      <p className="p-4">Nothing to order: no plot wants more than lies there.</p>
    ) : null;
  }
  const said = `${count(loads, "load", "loads")} of wood chips, ${volume(site.load_m3, units)} each, for ${site.name}`;
  const short = order.short.value > 0.0005;
  const fewer = need.volume.value - (order.enough.value - 1) * site.load_m3;
  const byUse = (uses ?? [])
    .map((use) => ({
      ...use,
      volume_m3: plots.filter((plot) => plot.use === use.use).reduce((sum, plot) => sum + plot.volume_m3, 0),
    }))
    .filter((use) => use.volume_m3 > 0)
    .sort((a, b) => b.volume_m3 - a.volume_m3);
  const most = byUse[0]?.volume_m3 ?? 1;
  return (
    <div className="space-y-5 p-4">
      <section className="space-y-2">
        <h2 className="text-xl">The order</h2>
        <p className="text-lg">{said}.</p>
        <p>
          {short
            ? `That leaves ${volume(order.short.value, units)} of the need uncovered; ${count(order.enough.value, "load covers", "loads cover")} all of it.`
            : `That covers all of the ground and leaves ${volume(order.left_over.value, units)} over.`}
          {!short && site.loads_chosen === null && order.enough.value > 1
            ? ` With one load fewer, ${volume(fewer, units)} would be missing.`
            : ""}
        </p>
        <p className="text-sm text-base-content/75">
          Loose volume, with {share(site.spare)} spare and what it loses by settling. A truck’s load is seldom
          exact; ask what this one holds. What lies on piles and is coming is reckoned with under Supply.
        </p>
        <button
          type="button"
          className="btn press print:hidden"
          onClick={() => {
            navigator.clipboard?.writeText(said);
            setCopied(true);
          }}
        >
          <Copy size={17} /> {copied ? "Copied" : "Copy the order"}
        </button>
      </section>
      {need.certainty ? <Sure certainty={need.certainty} site={site} loads={loads} /> : null}
      <Tips tips={tips} load_m3={site.load_m3} />
      <section data-testid="haul">
        <h2 className="text-lg">Moving it</h2>
        <p>
          {count(haul.trips, "barrow trip", "barrow trips")}, {length(haul.walked_m, units)} on foot,{" "}
          <Value figure={haul.hours} className="font-semibold" /> by one person ({rangeOf(haul.hours, units)}
          ).
        </p>
        {haul.too_narrow.length > 0 ? (
          <p className="border-l-4 border-warning pl-3">
            No barrow gets through to {haul.too_narrow.join(", ")}.
          </p>
        ) : null}
        {haul.unknown_walks > 0 ? (
          <p className="text-sm text-base-content/75">
            {count(haul.unknown_walks, "walk is", "walks are")} not known and taken as {length(25, units)}.
          </p>
        ) : null}
        <p className="text-sm text-base-content/75">
          Lift with straight knees, fill barrows as you can push them, take shade and water.
        </p>
      </section>
      {need.also.length > 0 ? (
        <section data-testid="also">
          <h2 className="mb-1 text-lg">Also to order</h2>
          <ul>
            {need.also.map((one) => (
              <li key={one.role + one.material} className="flex justify-between gap-3 py-1">
                <span>{one.name}</span>
                <Value figure={one.amount} className="font-semibold whitespace-nowrap" />
              </li>
            ))}
          </ul>
        </section>
      ) : null}
      <section>
        <h2 className="mb-1 text-lg">Where it goes</h2>
        <ul>
          {byUse.map((use) => (
            <li key={use.use} className="py-1.5">
              <span className="flex justify-between gap-3">
                <span>{use.label}</span>
                <span className="font-semibold whitespace-nowrap">{volume(use.volume_m3, units)}</span>
              </span>
              <span className="mt-0.5 block h-1.5 bg-base-300">
                <span
                  className="block h-full bg-secondary"
                  style={{ width: `${(100 * use.volume_m3) / most}%` }}
                />
              </span>
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
