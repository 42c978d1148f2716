import { RefreshCw } from "lucide-react";
import { Problem } from "@/api/client";
import type { Effect, OfferOut } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { t } from "@/texts/supply";
import { Button } from "@/ui/Button";
import { now } from "@/ui/clock";
import { day, money } from "@/ui/format";
import { timeOfDay } from "@/ui/intl";
import { about, aboutDistance } from "@/ui/precision";
import { Empty, Loading, Trouble } from "@/ui/states";
import { useUnits } from "@/ui/units";
import { useBuying, useOffers } from "./supply";

const STATES: Record<OfferOut["state"], string> = {
  open: t("open"),
  accepted: t("acceptedExpectedHere"),
  declined: t("declined"),
  expired: t("expired"),
  fell_through: t("cancelledByTheCrew"),
};

/** The inbox of loads that crews report, each with what it would do here. */
export function OffersTab() {
  const may = useMay();
  const { heard, asked, accept, decline } = useOffers(may.edit);
  const buying = useBuying();
  const sheet = heard.data;
  if (!sheet && heard.isPending) return <Loading what={t("offers")} />;
  if (!sheet) return <Trouble error={heard.error} retry={() => heard.refetch()} />;
  const trouble = asked.isError ? asked.error.message : null;
  const currency = buying.data?.currency ?? "EUR";
  const open = sheet.offers.filter((offer) => offer.state === "open");
  const rest = sheet.offers.filter((offer) => offer.state !== "open");
  const refused = accept.error instanceof Problem ? accept.error.message : null;
  return (
    <div className="mx-auto max-w-5xl space-y-5 p-4 sm:p-6">
      <header className="flex flex-wrap items-start justify-between gap-3">
        <div>
          <h2 className="text-3xl">{t("loadsOffered2", { count: open.length })}</h2>
          <p className="text-base-content/75">
            <span className="mr-2 border border-base-content px-1.5 text-sm font-semibold">{t("simulated")}</span>
            {t("inventedCrewsFromASimulatedService", {
              report: sheet.heard_at
                ? t("lastReport", {
                    time: timeOfDay(sheet.heard_at),
                  })
                : "",
            })}
          </p>
        </div>
        <Button shown={may.edit} disabled={asked.isFetching} onClick={() => asked.refetch()}>
          <RefreshCw size={17} /> {asked.isFetching ? t("refreshing") : t("refresh")}
        </Button>
      </header>
      {trouble ? (
        <p className="border-l-4 border-warning bg-base-100 p-3" role="status">
          {trouble}
        </p>
      ) : null}
      {refused ? (
        <p className="border-l-4 border-error bg-base-100 p-3" role="alert">
          {refused}
        </p>
      ) : null}
      {open.length === 0 ? (
        <Empty title={t("noOffersAtTheMoment")}>
          <p>{t("crewsReportLoadsWhileTheyWork")}</p>
        </Empty>
      ) : null}
      <ul className="space-y-4" data-testid="offers">
        {open.map((offer) => (
          <li key={offer.id} className="border-t-4 border-primary bg-base-100 p-4">
            <Offer
              offer={offer}
              currency={currency}
              busy={accept.isPending || decline.isPending}
              {...(may.edit ? { accept: () => accept.mutate(offer.id), decline: () => decline.mutate(offer.id) } : {})}
            />
          </li>
        ))}
      </ul>
      {rest.length > 0 ? (
        <section>
          <h3 className="mb-1 text-lg">{t("pastOffers")}</h3>
          <ul className="divide-y divide-base-300 border-y border-base-300">
            {rest.map((offer) => (
              <li key={offer.id} className="flex flex-wrap justify-between gap-x-4 py-1.5">
                <span>
                  {offer.crew}, {offer.species.join(", ")}
                </span>
                <span className="text-base-content/75">{STATES[offer.state]}</span>
              </li>
            ))}
          </ul>
        </section>
      ) : null}
    </div>
  );
}

