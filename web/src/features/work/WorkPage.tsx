import { Printer } from "lucide-react";
import type { LegOut } from "@/api/schema.gen";
import { SeasonSelect, useAskedSeason } from "@/features/site/SeasonSelect";
import { useBuying, useMoving } from "@/features/supply/supply";
import { t } from "@/texts/work";
import { Button } from "@/ui/Button";
import { money, valueText } from "@/ui/format";
import { about, aboutDistance } from "@/ui/precision";
import { Loading, Trouble } from "@/ui/states";
import { useUnits } from "@/ui/units";
import { rangeOf, Value } from "@/ui/working";

/** In which order plots are laid, from which tip or pile, with what, and how long that takes. */
export function WorkPage() {
  const units = useUnits();
  const seasonKey = useAskedSeason();
  const moving = useMoving(seasonKey);
  const buying = useBuying();
  if (moving.isPending) return <Loading what={t("theWork")} />;
  if (moving.isError) return <Trouble error={moving.error} retry={() => moving.refetch()} />;
  const { turns, hours, people, each_h: each, trips, walked_m, second_tip: tip } = moving.data;
  const { season, seasons } = moving.data;
  const choice = <SeasonSelect seasons={seasons} value={season.key} />;
  if (turns.length === 0) {
    return (
      <div className="space-y-4 p-4 sm:p-6">
        {choice}
        <p>{t("nothingToMoveIn", { season: season.season })}</p>
      </div>
    );
  }
  const stuck = turns.filter((turn) => turn.legs.some((leg) => leg.carrier === null));
  return (
    <div className="mx-auto max-w-5xl space-y-5 p-4 sm:p-6">
      {choice}
      <header className="flex flex-wrap items-start justify-between gap-3">
        <div data-testid="moving-hours">
          <p className="display text-4xl text-primary">
            <Value figure={hours}>{valueText(hours.value, "h", units)}</Value>
          </p>
          <p>
            {t("personHours")} {rangeOf(hours, units)}
            {t("onFoot", {
              each: people > 1 ? t("withPeopleAbout", { people, each: valueText(each, "h", units) }) : "",
              trips: t("trips", { count: trips }),
              distance: aboutDistance(walked_m, units),
            })}
          </p>
        </div>
        <Button className="print:hidden" onClick={() => window.print()}>
          <Printer size={17} /> {t("print")}
        </Button>
      </header>
      {stuck.length > 0 ? (
        <p className="border-l-4 border-error pl-3">
          {t("noCarrierOfYoursFitsThrough", { stuck: stuck.map((turn) => turn.plot).join(", ") })}
        </p>
      ) : null}
      {tip ? (
        <p className="border-l-4 border-secondary bg-base-100 p-3" data-testid="second-tip">
          <strong>{t("aSecondTipSavesWork")}</strong>{" "}
          {t("onTheWayAtEastNorth", {
            east: aboutDistance(tip.at[0], units),
            north: aboutDistance(tip.at[1], units),
            saving: valueText(tip.hours_now - tip.hours_then, "h", units),
            hoursNow: valueText(tip.hours_now, "h", units),
            worth: tip.saves ? t("worth", { money: money(tip.saves, buying.data?.currency ?? season.currency) }) : "",
          })}
        </p>
      ) : null}
      <section>
        <h2 className="text-xl">{t("orderOfWork")}</h2>
        <p className="mb-1 text-sm text-base-content/75">{t("startWithTheFarthestPlotSo")}</p>
        <ol className="divide-y divide-base-300 border-y border-base-300" data-testid="turns">
          {turns.map((turn, index) => (
            <li key={turn.plot_id} className="grid grid-cols-[2.2rem_minmax(0,1fr)] gap-x-2 py-2.5">
              <span className="display text-xl text-base-content/75">{index + 1}</span>
              <div>
                <p className="flex flex-wrap items-baseline justify-between gap-x-4">
                  <strong className="text-lg">{turn.plot}</strong>
                  <span>
                    {about(turn.volume_m3, units)}
                    {turn.walk_m !== null
                      ? t("away", { distance: aboutDistance(turn.walk_m, units) })
                      : t("walkingDistanceUnknown")}
                  </span>
                </p>
                {turn.legs.map((leg) => (
                  <Leg key={leg.place} leg={leg} />
                ))}
                {turn.before.length > 0 ? (
                  <p className="text-sm text-base-content/75">
                    {t("doThisBeforeTheWayCrosses", { before: turn.before.join(", ") })}
                  </p>
                ) : null}
                {turn.over.length > 0 ? (
                  <p className="text-sm font-medium text-warning">
                    {t("theWayCrossesWhichIsLaid", { over: turn.over.join(", ") })}
                  </p>
                ) : null}
              </div>
            </li>
          ))}
        </ol>
      </section>
      <p className="text-sm text-base-content/75">{t("liftWithBentKneesAndA")}</p>
    </div>
  );
}

function Leg({ leg }: { leg: LegOut }) {
  const units = useUnits();
  return (
    <p className="flex flex-wrap justify-between gap-x-4 text-sm">
      <span>
        {t("from", {
          volume: about(leg.volume_m3, units),
          source: leg.place,
          carrier: leg.carrier_name.toLowerCase(),
          trips: t("trips", { count: leg.trips }),
          assumed: leg.known ? "" : ` ${t("usualWalkingDistanceAssumed")}`,
        })}
      </span>
      <Value figure={leg.hours} className="font-semibold">
        {valueText(leg.hours.value, "h", units)}
      </Value>
    </p>
  );
}
