import { useState } from "react";
import { Link, useParams } from "react-router";
import type { ChoiceOut, OrderFigures, OrderSheet } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { BuyingForm } from "@/features/money/BuyingForm";
import { SeasonSelect, useAskedSeason } from "@/features/site/SeasonSelect";
import { amountOf, besideAmount, costOf } from "@/features/site/season";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/supply";
import { Button } from "@/ui/Button";
import { day, money, share, valueText } from "@/ui/format";
import { about, aboutRest, inUnits, SPECK_M3 } from "@/ui/precision";
import { Loading, Trouble } from "@/ui/states";
import { useUnits } from "@/ui/units";
import { Arrivals } from "./Arrivals";
import { Balance } from "./Balance";
import { Confidence } from "./Confidence";
import { Coverage } from "./Coverage";
import { nothingOrdered } from "./nothingOrdered";
import { useBuying, useChoice, useOrder } from "./supply";

/** The order of a season: from whom, when, for how much; what else would do; and which ground gets it. */
export function OrderTab() {
  const season = useAskedSeason();
  const order = useOrder(season);
  const buying = useBuying();
  const may = useMay();
  if (order.isPending) return <Loading what={t("theOrder")} />;
  if (order.isError) return <Trouble error={order.error} retry={() => order.refetch()} />;
  const running = order.data.season.key === order.data.now.key;
  return (
    <div className="mx-auto grid max-w-7xl grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-6 p-4 sm:p-6 lg:grid-cols-[minmax(0,1fr)_25rem]">
      <div className="space-y-6">
        <div className="flex flex-wrap items-center gap-3">
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
  return { what, who: line.source ? t("from", { source: line.source }) : t("supplierNotYetChosen") };
}

function Ordered({ order, edit, running }: { order: OrderSheet; edit: boolean; running: boolean }) {
  const units = useUnits();
  const { workspaceId = "" } = useParams();
  const { sheet } = useSite();
  const { choose, book } = useChoice();
  const { season, choices } = order;
  const version = sheet.data?.site.version ?? 0;
  if (season.needed_m3 <= SPECK_M3) return <p className="text-xl">{t("nothingIsDueIn", { season: season.season })}</p>;
  const unnamed = season.order.some((line) => !line.source);
  return (
    <section className="space-y-4" data-testid="choice">
      {season.binding ? (
        <div className="border-l-4 border-warning bg-base-100 p-3" data-testid="binding">
          <p className="text-lg font-semibold">{season.binding}</p>
          <p>{t("theAvailableLoadsAreBelowStays", { volume: about(season.short_m3, units) })}</p>
        </div>
      ) : null}
      {season.order.length === 0 ? (
        <p className="display text-3xl">{nothingOrdered(season, units)}</p>
      ) : (
        <ul className="space-y-2" data-testid="order-lines">
          {season.order.map((line) => {
            const { what, who } = sourceOf(line);
            return (
              <li key={line.key} className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
                <span className="display text-2xl leading-tight text-primary sm:text-3xl">{amountOf(line, units)}</span>
                <span>
                  {t("of", { what })} <strong>{who}</strong>
                  {line.exact ? null : <span className="text-base-content/75"> ({about(line.volume_m3, units)})</span>}
                  {season.decided && line.booked_loads > 0 ? (
                    <span className="block text-sm text-base-content/75">
                      {t("alreadyBooked", { bookedLoads: line.booked_loads })}
                    </span>
                  ) : null}
                </span>
                <span className="ml-auto flex items-center gap-3 whitespace-nowrap">
                  {line.cost === null
                    ? t("priceUnknown")
                    : Number(line.cost) > 0
                      ? money(Number(line.cost), season.currency)
                      : t("free")}
                  <Button
                    shown={edit}
                    small
                    disabled={book.isPending}
                    onClick={() => book.mutate({ id: crypto.randomUUID(), season: season.key, source: line.key })}
                  >
                    {t("bookALoad")}
                  </Button>
                </span>
              </li>
            );
          })}
        </ul>
      )}
      {unnamed ? (
        <p className="border-l-4 border-secondary pl-3">
          {t("noSupplierForThisYetAdd")}{" "}
          <Link className="link" to={`/w/${workspaceId}/suppliers`}>
            {t("suppliers")}
          </Link>
        </p>
      ) : null}
      <dl className="flex flex-wrap gap-x-8 gap-y-1">
        <Item term={t("costWithWork")}>
          <span data-testid="order-cost">{costOf(season)}</span>
        </Item>
        <Item term={t("work")}>{valueText(season.hours, "h", units)}</Item>
        <Item term={season.short_m3 > SPECK_M3 ? t("shortHeading") : t("leftOver")}>
          <span data-testid="order-over">
            {season.short_m3 > SPECK_M3 ? about(season.short_m3, units) : aboutRest(season.left_over_m3, units)}
          </span>
        </Item>
        {season.enough < 0.9995 && season.short_m3 <= SPECK_M3 ? (
          <Item term={t("chanceItIsEnough")}>{share(Math.round(season.enough * 100) / 100)}</Item>
        ) : null}
        <Item term={t("orderBy")}>{day(order.order_by)}</Item>
      </dl>
      <Balance season={season} />
      {running && choices[0] && !season.decided ? (
        <div>
          <h3 className="text-sm text-base-content/75">{t("earliestDeliveryHeading")}</h3>
          <Arrivals purchases={choices[0].purchases} />
        </div>
      ) : null}
      {season.also.length > 0 ? (
        <section data-testid="also">
          <h3 className="text-lg">{t("withTheMulch")}</h3>
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
                      volume_m3: line.exact ? line.volume_m3 + bookedOf(season.order, line.key).volume_m3 : null,
                    })) ?? null,
                }),
            }
          : {})}
      />
      {order.certainty ? (
        <Confidence
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
      <h3 className="mb-1 text-lg">{t("otherOptions")}</h3>
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {choices.map((choice, at) => {
          const words = choice.difference
            ? inUnits(choice.difference, units, season.currency)
            : t("theCheapestOptionProposed");
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
                          `${inUnits(line.amount, units)} ${line.name ? t("fromWithName", { name: line.name }) : t("fromASourceNotYetChosen")}`,
                      )
                      .join(", ")}
                  </span>
                ) : null}
              </span>
              <Button
                ghost
                small
                aria-expanded={shownAt === at}
                onClick={() => showAt(shownAt === at ? undefined : at)}
              >
                {choice.cost === null ? t("priceUnknown") : money(choice.cost, season.currency)}
              </Button>
              {take ? (
                <Button small disabled={at === 0 && !season.decided} onClick={() => take(at === 0 ? null : choice)}>
                  {at === 0 && !season.decided ? t("chosen") : t("chooseThis")}
                </Button>
              ) : null}
            </li>
          );
        })}
      </ul>
      {order.complete ? null : <p className="text-sm text-base-content/75">{t("thereAreSoManySourcesThat")}</p>}
      {choices[0] && choices[0].gap > 0 ? (
        <p className="text-sm text-base-content/75">
          {t("theSearchWasStoppedAChoice", { percent: Math.ceil(choices[0].gap * 100) })}
        </p>
      ) : null}
      {season.decided ? (
        <p className="text-sm text-base-content/75">{t("theOrderAboveIsYourChoice", { season: season.season })}</p>
      ) : null}
    </div>
  );
}