interface Props {
  offer: OfferOut;
  currency: string;
  busy: boolean;
  accept?: () => void;
  decline?: () => void;
}

function Offer({ offer, currency, busy, accept, decline }: Props) {
  const units = useUnits();
  const hours = (new Date(offer.expires_at).getTime() - now().getTime()) / 3_600_000;
  return (
    <div className="grid gap-x-6 gap-y-3 sm:grid-cols-[minmax(0,1fr)_auto]">
      <div className="min-w-0">
        <p className="display text-2xl text-primary">
          {t("to", {
            volume: about(offer.size.least_m3, units),
            volume2: about(offer.size.most_m3, units),
          })}
          <span className="ml-2 font-sans text-base font-normal tracking-normal text-base-content">
            {offer.fee > 0 ? money(offer.fee, currency) : t("free")}
          </span>
        </p>
        <p>
          <strong>{offer.crew}</strong>
          {t("awayReady", {
            species: offer.species.join(", "),
            distance: aboutDistance(offer.distance_km * 1000, units),
            day: day(offer.ready_on),
          })}
        </p>
        {offer.changed ? <p className="font-semibold text-warning">{t("theCrewChangedThisOffer")}</p> : null}
        {offer.effect ? <Effects effect={offer.effect} /> : null}
      </div>
      <div className="flex flex-row items-center gap-2 sm:flex-col sm:items-stretch">
        {accept ? (
          <>
            <Button primary disabled={busy} onClick={accept}>
              {t("accept")}
            </Button>
            <Button disabled={busy} onClick={decline}>
              {t("decline")}
            </Button>
          </>
        ) : null}
        <span className="text-sm text-base-content/75 sm:text-center">
          {hours < 1
            ? t("underAnHourLeft")
            : hours < 48
              ? t("hoursLeft", { count: Math.floor(hours) })
              : t("daysLeft2", { count: Math.floor(hours / 24) })}
        </span>
      </div>
    </div>
  );
}

/** What a load would do: to plots, to piles, on the tip. */
export function Effects({ effect }: { effect: Effect }) {
  const units = useUnits();
  const { whole, part, over_m3: over } = effect;
  const bad = effect.tips.filter((tip) => !tip.fits);
  const close = effect.tips.filter((tip) => tip.fits && tip.clear === false);
  return (
    <ul className="mt-2 space-y-1 border-l-4 border-secondary pl-3" data-testid="effect">
      <li>
        {t("as", {
          materialName: effect.material_name.toLowerCase(),
          effect:
            effect.accepted_by === 0
              ? t("noPlotThatNeedsMulchAccepts")
              : whole.length === 0 && !part
                ? t("noPlotNeedsIt")
                : `${whole.length > 0 ? t("fully", { whole: whole.join(", ") }) : ""}${whole.length > 0 && part ? ", " : ""}${part ? t("partly", { part }) : ""}.`,
        })}
      </li>
      {effect.short_before_m3 > 0.05 ? (
        <li>
          {effect.short_after_m3 > 0.05
            ? t("ofIsThenStillNeeded", {
                volume: about(effect.short_after_m3, units),
                volume2: about(effect.short_before_m3, units),
              })
            : t("nothingMoreIsThenNeeded")}
        </li>
      ) : null}
      {over > 0.05 ? (
        <li>
          {t("isLeftOver", {
            volume: about(over, units),
            place: effect.pile_place ? ` ${t("andGoesTo", { pilePlace: effect.pile_place })}` : "",
          })}
        </li>
      ) : null}
      {bad.map((tip) => (
        <li key={tip.tip} className="font-medium text-error">
          {t("holdsTheLargestLoadDoesNot", { tip: tip.tip, volume: about(tip.holds_m3, units) })}
        </li>
      ))}
      {close.map((tip) => (
        <li key={tip.tip} className="font-medium text-warning">
          {t("atItLiesFromTheWall", { tip: tip.tip, distance: aboutDistance(tip.wall_m ?? 0, units) })}
        </li>
      ))}
    </ul>
  );
}
