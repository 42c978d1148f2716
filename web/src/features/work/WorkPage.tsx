import { Printer } from "lucide-react";
import type { LegOut } from "@/api/schema.gen";
import { SeasonSelect, useAskedSeason } from "@/features/site/SeasonSelect";
import { useBuying, useMoving } from "@/features/supply/supply";
import { about, count, distance, money, shown } from "@/ui/format";
import { Loading, Trouble } from "@/ui/states";
import { useUnits } from "@/ui/units";
import { rangeOf, Value } from "@/ui/working";

/** In which order plots are laid, from which tip or pile, with what, and how long that takes. */
export function WorkPage() {
  const units = useUnits();
  const asked = useAskedSeason();
  const moving = useMoving(asked);
  const buying = useBuying();
  if (moving.isPending) return <Loading what="the work" />;
  if (moving.isError) return <Trouble error={moving.error} retry={() => moving.refetch()} />;
  const { turns, hours, people, trips, walked_m, second_tip: tip } = moving.data;
  const { season, seasons } = moving.data;
  const choice = (
    <div className="flex flex-wrap items-center gap-3 print:hidden">
      <h2 className="text-2xl">Work</h2>
      <SeasonSelect seasons={seasons} value={season.key} />
    </div>
  );
  if (turns.length === 0) {
    return (
      <div className="space-y-4 p-4 sm:p-6">
        {choice}
        <p>Nothing is to be moved in {season.season}.</p>
      </div>
    );
  }
  const each = hours.value / people;
  const stuck = turns.filter((turn) => turn.legs.some((leg) => leg.carrier === null));
  return (
    <div className="mx-auto max-w-5xl space-y-5 p-4 sm:p-6">
      {choice}
      <header className="flex flex-wrap items-start justify-between gap-3">
        <div data-testid="moving-hours">
          <p className="display text-4xl text-primary">
            <Value figure={hours}>{shown(hours.value, "h", units)}</Value>
          </p>
          <p>
            of one person, {rangeOf(hours, units)}
            {people > 1 ? `; with ${people} people about ${shown(each, "h", units)}` : ""}.{" "}
            {count(trips, "trip", "trips")}, {distance(walked_m, units)} on foot.
          </p>
        </div>
        <button type="button" className="btn press print:hidden" onClick={() => window.print()}>
          <Printer size={17} /> Print
        </button>
      </header>
      {stuck.length > 0 ? (
        <p className="border-l-4 border-error pl-3">
          Nothing you have gets through to {stuck.map((turn) => turn.plot).join(", ")}; carry it by hand, or
          choose a narrower carrier.
        </p>
      ) : null}
      {tip ? (
        <p className="border-l-4 border-secondary bg-base-100 p-3" data-testid="second-tip">
          <strong>Ask for a second tip</strong> on the way at {distance(tip.at[0], units)} east,{" "}
          {distance(tip.at[1], units)} north on the plan: it saves{" "}
          {shown(tip.hours_now - tip.hours_then, "h", units)} of {shown(tip.hours_now, "h", units)}
          {tip.saves ? `, worth ${money(tip.saves, buying.data?.currency ?? season.currency)}` : ""}. See
          first that a truck may stand there and the ground bears it.
        </p>
      ) : null}
      <section>
        <h2 className="text-xl">In this order</h2>
        <p className="mb-1 text-sm text-base-content/75">
          Farthest first, and nobody walks over what is finished.
        </p>
        <ol className="divide-y divide-base-300 border-y border-base-300" data-testid="turns">
          {turns.map((turn, index) => (
            <li key={turn.plot_id} className="grid grid-cols-[2.2rem_minmax(0,1fr)] gap-x-2 py-2.5">
              <span className="display text-xl text-base-content/75">{index + 1}</span>
              <div>
                <p className="flex flex-wrap items-baseline justify-between gap-x-4">
                  <strong className="text-lg">{turn.plot}</strong>
                  <span>
                    {about(turn.volume_m3, units)}
                    {turn.walk_m !== null ? `, ${distance(turn.walk_m, units)} away` : ", walk not known"}
                  </span>
                </p>
                {turn.legs.map((leg) => (
                  <Leg key={leg.heap} leg={leg} />
                ))}
                {turn.before.length > 0 ? (
                  <p className="text-sm text-base-content/75">
                    Before {turn.before.join(", ")}: the way leads over it.
                  </p>
                ) : null}
                {turn.over.length > 0 ? (
                  <p className="text-sm font-medium text-warning">
                    The way leads over {turn.over.join(", ")}, laid by then: put boards down.
                  </p>
                ) : null}
              </div>
            </li>
          ))}
        </ol>
      </section>
      <p className="text-sm text-base-content/75">
        Lift with straight knees, fill what you can push, take shade and water. A loader is for trained
        drivers. Rates are judgements; press a figure to see them.
      </p>
    </div>
  );
}

function Leg({ leg }: { leg: LegOut }) {
  const units = useUnits();
  return (
    <p className="flex flex-wrap justify-between gap-x-4 text-sm">
      <span>
        {about(leg.volume_m3, units)} from {leg.heap}: {leg.carrier_name.toLowerCase()},{" "}
        {count(leg.trips, "trip", "trips")}
        {leg.known ? "" : " (walk taken as usual)"}
      </span>
      <Value figure={leg.hours} className="font-semibold">
        {shown(leg.hours.value, "h", units)}
      </Value>
    </p>
  );
}
