import { Plus } from "lucide-react";
import { useState } from "react";
import type { DeliveryOut, PileOut, StockSheet } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { useStock, useStockChanges } from "@/features/supply/supply";
import { t } from "@/texts/stock";
import { Button } from "@/ui/Button";
import { day, money } from "@/ui/format";
import { about, aboutDistance, aboutHeight, SPECK_M3 } from "@/ui/precision";
import { Empty, Loading, Trouble } from "@/ui/states";
import { useUnits } from "@/ui/units";
import { Book } from "./Book";
import { Photo } from "./Photo";
import { type PileAct, PileForm } from "./PileForm";
import { PilePicture } from "./PilePicture";
import { ReceiveForm } from "./ReceiveForm";
import { feared } from "./worries";

type Open = { receive: DeliveryOut | "new" } | { pile: PileOut; act: PileAct } | null;

/** Piles with what lies on them and how they stand, loads expected and received, and their book. */
export function PilesTab() {
  const stock = useStock();
  const may = useMay();
  const [open, setOpen] = useState<Open>(null);
  if (stock.isPending) return <Loading what={t("pilesAndLoads")} />;
  if (stock.isError) return <Trouble error={stock.error} retry={() => stock.refetch()} />;
  const { piles, deliveries } = stock.data;
  const close = () => setOpen(null);
  return (
    <div className="mx-auto grid max-w-7xl grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-6 p-4 sm:p-6 lg:grid-cols-[minmax(0,1fr)_26rem]">
      <div className={`space-y-6 ${open ? "max-lg:hidden" : ""}`}>
        <Piles stock={stock.data} act={may.edit ? (pile, act) => setOpen({ pile, act }) : undefined}>
          <Button shown={may.edit} primary data-key="n" onClick={() => setOpen({ receive: "new" })}>
            <Plus size={18} /> {t("receiveALoad")}
          </Button>
        </Piles>
        <Loads deliveries={deliveries} receive={may.edit ? (delivery) => setOpen({ receive: delivery }) : undefined} />
      </div>
      <div className="space-y-6">
        {open && "receive" in open ? (
          <ReceiveForm
            key={open.receive === "new" ? "new" : open.receive.id}
            delivery={open.receive === "new" ? undefined : open.receive}
            piles={piles}
            close={close}
          />
        ) : open ? (
          <PileForm key={`${open.pile.id}.${open.act}`} pile={open.pile} act={open.act} piles={piles} close={close} />
        ) : null}
        <div className={open ? "max-lg:hidden" : ""}>
          <Book stock={stock.data} edit={may.edit} />
        </div>
      </div>
    </div>
  );
}

const ACTS: [PileAct, string][] = [
  ["lay", t("layOnAPlot")],
  ["move", t("move")],
  ["measure", t("measureAgain")],
  ["turn", t("turn")],
  ["take_away", t("remove")],
];

interface PilesProps {
  stock: StockSheet;
  act: ((pile: PileOut, act: PileAct) => void) | undefined;
  children: React.ReactNode;
}

function Piles({ stock, act, children }: PilesProps) {
  const units = useUnits();
  const total = stock.piles.reduce((sum, pile) => sum + pile.stock_m3, 0);
  const fearedOf = (id: string) =>
    feared(stock.deliveries.find((delivery) => delivery.id === id)?.worries ?? []).join(", ");
  const piles = stock.piles.filter((pile) => pile.stock_m3 > SPECK_M3);
  return (
    <section className="space-y-3" data-testid="piles">
      <div className="flex flex-wrap items-start justify-between gap-3">
        <h2 className="text-3xl">{total > SPECK_M3 ? t("onHand", { volume: about(total, units) }) : t("empty")}</h2>
        {children}
      </div>
      {stock.deliveries.length === 0 ? (
        <Empty title={t("noDeliveriesYet")}>
          <p className="max-w-prose">{t("whenALoadComesMeasureIts")}</p>
        </Empty>
      ) : null}
      <PilePicture piles={stock.piles} />
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {piles.map((pile) => (
          <li key={pile.id} className="space-y-1.5 py-3">
            <div className="flex flex-wrap items-baseline justify-between gap-x-4">
              <h3 className="text-lg">{pile.name}</h3>
              <span className="display text-xl">{about(pile.stock_m3, units)}</span>
            </div>
            {pile.lots.map((lot) => (
              <p key={lot.delivery_id} className="text-sm">
                {t("ofOld", {
                  volume: about(lot.volume_m3, units),
                  name: lot.name,
                  materialName: lot.material_name.toLowerCase(),
                  stage: lot.stage,
                  age: t("days", { count: lot.age_days }),
                  concerns: fearedOf(lot.delivery_id) ? ` (${fearedOf(lot.delivery_id)})` : "",
                  fit: lot.fit_from ? t("agedEnoughFrom", { day: day(lot.fit_from) }) : "",
                })}
              </p>
            ))}
            {pile.turned_on ? <p className="text-sm">{t("turnedWithDay", { day: day(pile.turned_on) })}</p> : null}
            {pile.plan && !pile.plan.fits ? (
              <p className="border-l-4 border-error pl-3">
                {t("tooMuchForThisPlaceAt", { volume: about(pile.plan.holds_m3, units) })}
              </p>
            ) : null}
            {pile.plan?.clear === false && pile.plan.wall_m !== null ? (
              <p className="border-l-4 border-warning pl-3">
                {t("itLiesFromAWallKeep", { distance: aboutDistance(pile.plan.wall_m ?? 0, units) })}
              </p>
            ) : null}
            {act ? (
              <div className="flex flex-wrap gap-2">
                {ACTS.map(([key, words]) => (
                  <Button key={key} small onClick={() => act(pile, key)}>
                    {words}
                  </Button>
                ))}
              </div>
            ) : null}
          </li>
        ))}
      </ul>
      {piles.length > 0 ? (
        <p className="text-sm text-base-content/75">{t("dampenADustyPileWearA", { height: aboutHeight(2, units) })}</p>
      ) : null}
    </section>
  );
}

