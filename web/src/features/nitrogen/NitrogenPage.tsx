import { useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import type { NitrogenSheet, PlotOut } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { LogForm } from "@/features/log/LogForm";
import { useLogChanges } from "@/features/log/log";
import { PlotSelect } from "@/features/schedule/SeasonsPage";
import { PageHead } from "@/features/site/PageHead";
import { drawn } from "@/features/survey/drawn";
import { Ground } from "@/features/survey/Ground";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/nitrogen";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { day, length, onGround, POUND, valueText } from "@/ui/format";
import { inUnits } from "@/ui/precision";
import { Empty, Loading, Trouble } from "@/ui/states";
import { Tick } from "@/ui/Tick";
import { useUnits } from "@/ui/units";
import { AccountPicture } from "./AccountPicture";
import { type Product, useNitrogen, useSiteNitrogen } from "./nitrogen";

const RATINGS = { negligible: t("negligible"), watch: t("watch"), act: t("act") } as const;
const NO_PLOTS: PlotOut[] = [];

/** How much nitrogen the chips borrow, when they pay it back, whether this bed will notice, and what to do. */
export function NitrogenPage() {
  const units = useUnits();
  const may = useMay();
  const { sheet: site } = useSite();
  const [params, setParams] = useSearchParams();
  const plots = site.data?.plots ?? NO_PLOTS;
  const chosen = plots.find((plot) => plot.id === params.get("plot")) ?? plots[0];
  const [product, setProduct] = useState<Product>({
    name: t("ammoniumSulphate"),
    percent: 21,
    bag_kg: null,
    soluble: true,
  });
  const { sheet, series } = useNitrogen(chosen?.id, product);
  const balances = useSiteNitrogen();
  const [week, setWeek] = useState<number | null>(null);
  const [entering, setEntering] = useState(false);
  const pieces = useMemo(() => plots.map((plot, index) => drawn(plot, index + 1)), [plots]);
  const weekShown = week ?? 52;
  const owed = useMemo(
    () => new Map(plots.map((plot) => [plot.id, Math.round((balances.get(plot.id)?.[weekShown] ?? 0) * 4) / 4])),
    [plots, balances, weekShown],
  );
  if (!site.data) return <Loading what={t("theSite")} />;
  if (!chosen) {
    return (
      <Empty title={t("noGroundYet")}>
        <p>{t("measureAPlotFirstItsNitrogen")}</p>
      </Empty>
    );
  }
  if (sheet.isError) return <Trouble error={sheet.error} retry={() => sheet.refetch()} />;
  if (!sheet.data || !series) return <Loading what={t("theAccount")} />;
  const { seasons } = sheet.data;
  const worst = [...seasons].sort((a, b) => b.owed - a.owed)[0];
  const choose = (id: string) => setParams({ plot: id }, { replace: true });
  return (
    <div className="flex min-h-full flex-col lg:h-full">
      <div className="border-b border-base-300 px-3 sm:px-4">
        <PageHead title={t("nitrogen")}>
          <PlotSelect plots={plots} value={chosen.id} choose={choose} />
        </PageHead>
      </div>
      <section className="flex flex-wrap items-center gap-x-6 gap-y-2 border-b border-base-300 bg-base-100 px-4 py-2">
        {worst ? (
          <p className="min-w-0 grow leading-tight" data-testid="verdict">
            <span className="display text-2xl text-primary">
              {t("borrowedIn", { owed: onGround(worst.owed, units), year: worst.year })}
            </span>
            <span className="block first-letter:uppercase">
              {RATINGS[worst.rating]}. {worst.words}
            </span>
          </p>
        ) : null}
        <Button shown={may.edit} primary aria-pressed={entering} onClick={() => setEntering(!entering)}>
          {t("logNitrogen")}
        </Button>
      </section>
      <div className="grid min-h-0 grow grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1fr)_27rem]">
        <div className="flex min-h-0 flex-col">
          <div className="h-72 shrink-0 border-b border-base-300 bg-base-100 pt-1">
            <AccountPicture sheet={sheet.data} series={series} week={weekShown} setWeek={setWeek} />
          </div>
          <div className="h-80 min-h-0 grow overflow-hidden lg:h-auto">
            <Ground
              site={site.data.site}
              plots={pieces}
              marks={site.data.landmarks}
              chosen={chosen.id}
              choose={(id) => plots.some((plot) => plot.id === id) && choose(id)}
              balances={owed}
            />
          </div>
        </div>
        <section
          aria-label={t("adviceAndReason")}
          // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, and keys must reach it
          tabIndex={0}
          className="min-h-0 space-y-5 overflow-y-auto border-base-300 bg-base-100 p-4 lg:border-l"
        >
          {entering ? (
            <LogForm key={chosen.id} plot={chosen} close={() => setEntering(false)} account />
          ) : (
            <>
              <ToDo sheet={sheet.data} product={product} setProduct={setProduct} />
              <Schools sheet={sheet.data} />
              <BySeason sheet={sheet.data} />
              <Entries sheet={sheet.data} />
            </>
          )}
        </section>
      </div>
    </div>
  );
}

interface Props {
  sheet: NitrogenSheet;
  product: Product;
  setProduct: (next: Product) => void;
}

function ToDo({ sheet, product, setProduct }: Props) {
  const units = useUnits();
  const [percent, setPercent] = useState(String(product.percent));
  const [bag, setBag] = useState("");
  const { dose } = sheet;
  const number = (text: string) => Number(text.replace(",", "."));
  const badPercent = !(number(percent) > 0 && number(percent) <= 60) ? t("aPercentageFrom1To60") : undefined;
  const badBag = bag.trim() !== "" && !(number(bag) > 0 && number(bag) <= 2000) ? t("aWeightForExample20") : undefined;
  return (
    <section data-testid="to-do">
      <h2 className="text-xl">{t("whatToDo")}</h2>
      <ul className="list-disc space-y-1 pl-5">
        {sheet.advised.map((step) => (
          <li key={step.step}>{inUnits(step.words, units)}</li>
        ))}
      </ul>
      {dose ? (
        <div className="mt-3 space-y-2 border-l-4 border-primary pl-3" data-testid="dose">
          <div className="grid grid-cols-[1fr_5rem_6rem] gap-2">
            <TextField
              label={t("product")}
              value={product.name}
              onChange={(name) => name && setProduct({ ...product, name })}
            />
            <TextField
              label={t("nitrogenN")}
              unit="%"
              value={percent}
              onChange={(text) => {
                setPercent(text);
                const next = number(text);
                if (next > 0 && next <= 60) setProduct({ ...product, percent: next });
              }}
              error={badPercent}
            />
            <TextField
              label={t("bag")}
              unit={units === "us" ? "lb" : "kg"}
              value={bag}
              onChange={(text) => {
                setBag(text);
                const next = number(text) * (units === "us" ? POUND : 1);
                setProduct({ ...product, bag_kg: next > 0 && next <= 2000 ? next : null });
              }}
              error={badBag}
            />
          </div>
          <Tick checked={product.soluble} onChange={(soluble) => setProduct({ ...product, soluble })}>
            {t("solubleWithin")}
          </Tick>
          <p>
            <strong className="display text-2xl">{onGround(dose.each_grams_m2, units)}</strong>{" "}
            {t("ofTheProduct", {
              times: dose.doses > 1 ? ` ${t("eachTimeTimes", { doses: dose.doses })}` : t("once"),
              dates: dose.on.map(day).join(", "),
            })}
          </p>
          <p>
            {t("inTotalForThisPlotTwice", {
              total: valueText(dose.total_kg, "kg", units),
              bags: dose.bags ? `, ${t("bags", { count: dose.bags })},` : "",
              surplusN: valueText(dose.surplus_n_kg, "kg", units),
            })}
          </p>
          {dose.too_late_g_m2 > 0 ? (
            <p>{t("anotherOfNitrogenIsOwedBut", { tooLateG: onGround(dose.too_late_g_m2, units) })}</p>
          ) : null}
        </div>
      ) : null}
      <p className="mt-2 text-sm text-base-content/75">
        {t("doNotApplyBeforeHeavyRain", {
          overdone: inUnits(sheet.overdone, units),
          water:
            sheet.to_water_m === null
              ? t("keepTheDistanceFromWaterThat")
              : t("waterIsAwayCheckTheDistance", { distance: length(sheet.to_water_m, units) }),
        })}
      </p>
    </section>
  );
}

function Schools({ sheet }: { sheet: NitrogenSheet }) {
  const units = useUnits();
  if (sheet.schools.length === 0) return null;
  const most = Math.max(...sheet.schools.map((school) => Math.sqrt(school.most_owed)), 0.1);
  return (
    <section data-testid="schools">
      <h2 className="text-xl">{t("whatEachSchoolExpectsOnThis")}</h2>
      <p className="text-sm text-base-content/75">{t("nitrogenBorrowedByAFreshLayer")}</p>
      <ul className="mt-1 space-y-2">
        {sheet.schools.map((school) => (
          <li key={school.key}>
            <p className={`flex justify-between gap-3 ${school.here ? "font-semibold" : ""}`}>
              <span>
                {inUnits(school.words, units)}
                {school.here ? ` ${t("here")}` : ""}
              </span>
              <span className="whitespace-nowrap">{onGround(school.most_owed, units)}</span>
            </p>
            <span className="block h-1.5 bg-base-300">
              <span
                className="block h-full bg-base-content/70"
                style={{ width: `${(100 * Math.sqrt(school.most_owed)) / most}%` }}
              />
            </span>
            <p className="text-sm text-base-content/75">{school.why}</p>
          </li>
        ))}
      </ul>
      <p className="mt-1 text-sm text-base-content/75">{t("barLengthsAreSquareRootsSo")}</p>
    </section>
  );
}

function BySeason({ sheet }: { sheet: NitrogenSheet }) {
  const units = useUnits();
  const bare = (g: number) => onGround(g, units).split(" ")[0];
  const span = ([low, high]: readonly [number, number]) =>
    low === high ? "" : ` ${t("to", { low: bare(low), high: bare(high) })}`;
  return (
    <section data-testid="by-season">
      <h2 className="text-xl">{t("seasonBySeason")}</h2>
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {sheet.seasons.map((season) => (
          <li key={season.year} className="py-1.5">
            <p className="flex flex-wrap justify-between gap-x-3">
              <span>
                <strong>{season.year}</strong> {RATINGS[season.rating]}
              </span>
              <span>
                {t("borrowed")} {bare(season.owed)}
                {t("paidBackClause")} {bare(season.paid)}
              </span>
            </p>
            <p className="text-sm text-base-content/75">
              {t("soilSupplies", { words: season.words })} {bare(season.soil)}
              {span(season.soil_range)}
              {season.plants > 0
                ? t("plantsTake", { plants: bare(season.plants), plantsRange: span(season.plants_range) })
                : ""}
              .
            </p>
          </li>
        ))}
      </ul>
      <p className="text-sm text-base-content/75">
        {t("inOfNitrogenBandRangeFrom", { onGround: onGround(1, units).split(" ").slice(1).join(" ") })}
      </p>
    </section>
  );
}

function Entries({ sheet }: { sheet: NitrogenSheet }) {
  const units = useUnits();
  const may = useMay();
  const { remove } = useLogChanges();
  return (
    <section data-testid="entries">
      <h2 className="text-xl">{t("itemsInTheAccount")}</h2>
      <ul className="divide-y divide-base-300 border-y border-base-300 text-sm">
        {sheet.layers.map((layer) => (
          <li key={layer.name + layer.on} className="flex justify-between gap-3 py-1">
            <span>
              {layer.name}, {day(layer.on)}
              {layer.planned ? t("planned") : ""}
            </span>
            <span className="text-right whitespace-nowrap">
              {t("cN", {
                ratio: Math.round(layer.cn),
                balance:
                  layer.most_owed > 0
                    ? t("borrows", { mostOwed: onGround(layer.most_owed, units) })
                    : t("noContactWithTheSoil"),
              })}
            </span>
          </li>
        ))}
        {sheet.marks.map((mark) => (
          <li key={mark.entry_id ?? mark.words + mark.on} className="flex items-center justify-between gap-3 py-1">
            <span className="grow">
              {mark.words}, {day(mark.on)}
            </span>
            <span className="text-right">
              {mark.grams_m2 > 0 ? t("brings", { grams: onGround(mark.grams_m2, units) }) : ""}
              {mark.low < mark.high
                ? ` ${t("to", { low: onGround(mark.low, units).split(" ")[0], high: onGround(mark.high, units).split(" ")[0] })}`
                : ""}
            </span>
            {mark.entry_id && may.edit ? (
              <Button ghost small onClick={() => mark.entry_id && remove.mutate(mark.entry_id)}>
                {t("delete")}
              </Button>
            ) : null}
          </li>
        ))}
      </ul>
    </section>
  );
}
