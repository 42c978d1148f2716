import { useMutation, useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { useLocation } from "react-router";
import { api } from "@/api/client";
import type { ClientPlot, ClientSheet, QuoteOut } from "@/api/schema.gen";
import { labelAt, reach } from "@/features/survey/drawn";
import { pathsOf } from "@/features/survey/PlotPiece";
import { t } from "@/texts/money";
import { Button } from "@/ui/Button";
import { DataTable } from "@/ui/DataTable";
import { TextField } from "@/ui/Field";
import { useFields } from "@/ui/fields";
import { day } from "@/ui/format";
import { Words } from "@/ui/picture";
import { aboutArea } from "@/ui/precision";
import { Loading, Trouble } from "@/ui/states";
import { Units, useUnits } from "@/ui/units";
import { QuoteView } from "./QuoteTab";

/** A site as its client sees it by a link: plan, dates, quote and photos; the quote can be accepted. */
export function ClientPage() {
  const token = useLocation().hash.slice(1);
  const sheet = useQuery({
    queryKey: ["client", token],
    queryFn: () => api.get("/client-links/{token}", { path: { token } }),
    retry: false,
  });
  const site = sheet.data?.site;
  useEffect(() => {
    if (site) document.title = site;
  }, [site]);
  if (sheet.isPending) return <Loading what={t("theSite")} />;
  if (sheet.isError) return <Trouble error={sheet.error} />;
  const { quote, days, photos } = sheet.data;
  return (
    <Units value={sheet.data.units}>
      <main className="mx-auto max-w-3xl space-y-6 p-4 sm:p-6" data-testid="client">
        <h1 className="text-3xl">{sheet.data.site}</h1>
        <Plan plots={sheet.data.plots} site={sheet.data.site} />
        <section>
          <h2 className="text-xl">{t("plannedDays")}</h2>
          <p>
            {t("seasonFromTo", {
              season: sheet.data.season,
              opens: day(sheet.data.opens),
              closes: day(sheet.data.closes),
            })}
          </p>
          {days.length === 0 ? (
            <p>{t("noDaysPlanned")}</p>
          ) : (
            <ul>
              {days.map((on) => (
                <li key={on}>{day(on)}</li>
              ))}
            </ul>
          )}
        </section>
        {quote ? <Quoted quote={quote} token={token} accepted={() => sheet.refetch()} /> : <p>{t("noQuoteYet")}</p>}
        {photos.length > 0 ? <Photos photos={photos} token={token} /> : null}
      </main>
    </Units>
  );
}

function Quoted({ quote, token, accepted }: { quote: QuoteOut; token: string; accepted: () => void }) {
  const accept = useMutation({
    mutationFn: (name: string) =>
      api.post("/client-links/{token}/acceptance", { path: { token }, body: { quote_id: quote.id, name } }),
    onSuccess: accepted,
  });
  const form = useFields({ start: { name: "" }, problem: accept.error });
  return (
    <section className="space-y-3">
      <QuoteView quote={quote.quote} />
      {quote.accepted_at && quote.accepted_by ? (
        <p className="border-l-4 border-secondary pl-3 text-lg" role="status">
          {t("acceptedBy", { name: quote.accepted_by, day: day(quote.accepted_at) })}
        </p>
      ) : (
        <form noValidate className="max-w-sm space-y-2" onSubmit={form.onSubmit((texts) => accept.mutate(texts.name))}>
          <TextField
            label={t("yourName")}
            {...form.field("name")}
            error={form.errorAt("name") ?? form.sentence}
            hint={t("acceptanceIsKept")}
          />
          <Button type="submit" primary disabled={accept.isPending}>
            {t("acceptTheQuote")}
          </Button>
        </form>
      )}
    </section>
  );
}

const [WIDE, HIGH, MARGIN] = [720, 360, 24];

function Plan({ plots, site }: { plots: ClientPlot[]; site: string }) {
  const units = useUnits();
  if (plots.length === 0) return null;
  const boxes = plots.map((plot) => ({ plot, half: reach(plot) }));
  const west = Math.min(...boxes.map(({ plot, half }) => plot.place.x_m - half.x));
  const east = Math.max(...boxes.map(({ plot, half }) => plot.place.x_m + half.x));
  const south = Math.min(...boxes.map(({ plot, half }) => plot.place.y_m - half.y));
  const north = Math.max(...boxes.map(({ plot, half }) => plot.place.y_m + half.y));
  const scale = Math.min(
    (WIDE - 2 * MARGIN) / Math.max(1, east - west),
    (HIGH - 2 * MARGIN) / Math.max(1, north - south),
  );
  return (
    <>
      <svg viewBox={`0 0 ${WIDE} ${HIGH}`} className="w-full bg-base-100" role="img" aria-label={t("planOf", { site })}>
        {plots.map((plot, at) => {
          const x = MARGIN + (plot.place.x_m - west) * scale;
          const y = MARGIN + (north - plot.place.y_m) * scale;
          const [east_m, north_m] = labelAt(plot);
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: two plots may have the same name
            <g key={at} transform={`translate(${x} ${y})`}>
              <path
                d={pathsOf(plot.outline, scale).ground}
                transform={`rotate(${-(plot.place.turn_deg ?? 0)})`}
                fill="var(--chip-2)"
                stroke="var(--soil-line)"
                fillRule="evenodd"
              />
              <Words size={13} fontWeight={700} anchor="middle" x={east_m * scale} y={5 - north_m * scale}>
                {at + 1}
              </Words>
            </g>
          );
        })}
      </svg>
      <ol className="list-inside list-decimal columns-2">
        {plots.map((plot, at) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: two plots may have the same name
          <li key={at}>
            {plot.name}, {aboutArea(plot.area_m2, units)}
          </li>
        ))}
      </ol>
      <DataTable
        caption={t("planOf", { site })}
        heads={[t("plot"), t("ground")]}
        rows={plots.map((plot) => [plot.name, aboutArea(plot.area_m2, units)])}
      />
    </>
  );
}

function Photos({ photos, token }: { photos: ClientSheet["photos"]; token: string }) {
  return (
    <section>
      <h2 className="text-xl">{t("photos")}</h2>
      <ul className="flex flex-wrap gap-2">
        {photos.map((photo) => (
          <li key={photo.id}>
            <a href={`/api/v1/client-links/${token}/photos/${photo.id}`} target="_blank" rel="noreferrer">
              <img
                src={`/api/v1/client-links/${token}/photos/${photo.id}?small=true`}
                alt={t("photoTaken", { day: day(photo.created_at) })}
                loading="lazy"
                className="h-32"
              />
            </a>
            {photo.drawn ? <span className="text-sm">{t("drawing")}</span> : null}
          </li>
        ))}
      </ul>
    </section>
  );
}