interface LoadsProps {
  deliveries: DeliveryOut[];
  receive: ((delivery: DeliveryOut) => void) | undefined;
}

function Loads({ deliveries, receive }: LoadsProps) {
  const units = useUnits();
  const { cancel } = useStockChanges();
  if (deliveries.length === 0) return null;
  const expected = deliveries.filter((delivery) => delivery.state === "expected");
  const came = deliveries.filter((delivery) => delivery.state === "received");
  const cancelled = deliveries.filter((delivery) => delivery.state === "cancelled");
  return (
    <section className="space-y-4" data-testid="deliveries">
      {expected.length > 0 ? (
        <div>
          <h2 className="text-xl">{t("expected")}</h2>
          <ul className="divide-y divide-base-300 border-y border-base-300">
            {expected.map((delivery) => (
              <li key={delivery.id} className="flex flex-wrap items-center gap-x-4 gap-y-1 py-2">
                <span className="min-w-0 grow">
                  <strong>{delivery.name}</strong>
                  {delivery.expected_on ? `, ${day(delivery.expected_on)}` : ""}
                  <span className="block text-sm text-base-content/75">
                    {delivery.material_name},{" "}
                    {delivery.size.least_m3 === delivery.size.most_m3
                      ? about(delivery.size.likely_m3, units)
                      : t("toWithVolume", {
                          volume: about(delivery.size.least_m3, units),
                          volume2: about(delivery.size.most_m3, units),
                        })}
                    {delivery.cost > 0 ? `, ${money(delivery.cost, delivery.currency)}` : `, ${t("free")}`}
                    {delivery.note ? `. ${delivery.note}` : ""}
                  </span>
                </span>
                {receive ? (
                  <>
                    <Button primary onClick={() => receive(delivery)}>
                      {t("receiveHeading")}
                    </Button>
                    <Button ghost onClick={() => cancel.mutate(delivery)}>
                      {t("cancelDelivery")}
                    </Button>
                  </>
                ) : null}
              </li>
            ))}
          </ul>
        </div>
      ) : null}
      {came.length > 0 ? (
        <div>
          <h2 className="text-xl">{t("receivedLoadsAndTheirUse")}</h2>
          <ul className="divide-y divide-base-300 border-y border-base-300">
            {came.map((delivery) => (
              <Trace key={delivery.id} load={delivery} edit={receive !== undefined} />
            ))}
          </ul>
        </div>
      ) : null}
      {cancelled.length > 0 ? (
        <p className="text-sm text-base-content/75">
          {t("cancelled", { off: cancelled.map((delivery) => delivery.name).join(", ") })}
        </p>
      ) : null}
    </section>
  );
}

/** A load from the truck to the ground. */
function Trace({ load, edit }: { load: DeliveryOut; edit: boolean }) {
  const units = useUnits();
  const all = Math.max(load.volume_m3 ?? 0, 0.001);
  const parts = [
    ...load.on_plots.map((share) => ({
      words: t("onWithPlot", { plot: share.plot }),
      amount: share.volume_m3,
      look: "bg-secondary",
    })),
    { words: t("onPiles"), amount: load.on_piles_m3, look: "bg-secondary/50" },
    { words: t("removed"), amount: load.away_m3, look: "bg-base-content/40" },
    { words: t("settledOrDecayed"), amount: load.shrunk_m3, look: "bg-base-300" },
  ].filter((part) => part.amount > SPECK_M3);
  return (
    <li className="py-2.5">
      <p className="flex flex-wrap justify-between gap-x-4">
        <span>
          <strong>{load.name}</strong>
          {load.received_on ? `, ${day(load.received_on)}` : ""}: {load.material_name.toLowerCase()}
        </span>
        <span className="font-semibold">{about(load.volume_m3 ?? 0, units)}</span>
      </p>
      <div className="my-1 flex h-2.5 bg-base-200">
        {parts.map((part) => (
          <span
            key={part.words}
            className={`${part.look} border-r border-base-100`}
            style={{ width: `${(100 * part.amount) / all}%` }}
          />
        ))}
      </div>
      <p className="text-sm text-base-content/75">
        {parts.map((part) => `${about(part.amount, units)} ${part.words}`).join(", ")}
        {load.shrunk_m3 < -SPECK_M3 ? t("moreThanEstimated", { volume: about(-load.shrunk_m3, units) }) : ""}
        {load.note ? `. ${load.note}` : ""}
      </p>
      {load.worries.length > 0 ? (
        <p className="border-l-4 border-warning pl-3 text-sm" data-testid="worries">
          {t("concernsWithWorries", {
            worries: feared(load.worries).join(", "),
            laid:
              load.on_plots.length > 0
                ? ` ${t("laidOnSeeTheAdviceFor", { onPlots: load.on_plots.map((share) => share.plot).join(", ") })}`
                : "",
          })}
        </p>
      ) : null}
      <Photo load={load} edit={edit} />
    </li>
  );
}