function Gaps({ order }: { order: OrderSheet }) {
  const units = useUnits();
  const more = order.one_more;
  const list = (names: string[]) => names.join(", ");
  const stage: Record<string, string> = {
    fresh: t("stillFresh"),
    ageing: t("ageing"),
    aged: t("agedFitForVegetableBeds"),
    decomposed: t("decomposedCanBeSievedForCompost"),
  };
  return (
    <>
      {order.ageing.map((lot) => (
        <p
          key={`${lot.pile}${lot.fit_from}${lot.volume_m3}`}
          className="border-l-4 border-secondary pl-3"
          data-testid="ageing"
        >
          <strong>{about(lot.volume_m3, units)}</strong>{" "}
          {t("ofMustAgeUsableFrom", {
            materialName: lot.material_name.toLowerCase(),
            place: lot.pile ? ` ${t("at", { pile: lot.pile })}` : ` ${t("stillComing")}`,
            day: day(lot.fit_from),
          })}
        </p>
      ))}
      {more ? (
        <p className="border-l-4 border-secondary pl-3" data-testid="one-more">
          <strong>{t("oneLoadMore")}</strong>{" "}
          {t("fromWouldCover", {
            source: more.source,
            volume: about(more.load_m3, units),
            plots: [
              more.whole.length > 0 ? t("fully", { whole: list(more.whole) }) : "",
              more.part ? t("partly", { part: more.part }) : "",
            ]
              .filter(Boolean)
              .join(", "),
            over: more.over_m3 > 0.05 ? t("isThenLeftOver", { volume: about(more.over_m3, units) }) : "",
          })}
        </p>
      ) : null}
      {order.surplus.map((rest) => (
        <p key={rest.material_name} className="border-l-4 border-base-300 pl-3" data-testid="surplus">
          <strong>{about(rest.volume_m3, units)}</strong>{" "}
          {t("ofIsLeftOverInA", {
            materialName: rest.material_name.toLowerCase(),
            place: rest.place ? t("pileItAt", { place: rest.place }) : "",
          })}{" "}
          {stage[rest.in_a_year]}.
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
        {t("excluded", {
          suppliers: t("suppliers2", { count: unfit.length }),
        })}
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
