import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useChange } from "@/api/change";
import { ofSeason, useRequests } from "@/api/requests";
import type { MachineSheet, WayOut } from "@/api/schema.gen";
import { useStale } from "@/api/stale";
import { useMay } from "@/features/accounts/session";
import { useAskedSeason } from "@/features/site/SeasonSelect";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/work";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { useFields } from "@/ui/fields";
import { money, valueText } from "@/ui/format";
import { about } from "@/ui/precision";
import { Scroll } from "@/ui/Scroll";
import { Loading, Trouble } from "@/ui/states";
import { Table } from "@/ui/Table";
import { useUnits } from "@/ui/units";
import { rangeOf, Value } from "@/ui/working";

const WAYS: Record<WayOut["way"], string> = {
  barrow: t("byBarrow"),
  cart: t("byCart"),
  loader: t("byLoader"),
  blower: t("byBlower"),
};
const HIRED = ["cart", "loader", "blower"] as const;

/** Hours and cost of each way to move the chips, over a season and over years; mowing and upkeep that are saved. */
export function MachinesPage() {
  const units = useUnits();
  const { siteApi, key } = useRequests();
  const season = useAskedSeason();
  const sheet = useQuery({
    queryKey: key("supply", "machines", season ?? ""),
    queryFn: () => siteApi.get("/machines", ofSeason(season)),
    placeholderData: keepPreviousData,
  });
  if (sheet.isPending) return <Loading what={t("machineOrHand")} />;
  if (sheet.isError) return <Trouble error={sheet.error} retry={() => sheet.refetch()} />;
  const { ways, mowing, upkeep, currency } = sheet.data;
  return (
    <div className="mx-auto max-w-4xl space-y-6 p-4 sm:p-6" data-testid="machines">
      {ways.length === 0 ? (
        <p>{t("nothingToMoveIn", { season: sheet.data.season })}</p>
      ) : (
        <>
          <Best sheet={sheet.data} />
          <HireForm sheet={sheet.data} />
          <Scroll label={t("machineOrHand")}>
            <Table
              caption={t("movedIn", {
                season: sheet.data.season,
                volume: about(sheet.data.volume_m3, units),
                years: sheet.data.years,
                all: about(sheet.data.years_m3, units),
              })}
              rows={ways}
              columns={[
                [t("way"), (way) => <strong>{WAYS[way.way]}</strong>],
                [
                  t("personHoursSeason"),
                  ({ hours }) => (
                    <>
                      <Value figure={hours} className="font-semibold">
                        {valueText(hours.value, "h", units)}
                      </Value>
                      <span className="block text-xs text-base-content/75">{rangeOf(hours, units)}</span>
                    </>
                  ),
                ],
                [t("daysHired"), (way) => (way.way === "barrow" ? "–" : way.days)],
                [t("costSeason"), (way) => priced(way.cost, ways, currency)],
                [t("hoursYears", { years: sheet.data.years }), (way) => valueText(way.years_h, "h", units)],
                [t("costYears", { years: sheet.data.years }), (way) => priced(way.years_cost, ways, currency)],
              ]}
            />
          </Scroll>
          <p className="text-sm text-base-content/75">{t("machinesNote")}</p>
        </>
      )}
      {mowing.length > 0 ? (
        <section>
          <h2 className="text-lg">{t("mowingSaved")}</h2>
          <p className="text-sm text-base-content/75">{t("mowingNote")}</p>
          <ul>
            {mowing.map((row) => (
              <li key={row.plot}>
                {row.plot}:{" "}
                <Value figure={row.hours} className="font-semibold">
                  {valueText(row.hours.value, "h", units)}
                </Value>{" "}
                {t("aYear")}
              </li>
            ))}
          </ul>
        </section>
      ) : null}
      <section>
        <h2 className="text-lg">{t("upkeepSaved")}</h2>
        {upkeep ? (
          <p>
            {t("upkeepWas", {
              before: valueText(upkeep.before_h, "h", units),
              since: valueText(upkeep.since_h, "h", units),
              laying: valueText(upkeep.laying_h, "h", units),
            })}
            {upkeep.laying_cost != null
              ? ` ${t("layingCosts", { cost: money(upkeep.laying_cost, sheet.data.currency, true) })}`
              : ""}
          </p>
        ) : (
          <p>{t("logHoursToSeeUpkeep")}</p>
        )}
      </section>
    </div>
  );
}

/** What hiring a machine costs a day. */
function HireForm({ sheet }: { sheet: MachineSheet }) {
  const { siteApi, path } = useRequests();
  const may = useMay();
  const units = useUnits();
  const { sheet: site } = useSite();
  const refresh = useStale("plan");
  const version = site.data?.site.version ?? 0;
  const saving = useChange(
    (hire: Record<(typeof HIRED)[number], string>) =>
      siteApi.put("/hire", {
        version,
        body: {
          units,
          cart: hire.cart.trim() || null,
          loader: hire.loader.trim() || null,
          blower: hire.blower.trim() || null,
        },
      }),
    () => void refresh(),
  );
  const text = (price: number | null | undefined) => (price == null ? "" : String(price));
  const form = useFields({
    start: {
      cart: text(sheet.hire.cart),
      loader: text(sheet.hire.loader),
      blower: text(sheet.hire.blower),
    },
    draft: `hire.${path.site_id}`,
    problem: saving.error,
  });
  return (
    <form
      noValidate
      className="space-y-2"
      aria-label={t("hireForADay")}
      onSubmit={form.onSubmit((hire) => saving.mutate(hire, { onSuccess: () => form.clear() }))}
    >
      <h2 className="text-lg">{t("hireForADay")}</h2>
      <fieldset disabled={!may.edit} className="grid grid-cols-2 items-start gap-3 sm:grid-cols-4">
        {HIRED.map((way) => (
          <TextField key={way} label={WAYS[way]} unit={sheet.currency} {...form.field(way)} />
        ))}
        <Button type="submit" className="mt-6" disabled={saving.isPending || !form.changed}>
          {t("savePrices")}
        </Button>
      </fieldset>
      {form.sentence ? <p className="text-error">{form.sentence}</p> : null}
    </form>
  );
}

/** A cost, or which price is wanting. */
function priced(cost: number | null, ways: WayOut[], currency: string) {
  if (cost !== null) return money(cost, currency, true);
  const hourPriced = ways.some((way) => way.cost !== null);
  return <span className="text-sm text-base-content/75">{hourPriced ? t("noHirePrice") : t("hourHasNoPrice")}</span>;
}

/** The cheapest way, or the one with the fewest hours where an hour has no price. */
function Best({ sheet }: { sheet: MachineSheet }) {
  const units = useUnits();
  const best = sheet.ways.find((way) => way.way === sheet.best);
  if (!best) return null;
  return (
    <header>
      <p className="display text-4xl text-primary">{WAYS[best.way]}</p>
      <p>
        {best.cost === null
          ? t("fewestHours", { hours: valueText(best.hours.value, "h", units) })
          : t("cheapest", {
              cost: money(best.cost, sheet.currency, true),
              hours: valueText(best.hours.value, "h", units),
            })}
      </p>
    </header>
  );
}
