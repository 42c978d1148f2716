import { CalendarRange, FileDown, Minus, Plus, Settings2, Truck } from "lucide-react";
import { Link } from "react-router";
import type { SiteHaul, SiteNeed, SiteOut } from "@/api/schema.gen";
import { count, other, shown, volume } from "@/ui/format";
import { useUnits } from "@/ui/units";
import { rangeOf, Value } from "@/ui/working";

interface Props {
  site: SiteOut;
  need: SiteNeed;
  haul: SiteHaul;
  typing: boolean;
  settings: string;
  files: string;
  supply: string;
  seasons: string;
  choose?: (loads: number | null) => void;
}

/** What to order: the one thing on the page that shouts. */
export function OrderStrip({ site, need, haul, typing, settings, files, supply, seasons, choose }: Props) {
  const units = useUnits();
  const { order } = need;
  const loads = order.loads.value;
  const range = rangeOf(need.volume, units);
  return (
    <section
      aria-label="What to order"
      className="flex flex-wrap items-center gap-x-8 gap-y-2 border-b border-base-300 bg-base-100 px-4 py-2.5"
    >
      <div className="flex items-center gap-2">
        {choose ? (
          <button
            type="button"
            className="btn btn-square btn-sm press min-w-11 print:hidden"
            aria-label="One load fewer"
            disabled={loads <= 0}
            onClick={() => choose(loads - 1)}
          >
            <Minus size={18} />
          </button>
        ) : null}
        <p className="leading-none" data-testid="loads">
          <Value figure={order.loads} className="display text-3xl leading-none text-primary sm:text-4xl">
            {count(loads, "load", "loads")}
          </Value>
          <span className="mt-1 block text-sm text-base-content/75">
            of {volume(site.load_m3, units)} each
          </span>
        </p>
        {choose ? (
          <button
            type="button"
            className="btn btn-square btn-sm press min-w-11 print:hidden"
            aria-label="One load more"
            onClick={() => choose(loads + 1)}
          >
            <Plus size={18} />
          </button>
        ) : null}
      </div>
      <dl className="order-2 grid w-full grow grid-cols-2 gap-x-6 gap-y-1 sm:order-none sm:flex sm:w-auto sm:gap-x-8">
        <Item term={typing ? "Needed, with what you type" : "Needed, loose"}>
          <span data-testid="need">
            <Value figure={need.volume} className="text-xl font-semibold" />
          </span>
          <span className="block text-sm text-base-content/75">
            {shown(need.volume.value, "m3", other(units))}
            {range ? <span className="hidden xl:inline">; {range}</span> : null}
          </span>
        </Item>
        {order.short.value > 0.0005 ? (
          <Item term="Short">
            <Value figure={order.short} className="text-xl font-semibold text-error" />
            <span className="block text-sm text-base-content/75">
              {count(order.enough.value, "load is", "loads are")} enough
            </span>
          </Item>
        ) : (
          <Item term="Left over">
            <Value figure={order.left_over} className="text-xl font-semibold" />
            <span className="block text-sm text-base-content/75">
              {site.loads_chosen === null
                ? `${volume(order.delivered.value, units)} delivered`
                : `${count(order.enough.value, "is", "are")} enough`}
            </span>
          </Item>
        )}
        <Item term="Barrow trips">
          <Value figure={need.trips} className="text-xl font-semibold">
            {need.trips.value.toLocaleString()}
          </Value>
          <span className="block text-sm text-base-content/75" data-testid="hours">
            <Value figure={haul.hours} />
            {rangeOf(haul.hours, units) ? (
              <span className="hidden xl:inline"> ({rangeOf(haul.hours, units)})</span>
            ) : null}
          </span>
        </Item>
        <Item term="Ground">
          <Value figure={need.area} className="text-xl font-semibold" />
        </Item>
      </dl>
      {choose && site.loads_chosen !== null ? (
        <button type="button" className="btn btn-sm press print:hidden" onClick={() => choose(null)}>
          Order just enough
        </button>
      ) : null}
      <nav className="ml-auto flex print:hidden" aria-label="Site">
        <Link to={supply} className="btn btn-ghost press" title="From whom, onto which pile, for how much">
          <Truck size={18} /> Supply
        </Link>
        <Link to={seasons} className="btn btn-ghost press" title="What becomes of it, and when to lay again">
          <CalendarRange size={18} /> Seasons
        </Link>
        <Link to={files} className="btn btn-ghost press" title="Files in and out">
          <FileDown size={18} /> <span className="sr-only xl:not-sr-only">Files</span>
        </Link>
        <Link to={settings} className="btn btn-ghost press" title="Load size, spare, barrow, units, location">
          <Settings2 size={18} /> <span className="sr-only xl:not-sr-only">Load and units</span>
        </Link>
      </nav>
    </section>
  );
}

function Item({ term, children }: { term: string; children: React.ReactNode }) {
  return (
    <div className="min-w-0">
      <dt className="text-sm text-base-content/75">{term}</dt>
      <dd className="leading-tight">{children}</dd>
    </div>
  );
}
