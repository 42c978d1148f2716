import { useState } from "react";
import type { SeasonDemand } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { costOf } from "@/features/site/season";
import { t } from "@/texts/schedule";
import { TextField } from "@/ui/Field";
import { perArea, valueText, YARD3 } from "@/ui/format";
import { about, aboutDepth, derived, inUnits, SPECK_M3 } from "@/ui/precision";
import { Loading, Trouble } from "@/ui/states";
import { type Column, Table } from "@/ui/Table";
import { useUnits } from "@/ui/units";
import { useHeld, useYears } from "./seasons";
import { useSeasonsContext } from "./seasonsContext";
import { WindowsForm } from "./WindowsForm";

/** The seasons and years ahead in numbers; what is next on each plot; piles; the soil made. */
export function YearsPage() {
  const units = useUnits();
  const may = useMay();
  const { site, seasons } = useSeasonsContext();
  const sheet = useYears();
  if (sheet.isPending) return <Loading what={t("theYearsAhead")} />;
  if (sheet.isError) return <Trouble error={sheet.error} retry={() => sheet.refetch()} />;
  const { years, breaks_in } = sheet.data;
  const most = Math.max(0.1, ...years.map((year) => Math.max(year.high_m3, year.supply_m3)));
  const digs = sheet.data.seasons.some((season) => season.humus_m3 > 0);
  const needs = ({ needed_m3 }: SeasonDemand["figures"]) => needed_m3 > SPECK_M3;
  const dugOut: Column<SeasonDemand> = [t("humusDugOut"), ({ humus_m3 }) => about(humus_m3, units)];
  const rangeWords = (low: string, high: string) => (
    <span className="block text-sm text-base-content/75">
      ({low.split(" ")[0]} {t("toWithin")} {high.split(" ")[0]})
    </span>
  );
  const named = (id: string) => site.plots.find((plot) => plot.id === id)?.name ?? "";
  return (
    <div className="mx-auto grid max-w-7xl grid-cols-[minmax(0,1fr)] gap-x-10 gap-y-6 p-4 sm:p-6 lg:grid-cols-[minmax(0,1fr)_25rem]">
      <div className="space-y-6">
        {breaks_in ? (
          <p className="border-l-4 border-warning pl-3" data-testid="breaks">
            {t("inMoreIsNeededThanIs", {
              year: breaks_in,
              consequence: seasons.waits ? t("theRestWaitsForChips") : t("theRestMustBeBought"),
            })}
          </p>
        ) : null}
        <section data-testid="years">
          <h2 className="text-xl">{t("yearByYear")}</h2>
          <ul className="space-y-2">
            {years.map((year) => (
              <li key={year.year} className="grid grid-cols-[4rem_minmax(0,1fr)_9rem] items-center gap-3">
                <span className="leading-tight font-semibold">
                  {year === years[0] ? t("restOf", { year: year.year }) : year.year}
                </span>
                <span className="relative block h-6 bg-base-200">
                  <span
                    className={`absolute inset-y-1 left-0 ${year.short ? "bg-error" : "bg-secondary"}`}
                    style={{ width: `${(100 * year.volume_m3) / most}%` }}
                  />
                  <span
                    className="absolute inset-y-2 bg-base-content/55"
                    style={{
                      left: `${(100 * year.low_m3) / most}%`,
                      width: `${Math.max(0.4, (100 * (year.high_m3 - year.low_m3)) / most)}%`,
                    }}
                  />
                  <span
                    className="absolute inset-y-0 w-0.5 bg-base-content"
                    style={{ left: `${(100 * year.supply_m3) / most}%` }}
                    title={t("likelyToCome")}
                  />
                </span>
                <span className="text-right whitespace-nowrap">
                  <strong>{about(year.volume_m3, units)}</strong>
                  <span className="block text-sm text-base-content/75">
                    {about(year.low_m3, units) === about(year.high_m3, units)
                      ? ""
                      : t("to", { low: about(year.low_m3, units), high: about(year.high_m3, units) })}
                  </span>
                  {seasons.waits ? (
                    <span className="block text-sm text-base-content/75">
                      {t("laid", { volume: about(year.laid_m3, units) })}
                    </span>
                  ) : null}
                </span>
              </li>
            ))}
          </ul>
          <p className="mt-1 text-sm text-base-content/75">
            {t("theVerticalLineShowsWhatCrews", {
              volume: about(years[0]?.supply_m3 ?? 0, units),
              also: seasons.waits ? t("nothingIsLaidBeforeItComes") : `. ${t("boughtChipsAreExtra")}`,
            })}
          </p>
        </section>
        <section>
          <h2 className="text-xl">{t("seasonBySeason")}</h2>
          <Table
            testId="seasons"
            rows={sheet.data.seasons}
            columns={[
              [t("season"), ({ figures }) => figures.season],
              [t("needed"), ({ figures }) => (needs(figures) ? about(figures.needed_m3, units) : t("nothingDue"))],
              [t("loads"), ({ figures }) => (needs(figures) ? figures.loads : "")],
              [t("work"), ({ figures }) => (needs(figures) ? valueText(figures.hours, "h", units) : "")],
              [t("costHeading"), ({ figures }) => (needs(figures) ? costOf(figures) : "")],
              ...(digs ? [dugOut] : []),
            ]}
          />
        </section>
        <section>
          <h2 className="text-xl">{t("nextLayingByPlot")}</h2>
          <ul className="divide-y divide-base-300 border-y border-base-300" data-testid="steps">
            {seasons.plots.map((plot) => (
              <li key={plot.plot_id} className="flex flex-wrap justify-between gap-x-4 py-1.5">
                <span>{named(plot.plot_id)}</span>
                <span>{inUnits(plot.next_step, units)}</span>
              </li>
            ))}
          </ul>
        </section>
      </div>
      <div className="space-y-6">
        <Held />
        {seasons.piles.length > 0 ? (
          <section data-testid="pile-futures">
            <h2 className="text-xl">{t("piles")}</h2>
            <ul className="divide-y divide-base-300 border-y border-base-300">
              {seasons.piles.map((pile) => (
                <li key={pile.pile} className="py-1.5">
                  <strong>{pile.pile}</strong>
                  {t("nowInHalfAYearIn", {
                    now: about(pile.volume_m3, units),
                    inHalfAYear: about(pile.in_half_a_year_m3, units),
                    inAYear: about(pile.in_a_year_m3, units),
                  })}
                  <span className="block text-sm text-base-content/75">
                    {pile.ripe
                      ? t("readyToSieveAbout", { season: t(pile.ripe.name, { years: pile.ripe.years.join("/") }) })
                      : t("notReadyToSieveInThese")}
                  </span>
                </li>
              ))}
            </ul>
            <p className="mt-1 text-sm text-base-content/75">{t("pilesStayMoistAndWarmAnd")}</p>
          </section>
        ) : null}
        <section data-testid="soil">
          <h2 className="text-xl">{t("soilFormed")}</h2>
          <p className="text-sm text-base-content/75">{t("humusUnderTheChipsMeanOf")}</p>
          <Table
            rows={seasons.soil}
            columns={[
              [t("after"), (year) => t("years", { count: year.years })],
              [t("humusHeading"), (year) => aboutDepth(year.humus_mm, units)],
              [
                t("dryWeight"),
                (year) => (
                  <>
                    {perArea(year.humus_kg_m2, units)}
                    {rangeWords(perArea(year.low_kg_m2, units), perArea(year.high_kg_m2, units))}
                  </>
                ),
              ],
              [
                t("carbonStored"),
                (year) => (
                  <>
                    <strong>{derived(year.carbon_kg, "kg", units)}</strong>
                    {rangeWords(derived(year.low_carbon_kg, "kg", units), derived(year.high_carbon_kg, "kg", units))}
                  </>
                ),
              ],
            ]}
          />
        </section>
        <WindowsForm seasons={seasons} edit={may.edit} />
      </div>
    </div>
  );
}

