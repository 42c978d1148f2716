import { ChevronLeft, ChevronRight } from "lucide-react";
import { useState } from "react";
import { useParams, useSearchParams } from "react-router";
import type { CalendarSheet, Occasion } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { Links } from "@/features/site/links";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/work";
import { Button } from "@/ui/Button";
import { today } from "@/ui/clock";
import { dateFormat } from "@/ui/intl";
import { inUnits } from "@/ui/precision";
import { Loading, Trouble } from "@/ui/states";
import { useUnits } from "@/ui/units";
import { Closures } from "./Closures";
import { DayPanel } from "./DayPanel";
import { dayAfter, dayWords, moved, on, spanOf, turned, useCalendar, useChanges, type View } from "./days";
import { MonthGrid } from "./MonthGrid";

const NARROW = "(max-width: 639px)";
const VIEWS: View[] = ["month", "week", "agenda"];
const viewWords: Record<View, string> = { month: t("month"), week: t("week"), agenda: t("agenda") };

interface Asked {
  occasion: Occasion;
  to: string;
  breaks: string[];
}

/** What falls on which day: seasons, deliveries, work, readings, rows; work is put on another day here. */
export function CalendarPage() {
  const units = useUnits();
  const may = useMay();
  const { workspaceId, siteId } = useParams();
  const { sheet: site } = useSite();
  const [params, setParams] = useSearchParams();
  const askedView = params.get("view") as View | null;
  const view: View =
    askedView && VIEWS.includes(askedView) ? askedView : matchMedia(NARROW).matches ? "agenda" : "month";
  const dayShown = params.get("on") ?? site.data?.today ?? today();
  const [first, last] = spanOf(view, dayShown);
  const calendar = useCalendar(first, last);
  const { make, attempt } = useChanges();
  const [question, ask] = useState<Asked>();
  const [chosen, choose] = useState<string>();
  if (calendar.isPending) return <Loading what={t("theCalendar")} />;
  if (calendar.isError) return <Trouble error={calendar.error} retry={() => calendar.refetch()} />;
  const sheet = calendar.data;
  const go = (next: Record<string, string>) => setParams({ ...Object.fromEntries(params), ...next }, { replace: true });
  const move = (occasion: Occasion, to: string | null) => {
    ask(undefined);
    const changes = moved(occasion, to);
    if (to === null) make.mutate(changes);
    else
      attempt.mutate(changes, {
        onSuccess: ({ breaks, warnings }) => {
          const words = [...breaks, ...warnings];
          if (words.length > 0) ask({ occasion, to, breaks: words });
          else make.mutate(changes);
        },
      });
  };
  const candidates = [chosen, sheet.today, view === "month" ? `${dayShown.slice(0, 7)}-01` : first];
  const day = candidates.find((iso) => iso !== undefined && iso >= first && iso <= last) ?? first;
  return (
    <div className="space-y-4 p-4 sm:p-6" data-testid="calendar">
      <header className="flex flex-wrap items-center gap-2">
        <h2 className="display min-w-52 text-3xl" data-testid="span">
          {view === "month" ? monthOf(dayShown) : titleOf(first, last)}
        </h2>
        <Button square aria-label={t("earlier")} onClick={() => go({ on: turned(view, dayShown, -1) })}>
          <ChevronLeft size={18} />
        </Button>
        <Button square aria-label={t("later")} onClick={() => go({ on: turned(view, dayShown, 1) })}>
          <ChevronRight size={18} />
        </Button>
        <Button onClick={() => go({ on: sheet.today })}>{t("today")}</Button>
        <span className="grow" />
        <fieldset className="flex" aria-label={t("view")}>
          {VIEWS.map((name) => (
            <button
              key={name}
              type="button"
              aria-pressed={view === name}
              className={`press border-b-3 px-3 ${view === name ? "border-primary font-semibold" : "border-transparent"}`}
              onClick={() => go({ view: name })}
            >
              {viewWords[name]}
            </button>
          ))}
        </fieldset>
      </header>
      {question ? (
        <section className="border-l-4 border-error bg-base-100 p-3" role="alertdialog" aria-label={t("whatItBreaks")}>
          <p className="font-semibold">
            {t("movingBreaks", { what: question.occasion.words, day: dayWords(question.to) })}
          </p>
          <ul className="list-disc pl-5">
            {question.breaks.map((words) => (
              <li key={words}>{inUnits(words, units)}</li>
            ))}
          </ul>
          <div className="mt-2 flex gap-2">
            <Button
              primary
              onClick={() => {
                make.mutate(moved(question.occasion, question.to));
                ask(undefined);
              }}
            >
              {t("moveAnyway")}
            </Button>
            <Button onClick={() => ask(undefined)}>{t("doNotMove")}</Button>
          </div>
        </section>
      ) : null}
      {[make.error, attempt.error].map((error) =>
        error ? (
          <p key={String(error)} className="text-error" role="alert">
            {error.message}
          </p>
        ) : null,
      )}
      {view === "agenda" ? (
        <Agenda sheet={sheet} move={may.edit ? move : undefined} />
      ) : (
        <div className="grid gap-5 xl:grid-cols-[minmax(0,1fr)_20rem]">
          <MonthGrid
            sheet={sheet}
            month={view === "month" ? dayShown.slice(0, 7) : undefined}
            chosen={day}
            choose={choose}
            turn={(day) => go({ on: day })}
            move={may.edit ? move : undefined}
          />
          <DayPanel sheet={sheet} day={day} move={may.edit ? move : undefined} />
        </div>
      )}
      <Closures sheet={sheet} />
      <section className="space-y-2">
        <h2 className="text-lg">{t("inYourOwnCalendar")}</h2>
        <a
          className="link press inline-flex items-center"
          href={`/api/v1/workspaces/${workspaceId}/sites/${siteId}/calendar.ics`}
          download
        >
          {t("calendarFile")}
        </a>
        <Links kind="calendar" address={(token) => `${location.origin}/api/v1/calendars/${token}.ics`} />
      </section>
    </div>
  );
}

const at12 = (iso: string) => new Date(`${iso}T12:00`);

function titleOf(first: string, last: string) {
  const short = (iso: string) => dateFormat({ day: "numeric", month: "short" }).format(at12(iso));
  return `${short(first)} – ${short(last)}`;
}

function monthOf(iso: string) {
  return dateFormat({ month: "long", year: "numeric" }).format(at12(iso));
}

interface Props {
  sheet: CalendarSheet;
  move: ((occasion: Occasion, to: string | null) => void) | undefined;
}

/** Day after day, without those on which nothing falls. */
function Agenda({ sheet, move }: Props) {
  const count = sheet.days.length;
  const days = Array.from({ length: count }, (_, step) => dayAfter(sheet.first, step))
    .map((iso) => ({
      iso,
      // What lasts stands on its first day alone.
      own: on(sheet.occasions, iso).filter((occasion) => occasion.on === iso || iso === sheet.first),
      warnings: sheet.days.find((other) => other.on === iso)?.warnings ?? [],
    }))
    .filter(({ own, warnings }) => own.length > 0 || warnings.length > 0);
  if (days.length === 0) return <p>{t("nothingOnThisDay")}</p>;
  return (
    <ol className="max-w-3xl space-y-3" data-testid="agenda">
      {days.map(({ iso }) => (
        <li key={iso} className="border-t border-base-300 pt-2">
          <DayPanel sheet={sheet} day={iso} move={move} />
        </li>
      ))}
    </ol>
  );
}
