import { useQuery } from "@tanstack/react-query";
import { Link, Navigate, useParams } from "react-router";
import { useRequests } from "@/api/requests";
import type { Occasion, SharedDay, SiteToday } from "@/api/schema.gen";
import { t } from "@/texts/work";
import { valueText } from "@/ui/format";
import { inUnits } from "@/ui/precision";
import { Loading, Trouble } from "@/ui/states";
import { useUnits } from "@/ui/units";
import { dayWords } from "./days";
import { OccasionLine } from "./OccasionLine";

/** What falls on today and the coming days at each site. */
export function TodayPage() {
  const { workspaceId = "" } = useParams();
  const { workspaceApi } = useRequests();
  const sheet = useQuery({
    queryKey: ["supply", workspaceId, "today"],
    queryFn: () => workspaceApi.get("/today"),
  });
  if (sheet.isPending) return <Loading what={t("today")} />;
  if (sheet.isError) return <Trouble error={sheet.error} retry={() => sheet.refetch()} />;
  const { sites, shared } = sheet.data;
  // Who has one site, or none yet, begins there.
  if (sites.length < 2) return <Navigate to={`/w/${workspaceId}/sites`} replace />;
  const first = sites[0]?.today;
  const acts = sites.reduce((count, site) => count + actsOn(site, site.today).length, 0);
  return (
    <div className="mx-auto max-w-4xl space-y-5 p-4 sm:p-6" data-testid="today">
      <header>
        <h1 className="display text-4xl">{first ? dayWords(first) : t("today")}</h1>
        <p>{t("dueToday", { count: acts })}</p>
      </header>
      <Shared days={shared} />
      {sites.map((site) => (
        <Site key={site.site_id} site={site} />
      ))}
    </div>
  );
}

/** Days on which several sites want people: each site plans as if all of them came there. */
function Shared({ days }: { days: SharedDay[] }) {
  const units = useUnits();
  if (days.length === 0) return null;
  return (
    <section className="border-l-4 border-warning pl-3" data-testid="shared">
      <h2 className="text-lg">{t("severalSitesOnOneDay")}</h2>
      <ul>
        {days.map((day) => (
          <li key={day.on}>
            {t("hoursAtSites", {
              day: dayWords(day.on),
              hours: valueText(day.hours, "h", units),
              sites: day.sites.join(", "),
            })}
          </li>
        ))}
      </ul>
      <p className="text-sm text-base-content/75">{t("eachSitePlansAlone")}</p>
    </section>
  );
}

/** What somebody does on a day; seasons and closures last. */
const LASTING: Occasion["kind"][] = ["season", "closure"];
const actsOn = (site: SiteToday, day: string) =>
  site.occasions.filter((occasion) => !LASTING.includes(occasion.kind) && occasion.on === day);

function Site({ site }: { site: SiteToday }) {
  const units = useUnits();
  const { workspaceId } = useParams();
  const lasting = site.occasions.filter((occasion) => LASTING.includes(occasion.kind) && occasion.on <= site.today);
  const days = [...new Set(site.occasions.map((occasion) => occasion.on))]
    .filter((iso) => iso >= site.today && actsOn(site, iso).length > 0)
    .sort();
  const base = `/w/${workspaceId}/sites/${site.site_id}`;
  return (
    <section className="border-t-2 border-base-content pt-2">
      <h2 className="text-2xl">
        <Link className="link-hover" to={base}>
          {site.name}
        </Link>
      </h2>
      <Link className="link press inline-flex items-center" to={`${base}/work/calendar`}>
        {t("calendarPage")}
      </Link>
      {lasting.length > 0 ? (
        <p className="text-sm text-base-content/75">
          {lasting.map((occasion) => inUnits(occasion.words, units)).join(" · ")}
        </p>
      ) : null}
      {days.length === 0 ? <p className="py-2">{t("nothingWithinTwoWeeks")}</p> : null}
      <ol className="space-y-2 pt-1">
        {days.map((iso) => (
          <li key={iso} className="grid gap-x-4 sm:grid-cols-[11rem_minmax(0,1fr)]">
            <span className={iso === site.today ? "font-bold" : "text-base-content/75"}>
              {iso === site.today ? t("today") : dayWords(iso)}
            </span>
            <ul className="space-y-1">
              {actsOn(site, iso).map((occasion) => (
                <li key={occasion.key}>
                  <OccasionLine occasion={occasion} />
                  {(occasion.details ?? []).length > 0 ? (
                    <span className="block pl-6 text-sm text-base-content/75">
                      {(occasion.details ?? []).map((words) => inUnits(words, units)).join(" · ")}
                    </span>
                  ) : null}
                </li>
              ))}
              {(site.warnings[iso] ?? []).map((words) => (
                <li key={words} className="border-l-4 border-warning pl-2 text-sm">
                  {inUnits(words, units)} <span className="text-base-content/75">{t("simulatedOutlook")}</span>
                </li>
              ))}
            </ul>
          </li>
        ))}
      </ol>
    </section>
  );
}