/** The depth that a yearly supply can hold. */
function Held() {
  const units = useUnits();
  const sheet = useYears();
  const start = sheet.data?.years[0]?.supply_m3 ?? 0;
  const [text, setText] = useState(() => String(Math.round(units === "us" ? start / YARD3 : start)));
  const typed = Number(text.replace(",", "."));
  const wrong = text.trim() !== "" && !(typed >= 0 && typed <= 100_000);
  const supply = wrong || text.trim() === "" ? null : units === "us" ? typed * YARD3 : typed;
  const holding = useHeld(supply);
  return (
    <section data-testid="held-by">
      <h2 className="text-xl">{t("depthASupplyCanMaintain")}</h2>
      <div className="max-w-48">
        <TextField
          label={t("perYear")}
          unit={units === "us" ? "yd³" : "m³"}
          value={text}
          onChange={setText}
          error={wrong ? t("typeANumberForExample40") : undefined}
        />
      </div>
      <p className="mt-1" aria-live="polite">
        {holding.data?.depth_mm != null ? (
          <>
            {t("maintains")} <strong className="display text-2xl">{aboutDepth(holding.data.depth_mm, units)}</strong>
            {t("asTargetDepthOnAllGround", {
              more: holding.data.more ? ` ${t("andMore")}` : "",
              volume: about(holding.data.needed_m3, units),
            })}
          </>
        ) : holding.isFetching ? (
          t("calculating")
        ) : (
          t("noPlotHasTheRuleKeep")
        )}
      </p>
    </section>
  );
}
