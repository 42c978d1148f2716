import { FileDown } from "lucide-react";
import { useState } from "react";
import type { Quote, QuoteLine, UnitSystem } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { Links } from "@/features/site/links";
import { SeasonSelect, useAskedSeason } from "@/features/site/SeasonSelect";
import { useQuotes } from "@/features/supply/supply";
import { t } from "@/texts/money";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { useFields } from "@/ui/fields";
import { day, money, volume, YARD3 } from "@/ui/format";
import { numberFormat } from "@/ui/intl";
import { aboutArea } from "@/ui/precision";
import { Scroll } from "@/ui/Scroll";
import { Sentence } from "@/ui/Sentence";
import { Loading, Trouble } from "@/ui/states";
import { Table } from "@/ui/Table";
import { useUnits } from "@/ui/units";

const FOOT2 = 0.3048 ** 2;

/** What the job costs, as a client reads it; kept as it was promised. */
export function QuoteTab() {
  const season = useAskedSeason();
  const { sheet } = useQuotes(season);
  const may = useMay();
  if (sheet.isPending) return <Loading what={t("theQuote")} />;
  if (sheet.isError) return <Trouble error={sheet.error} retry={() => sheet.refetch()} />;
  const { today, wanting, beside, seasons } = sheet.data;
  return (
    <div className="mx-auto grid max-w-7xl grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-6 p-4 sm:p-6 lg:grid-cols-[minmax(0,1fr)_22rem]">
      <div className="space-y-4">
        <div className="flex flex-wrap items-center gap-3 print:hidden">
          <SeasonSelect seasons={seasons} value={sheet.data.season.key} />
        </div>
        {today ? (
          <QuoteView quote={today} />
        ) : (
          <p className="border-l-4 border-warning bg-base-100 p-3 text-lg" data-testid="wanting">
            {wanting}
          </p>
        )}
        {today && beside.length > 0 ? (
          <p className="border-l-4 border-warning pl-3">
            {t("notInThisQuoteBecauseThe", { beside: beside.join(", ").toLowerCase() })}
          </p>
        ) : null}
      </div>
      <div className="space-y-6 print:hidden">
        {today && may.edit ? <Keep season={sheet.data.season.key} /> : null}
        <Kept edit={may.edit} />
        <section>
          <h2 className="text-xl">{t("clientLink")}</h2>
          <p className="text-sm text-base-content/75">{t("clientSeesThis")}</p>
          <Links kind="client" address={(token) => `${location.origin}/client#${token}`} />
        </section>
      </div>
    </div>
  );
}

function priceOf(line: QuoteLine, currency: string, units: UnitSystem) {
  if (line.price == null || line.quantity == null) return null;
  if (line.unit === "m3") {
    const each = units === "us" ? Number(line.price) * YARD3 : line.price;
    return t("at", { volume: volume(line.quantity, units), money: money(each, currency) });
  }
  if (line.unit === "h")
    return t("hAt", { quantity: numberFormat({}).format(line.quantity), money: money(line.price, currency) });
  return `${line.quantity} × ${money(line.price, currency)}`;
}

