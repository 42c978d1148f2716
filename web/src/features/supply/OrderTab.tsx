import { useState } from "react";
import { Link, useParams } from "react-router";
import type { ChoiceOut, OrderFigures, OrderSheet } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { BuyingForm } from "@/features/money/BuyingForm";
import { SeasonSelect, useAskedSeason } from "@/features/site/SeasonSelect";
import { amountOf, besideAmount, costOf } from "@/features/site/season";
import { useSite } from "@/features/survey/site";
import { about, day, inUnits, money, share, shown } from "@/ui/format";
import { Loading, Trouble } from "@/ui/states";
import { useUnits } from "@/ui/units";
import { Arrivals } from "./Arrivals";
import { Balance } from "./Balance";
import { Coverage } from "./Coverage";
import { Sure } from "./Sure";
import { useBuying, useChoice, useOrder } from "./supply";

const SPECK_M3 = 0.005;

/** The order of a season: from whom, when, for how much; what else would do; and which ground gets it. */
export function OrderTab() {
  const season = useAskedSeason();
  const order = useOrder(season);
  const buying = useBuying();
  const may = useMay();
  if (order.isPending) return <Loading what="the order" />;
  if (order.isError) return <Trouble error={order.error} retry={() => order.refetch()} />;
  const running = order.data.season.key === order.data.now.key;
  return (
    <div className="mx-auto grid max-w-7xl grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-6 p-4 sm:p-6 lg:grid-cols-[minmax(0,1fr)_25rem]">
      <div className="space-y-6">
        <div className="flex flex-wrap items-center gap-3">
          <h2 className="text-2xl">Order</h2>
          <SeasonSelect seasons={order.data.seasons} value={order.data.season.key} />
        </div>
        <Ordered order={order.data} edit={may.edit} running={running} />
        <Gaps order={order.data} />
        <Sources order={order.data} />
      </div>
      <div className="space-y-6">
        <Coverage order={order.data} edit={may.edit} />
        {buying.data ? <BuyingForm key={buying.data.version} buying={buying.data} edit={may.edit} /> : null}
      </div>
    </div>
  );
}

/** Who brings a line, in words; where nobody is named, that. */
export function sourceOf(line: Pick<OrderFigures, "source" | "stage" | "material">) {
  const aged = line.stage ? `${line.stage} ` : "";
  const what = `${aged}${line.material.toLowerCase()}`;
  return { what, who: line.source ? `from ${line.source}` : "nobody named yet" };
}

