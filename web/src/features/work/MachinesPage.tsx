import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { api, result } from "@/api/client";
import type { MachineSheet, WayOut } from "@/api/schema.gen";
import { useAskedSeason } from "@/features/site/SeasonSelect";
import { t } from "@/texts/work";
import { TextField } from "@/ui/Field";
import { money, shown } from "@/ui/format";
import { about } from "@/ui/precision";
import { Loading, Trouble } from "@/ui/states";
import { store, stored } from "@/ui/stored";
import { useUnits } from "@/ui/units";
import { rangeOf, Value } from "@/ui/working";

const WAYS: Record<WayOut["way"], string> = {
  barrow: t("byBarrow"),
  cart: t("byCart"),
  loader: t("byLoader"),
  blower: t("byBlower"),
};
const HIRED = ["cart", "loader", "blower"] as const;
type Prices = Record<(typeof HIRED)[number], string>;

const priceOf = (text: string) => (text.trim() === "" ? 0 : Number(text.replace(",", ".")));

/** Hours and cost of each way to move the chips, over a season and over years; mowing and upkeep that are saved. */
export function MachinesPage() {
  const units = useUnits();
  const { workspaceId = "", siteId = "" } = useParams();
  const season = useAskedSeason();
  const place = `ulmatic.draft.2.hire.${siteId}`;
  const [prices, setPrices] = useState<Prices>(
    () => stored<Prices>(place) ?? { cart: "", loader: "", blower: "" },
  );
  const bad = (text: string) => !(priceOf(text) >= 0);
  const asked = Object.fromEntries(
    HIRED.filter((way) => prices[way].trim() !== "" && !bad(prices[way])).map((way) => [
      way,
      priceOf(prices[way]),
    ]),
  );
  const sheet = useQuery({
    queryKey: ["supply", workspaceId, siteId, "machines", season ?? "", asked],
    queryFn: () =>
      result(
        api.GET("/api/v1/workspaces/{workspace_id}/sites/{site_id}/machines", {
          params: {
            path: { workspace_id: workspaceId, site_id: siteId },
            query: { ...asked, ...(season ? { season } : {}) },
          },
        }),
      ),
    placeholderData: keepPreviousData,
  });
  if (sheet.isPending) return <Loading what={t("machineOrHand")} />;
  if (sheet.isError) return <Trouble error={sheet.error} retry={() => sheet.refetch()} />;
  const { ways, mowing, upkeep } = sheet.data;
  return (
    <div className="mx-auto max-w-4xl space-y-6 p-4 sm:p-6" data-testid="machines">
      {ways.length === 0 ? (
        <p>{t("nothingToMoveIn", { season: sheet.data.season })}</p>
      ) : (
        <>
          <Best sheet={sheet.data} />
          <section className="space-y-2">
            <h2 className="text-lg">{t("hireForADay")}</h2>
            <div className="grid grid-cols-3 gap-3">
              {HIRED.map((way) => (
                <TextField
                  key={way}
                  label={WAYS[way]}
                  unit={sheet.data.currency}
                  value={prices[way]}
                  onChange={(text) => {
                    const next = { ...prices, [way]: text };
                    setPrices(next);
                    store(place, next);
                  }}
                  error={bad(prices[way]) ? t("typeAPrice") : undefined}
                />
              ))}
            </div>
          </section>
          <div className="overflow-x-auto">
            <table className="table">
              <caption className="pb-1 text-left text-sm text-base-content/75">
                {t("movedIn", {
                  season: sheet.data.season,
                  volume: about(sheet.data.volume_m3, units),
                  years: sheet.data.years,
                  all: about(sheet.data.years_m3, units),
                })}
              </caption>
              <thead>
                <tr>
                  <th>{t("way")}</th>
                  <th className="text-right">{t("personHoursSeason")}</th>
                  <th className="text-right">{t("daysHired")}</th>
                  <th className="text-right">{t("costSeason")}</th>
                  <th className="text-right">{t("hoursYears", { years: sheet.data.years })}</th>
                  <th className="text-right">{t("costYears", { years: sheet.data.years })}</th>
                </tr>
              </thead>
              <tbody>
                {ways.map((way) => (
                  <tr key={way.way}>
                    <th scope="row">{WAYS[way.way]}</th>
                    <td className="text-right">
                      <Value figure={way.hours} className="font-semibold">
                        {shown(way.hours.value, "h", units)}
                      </Value>
                      <span className="block text-xs text-base-content/75">{rangeOf(way.hours, units)}</span>
                    </td>
                    <td className="text-right">{way.way === "barrow" ? "–" : way.days}</td>
                    <td className="text-right">{priced(way.cost, ways, sheet.data.currency)}</td>
                    <td className="text-right">{shown(way.years_h, "h", units)}</td>
                    <td className="text-right">{priced(way.years_cost, ways, sheet.data.currency)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
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
                  {shown(row.hours.value, "h", units)}
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
              before: shown(upkeep.before_h, "h", units),
              since: shown(upkeep.since_h, "h", units),
              laying: shown(upkeep.laying_h, "h", units),
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

/** A cost, or which price is wanting. */
function priced(cost: number | null, ways: WayOut[], currency: string) {
  if (cost !== null) return money(cost, currency, true);
  const hourPriced = ways.some((way) => way.cost !== null);
  return (
    <span className="text-sm text-base-content/75">
      {hourPriced ? t("noHirePrice") : t("hourHasNoPrice")}
    </span>
  );
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
          ? t("fewestHours", { hours: shown(best.hours.value, "h", units) })
          : t("cheapest", {
              cost: money(best.cost, sheet.currency, true),
              hours: shown(best.hours.value, "h", units),
            })}
      </p>
    </header>
  );
}