export function QuoteView({ quote }: { quote: Quote }) {
  const units = useUnits();
  const { currency } = quote;
  const perGround = (price: string | null) =>
    price === null ? "" : `${money(units === "us" ? Number(price) * FOOT2 : price, currency)}`;
  return (
    <article className="space-y-5 bg-base-100 p-4 sm:p-6" data-testid="quote">
      <header className="flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
        <div>
          <h2 className="text-sm text-base-content/75">{t("quoteOfWithTax", { day: day(quote.on) })}</h2>
          <p className="display text-4xl text-primary" data-testid="quote-total">
            {money(quote.total, currency)}
          </p>
        </div>
        <p className="text-right">
          {t("ofGround", { area: aboutArea(quote.area_m2, units) })}
          <span className="block">
            {t("aBeforeTax", { per: perGround(quote.per_m2), unit: units === "us" ? t("sqFt") : "m²" })}
          </span>
        </p>
      </header>
      <table className="w-full">
        <tbody>
          {quote.lines.map((line) => (
            <tr key={line.group + line.label} className="border-b border-base-300 align-baseline">
              <td className="py-1.5 pr-3">
                {line.label}
                <span className="block text-sm text-base-content/75">{priceOf(line, currency, units)}</span>
              </td>
              <td className="py-1.5 text-right whitespace-nowrap">{money(line.amount, currency)}</td>
            </tr>
          ))}
          <tr className="border-b border-base-300">
            <td className="py-1.5">{t("subtotal")}</td>
            <td className="text-right">{money(quote.subtotal, currency)}</td>
          </tr>
          <tr className="border-b-2 border-base-content">
            <td className="py-1.5">{t("tax", { percent: Number((quote.tax_share * 100).toFixed(2)) })}</td>
            <td className="text-right">{money(quote.tax, currency)}</td>
          </tr>
          <tr>
            <td className="py-2 text-lg font-semibold">{t("total")}</td>
            <td className="text-right text-lg font-semibold">{money(quote.total, currency)}</td>
          </tr>
        </tbody>
      </table>
      <Scroll label={t("byPlotBeforeTax")}>
        <h3 className="text-lg">{t("byPlotBeforeTax")}</h3>
        <Table
          rows={quote.plots}
          columns={[
            [t("plot"), (plot) => plot.plot],
            [t("ground"), (plot) => aboutArea(plot.area_m2, units)],
            [t("chips"), (plot) => volume(plot.volume_m3, units)],
            [t("cost"), (plot) => money(plot.amount, currency)],
            [t("a", { unit: units === "us" ? t("sqFt") : "m²" }), (plot) => perGround(plot.per_m2)],
          ]}
        />
      </Scroll>
      <p className="text-sm text-base-content/75">
        {t("looseVolumeOfItIsSpare", { volume: volume(quote.spare_m3, units) })}
      </p>
    </article>
  );
}

function Keep({ season }: { season: string }) {
  const { keep } = useQuotes(season);
  const [id, setId] = useState(() => crypto.randomUUID());
  const form = useFields({ start: { client: "", words: "" }, problem: keep.error });
  return (
    <form
      noValidate
      className="space-y-3"
      onSubmit={form.onSubmit((texts) =>
        keep.mutate(
          { id, season, ...texts },
          {
            onSuccess: () => {
              setId(crypto.randomUUID());
              form.change({ words: "" });
            },
          },
        ),
      )}
    >
      <h2 className="text-xl">{t("saveForAClient")}</h2>
      <TextField label={t("client")} {...form.field("client")} />
      <TextField label={t("noteToTheClient")} rows={3} {...form.field("words")} />
      <Sentence text={form.sentence} />
      <Button type="submit" primary wide disabled={keep.isPending}>
        {keep.isPending ? t("saving") : t("saveQuote")}
      </Button>
      <p className="text-sm text-base-content/75">{t("aSavedQuoteDoesNotChange")}</p>
    </form>
  );
}

function Kept({ edit }: { edit: boolean }) {
  const season = useAskedSeason();
  const { path, sheet, remove } = useQuotes(season);
  const quotes = sheet.data?.kept ?? [];
  if (quotes.length === 0) return null;
  const base = `/api/v1/workspaces/${path.workspace_id}/sites/${path.site_id}/quotes`;
  return (
    <section data-testid="kept">
      <h2 className="text-xl">{t("savedQuotes")}</h2>
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {quotes.map((quote) => (
          <li key={quote.id} className="py-2">
            <p className="flex justify-between gap-3">
              <span>
                <strong>{t("quoteWithNumber", { number: quote.number })}</strong>, {quote.client}
              </span>
              <span className="font-semibold">{money(quote.quote.total, quote.quote.currency)}</span>
            </p>
            <p className="flex flex-wrap items-center gap-2">
              <span className="grow text-sm text-base-content/75">{day(quote.quote.on)}</span>
              {quote.accepted_at && quote.accepted_by ? (
                <span className="basis-full text-sm font-semibold">
                  {t("acceptedBy", { name: quote.accepted_by, day: day(quote.accepted_at) })}
                </span>
              ) : null}
              {["pdf", "csv"].map((ending) => (
                <a key={ending} className="btn btn-sm press" href={`${base}/${quote.id}/file.${ending}`}>
                  <FileDown size={15} /> {ending.toUpperCase()}
                </a>
              ))}
              <Button shown={edit} ghost small className="text-error" onClick={() => remove.mutate(quote)}>
                {t("delete")}
              </Button>
            </p>
          </li>
        ))}
      </ul>
    </section>
  );
}