function Ordered({ order, edit, running }: { order: OrderSheet; edit: boolean; running: boolean }) {
  const units = useUnits();
  const { workspaceId = "" } = useParams();
  const { sheet } = useSite();
  const { choose, book } = useChoice();
  const { season, choices } = order;
  const version = sheet.data?.site.version ?? 0;
  if (season.needed_m3 <= SPECK_M3) return <p className="text-xl">Nothing is due in {season.season}.</p>;
  const unnamed = season.order.some((line) => !line.source);
  return (
    <section className="space-y-4" data-testid="choice">
      {season.binding ? (
        <div className="border-l-4 border-warning bg-base-100 p-3" data-testid="binding">
          <p className="text-lg font-semibold">{season.binding}</p>
          <p>What can be had is below; it leaves {about(season.short_m3, units)} uncovered.</p>
        </div>
      ) : null}
      {season.order.length === 0 ? (
        <p className="display text-3xl">Nothing: what is on hand and coming is enough.</p>
      ) : (
        <ul className="space-y-2" data-testid="order-lines">
          {season.order.map((line) => {
            const { what, who } = sourceOf(line);
            return (
              <li key={line.key} className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
                <span className="display text-2xl leading-tight text-primary sm:text-3xl">
                  {amountOf(line, units)}
                </span>
                <span>
                  of {what}, <strong>{who}</strong>
                  {line.exact ? null : (
                    <span className="text-base-content/75"> ({about(line.volume_m3, units)})</span>
                  )}
                  {season.decided && line.booked_loads > 0 ? (
                    <span className="block text-sm text-base-content/75">
                      {line.booked_loads} booked already
                    </span>
                  ) : null}
                </span>
                <span className="ml-auto flex items-center gap-3 whitespace-nowrap">
                  {line.cost === null
                    ? "price not known"
                    : Number(line.cost) > 0
                      ? money(Number(line.cost), season.currency)
                      : "free"}
                  {edit ? (
                    <button
                      type="button"
                      className="btn btn-sm press"
                      disabled={book.isPending}
                      onClick={() =>
                        book.mutate({ id: crypto.randomUUID(), season: season.key, source: line.key })
                      }
                    >
                      Book a load
                    </button>
                  ) : null}
                </span>
              </li>
            );
          })}
        </ul>
      )}
      {unnamed ? (
        <p className="border-l-4 border-secondary pl-3">
          No supplier brings this yet. Write down who could, with their prices, and the cost follows.{" "}
          <Link className="link" to={`/w/${workspaceId}/suppliers`}>
            Suppliers
          </Link>
        </p>
      ) : null}
      <dl className="flex flex-wrap gap-x-8 gap-y-1">
        <Item term="Cost, with work">
          <span data-testid="order-cost">{costOf(season)}</span>
        </Item>
        <Item term="Work">{shown(season.hours, "h", units)}</Item>
        <Item term={season.short_m3 > SPECK_M3 ? "Short" : "Left over"}>
          <span data-testid="order-over">
            {about(season.short_m3 > SPECK_M3 ? season.short_m3 : season.left_over_m3, units)}
          </span>
        </Item>
        {season.enough < 0.9995 && season.short_m3 <= SPECK_M3 ? (
          <Item term="Sure to be enough">{share(Math.round(season.enough * 100) / 100)}</Item>
        ) : null}
        <Item term="Order by">{day(order.order_by)}</Item>
      </dl>
      <Balance season={season} />
      {running && choices[0] && !season.decided ? (
        <div>
          <h3 className="text-sm text-base-content/75">At the earliest</h3>
          <Arrivals purchases={choices[0].purchases} />
        </div>
      ) : null}
      {season.also.length > 0 ? (
        <section data-testid="also">
          <h3 className="text-lg">With the mulch</h3>
          <ul>
            {season.also.map((layer) => (
              <li key={layer.role + layer.material} className="flex max-w-md justify-between gap-3 py-0.5">
                <span>{layer.material}</span>
                <span className="font-semibold">{besideAmount(layer, units)}</span>
              </li>
            ))}
          </ul>
        </section>
      ) : null}
      <Alternatives
        order={order}
        {...(edit
          ? {
              take: (choice: ChoiceOut | null) =>
                choose.mutate({
                  season: season.key,
                  version,
                  lines:
                    choice?.purchases.map((line) => ({
                      source: line.key,
                      loads: line.loads + bookedOf(season.order, line.key).loads,
                      volume_m3: line.exact
                        ? line.volume_m3 + bookedOf(season.order, line.key).volume_m3
                        : null,
                    })) ?? null,
                }),
            }
          : {})}
      />
      {order.certainty ? (
        <Sure
          certainty={order.certainty}
          loads={season.order.find((line) => !line.exact && line.kind !== "bags")?.loads ?? season.loads}
        />
      ) : null}
    </section>
  );
}

function bookedOf(order: OrderFigures[], key: string) {
  const line = order.find((line) => line.key === key);
  return { loads: line?.booked_loads ?? 0, volume_m3: line?.booked_m3 ?? 0 };
}

