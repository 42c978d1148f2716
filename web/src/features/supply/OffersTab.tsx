import { RefreshCw } from "lucide-react";
import { Problem } from "@/api/client";
import type { Effect, OfferOut } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { day, length, money, volume } from "@/ui/format";
import { Empty, Loading, Trouble } from "@/ui/states";
import { useUnits } from "@/ui/units";
import { useBuying, useOffers } from "./supply";

const STATES: Record<OfferOut["state"], string> = {
  open: "open",
  accepted: "taken: expected here",
  declined: "declined",
  expired: "expired",
  fell_through: "fell through",
};

/** The inbox of loads that crews report, each with what it would do here. */
export function OffersTab() {
  const may = useMay();
  const { heard, asked, accept, decline } = useOffers(may.edit);
  const buying = useBuying();
  const shown = heard.data;
  if (!shown && heard.isPending) return <Loading what="offers" />;
  if (!shown) return <Trouble error={heard.error} retry={() => heard.refetch()} />;
  const trouble = asked.isError ? asked.error.message : null;
  const currency = buying.data?.currency ?? "EUR";
  const open = shown.offers.filter((offer) => offer.state === "open");
  const rest = shown.offers.filter((offer) => offer.state !== "open");
  const refused = accept.error instanceof Problem ? accept.error.message : null;
  return (
    <div className="mx-auto max-w-5xl space-y-5 p-4 sm:p-6">
      <header className="flex flex-wrap items-start justify-between gap-3">
        <div>
          <h2 className="text-3xl">
            {open.length === 1 ? "1 load is offered" : `${open.length} loads are offered`}
          </h2>
          <p className="text-base-content/75">
            <span className="mr-2 border border-base-content px-1.5 text-sm font-semibold">simulated</span>
            Invented crews, reported by a stand-in service that ships with Ulmatic
            {shown.heard_at
              ? `; last heard at ${new Date(shown.heard_at).toLocaleTimeString(undefined, { hour: "2-digit", minute: "2-digit" })}`
              : ""}
            .
          </p>
        </div>
        {may.edit ? (
          <button
            type="button"
            className="btn press"
            disabled={asked.isFetching}
            onClick={() => asked.refetch()}
          >
            <RefreshCw size={17} /> {asked.isFetching ? "Asking" : "Ask again"}
          </button>
        ) : null}
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
        <Empty title="Nothing is offered just now">
          <p>Crews report loads as they work; look again later.</p>
        </Empty>
      ) : null}
      <ul className="space-y-4" data-testid="offers">
        {open.map((offer) => (
          <li key={offer.id} className="border-t-4 border-primary bg-base-100 p-4">
            <Offer
              offer={offer}
              currency={currency}
              busy={accept.isPending || decline.isPending}
              {...(may.edit
                ? { accept: () => accept.mutate(offer.id), decline: () => decline.mutate(offer.id) }
                : {})}
            />
          </li>
        ))}
      </ul>
      {rest.length > 0 ? (
        <section>
          <h3 className="mb-1 text-lg">Answered and gone</h3>
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

function Offer({
  offer,
  currency,
  busy,
  accept,
  decline,
}: {
  offer: OfferOut;
  currency: string;
  busy: boolean;
  accept?: () => void;
  decline?: () => void;
}) {
  const units = useUnits();
  const hours = (new Date(offer.expires_at).getTime() - Date.now()) / 3_600_000;
  return (
    <div className="grid gap-x-6 gap-y-3 sm:grid-cols-[minmax(0,1fr)_auto]">
      <div className="min-w-0">
        <p className="display text-2xl text-primary">
          {volume(offer.size.least_m3, units)} to {volume(offer.size.most_m3, units)}
          <span className="ml-2 font-sans text-base font-normal tracking-normal text-base-content">
            {offer.fee > 0 ? money(offer.fee, currency) : "free"}
          </span>
        </p>
        <p>
          <strong>{offer.crew}</strong>: {offer.species.join(", ")}; {length(offer.distance_km * 1000, units)}{" "}
          away, ready {day(offer.ready_on)}
        </p>
        {offer.changed ? <p className="font-semibold text-warning">The crew changed this offer.</p> : null}
        {offer.effect ? <Effects effect={offer.effect} /> : null}
      </div>
      <div className="flex flex-row items-center gap-2 sm:flex-col sm:items-stretch">
        {accept ? (
          <>
            <button type="button" className="btn btn-primary press" disabled={busy} onClick={accept}>
              Accept
            </button>
            <button type="button" className="btn press" disabled={busy} onClick={decline}>
              Decline
            </button>
          </>
        ) : null}
        <span className="text-sm text-base-content/75 sm:text-center">
          {hours < 1
            ? "under an hour left"
            : hours < 48
              ? `${Math.floor(hours)} h left`
              : `${Math.floor(hours / 24)} days left`}
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
  const near = effect.tips.filter((tip) => tip.fits && tip.clear === false);
  return (
    <ul className="mt-2 space-y-1 border-l-4 border-secondary pl-3" data-testid="effect">
      <li>
        As {effect.material_name.toLowerCase()}:{" "}
        {effect.accepted_by === 0
          ? "no plot that wants more takes it."
          : whole.length === 0 && !part
            ? "nothing here is short of it."
            : `${whole.length > 0 ? `${whole.join(", ")} whole` : ""}${whole.length > 0 && part ? ", " : ""}${part ? `${part} in part` : ""}.`}
      </li>
      {effect.short_before_m3 > 0.05 ? (
        <li>
          {effect.short_after_m3 > 0.05
            ? `Then ${volume(effect.short_after_m3, units)} is still missing, of ${volume(effect.short_before_m3, units)}.`
            : "Then nothing is missing any more."}
        </li>
      ) : null}
      {over > 0.05 ? (
        <li>
          {volume(over, units)} is over{effect.pile_place ? ` and goes to ${effect.pile_place}` : ""}.
        </li>
      ) : null}
      {bad.map((tip) => (
        <li key={tip.tip} className="font-medium text-error">
          {tip.tip} holds {volume(tip.holds_m3, units)}: its largest load does not fit.
        </li>
      ))}
      {near.map((tip) => (
        <li key={tip.tip} className="font-medium text-warning">
          At {tip.tip} it lies {length(tip.wall_m ?? 0, units)} from the wall; keep a stride clear.
        </li>
      ))}
    </ul>
  );
}