function Alternatives({ order, take }: { order: OrderSheet; take?: (choice: ChoiceOut | null) => void }) {
  const units = useUnits();
  const { choices, season } = order;
  const [shownAt, showAt] = useState<number>();
  if (choices.length < 2 && !season.decided) return null;
  return (
    <div data-testid="alternatives">
      <h3 className="mb-1 text-lg">What else would do</h3>
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {choices.map((choice, at) => {
          const words = choice.difference
            ? inUnits(choice.difference, units, season.currency)
            : "The cheapest, as proposed.";
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: choices are known by their rank
            <li key={at} className="flex flex-wrap items-center gap-3 py-1">
              <span className="min-w-0 grow">
                {words}
                {shownAt === at ? (
                  <span className="block text-sm text-base-content/75">
                    {choice.purchases
                      .map(
                        (line) =>
                          `${inUnits(line.amount, units)} ${line.name ? `from ${line.name}` : "from a source yet to be found"}`,
                      )
                      .join(", ")}
                  </span>
                ) : null}
              </span>
              <button
                type="button"
                className="btn btn-ghost btn-sm press"
                aria-expanded={shownAt === at}
                onClick={() => showAt(shownAt === at ? undefined : at)}
              >
                {choice.cost === null ? "price not known" : money(choice.cost, season.currency)}
              </button>
              {take ? (
                <button
                  type="button"
                  className="btn btn-sm press"
                  disabled={at === 0 && !season.decided}
                  onClick={() => take(at === 0 ? null : choice)}
                >
                  {at === 0 && !season.decided ? "Taken" : "Take this"}
                </button>
              ) : null}
            </li>
          );
        })}
      </ul>
      {order.complete ? null : (
        <p className="text-sm text-base-content/75">
          With so many sources not every other combination was compared.
        </p>
      )}
      {choices[0] && choices[0].gap > 0 ? (
        <p className="text-sm text-base-content/75">
          The search was stopped: a choice up to {Math.ceil(choices[0].gap * 100)} % cheaper may exist.
        </p>
      ) : null}
      {season.decided ? (
        <p className="text-sm text-base-content/75">
          The order above is your own choice for {season.season}.
        </p>
      ) : null}
    </div>
  );
}

function Gaps({ order }: { order: OrderSheet }) {
  const units = useUnits();
  const more = order.one_more;
  const list = (names: string[]) => names.join(", ");
  const stage: Record<string, string> = {
    fresh: "still fresh",
    ageing: "ageing",
    aged: "aged: fit for vegetable beds",
    decomposed: "decomposed: sift it for compost",
  };
  return (
    <>
      {order.ageing.map((lot) => (
        <p
          key={`${lot.pile}${lot.fit_from}${lot.volume_m3}`}
          className="border-l-4 border-secondary pl-3"
          data-testid="ageing"
        >
          <strong>{about(lot.volume_m3, units)}</strong> of {lot.material_name.toLowerCase()}
          {lot.pile ? ` at ${lot.pile}` : " still to come"} has to age: fit from {day(lot.fit_from)}.
        </p>
      ))}
      {more ? (
        <p className="border-l-4 border-secondary pl-3" data-testid="one-more">
          <strong>One load more</strong> from {more.source} ({about(more.load_m3, units)}) would cover:{" "}
          {more.whole.length > 0 ? `${list(more.whole)} whole` : ""}
          {more.whole.length > 0 && more.part ? ", " : ""}
          {more.part ? `${more.part} in part` : ""}
          {more.over_m3 > 0.05 ? `; ${about(more.over_m3, units)} is then over` : ""}.
        </p>
      ) : null}
      {order.surplus.map((heap) => (
        <p key={heap.material_name} className="border-l-4 border-base-300 pl-3" data-testid="surplus">
          <strong>{about(heap.volume_m3, units)}</strong> of {heap.material_name.toLowerCase()} is left over
          {heap.place ? `: pile it at ${heap.place}` : ""}. In a year it is {stage[heap.in_a_year]}.
        </p>
      ))}
    </>
  );
}

function Sources({ order }: { order: OrderSheet }) {
  const unfit = order.sources.filter((source) => source.unfit);
  if (unfit.length === 0) return null;
  return (
    <details>
      <summary className="press inline-flex cursor-pointer items-center text-primary">
        {unfit.length === 1 ? "1 supplier is" : `${unfit.length} suppliers are`} left out, and why
      </summary>
      <ul className="mt-1 space-y-1">
        {unfit.map((source) => (
          <li key={source.key}>
            <strong>{source.name}:</strong> {source.unfit}
          </li>
        ))}
      </ul>
    </details>
  );
}

function Item({ term, children }: { term: string; children: React.ReactNode }) {
  return (
    <div>
      <dt className="text-sm text-base-content/75">{term}</dt>
      <dd className="text-xl font-semibold">{children}</dd>
    </div>
  );
}
