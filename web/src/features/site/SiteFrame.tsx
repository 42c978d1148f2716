import { ArrowLeft } from "lucide-react";
import { useEffect, useState } from "react";
import { Link, NavLink, Outlet, useLocation, useOutletContext, useParams } from "react-router";
import type { Now } from "@/api/schema.gen";
import { AppMenu } from "@/app/AppMenu";
import { TopBar, wayClass } from "@/app/Frame";
import { useSession } from "@/features/accounts/session";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/site";
import { Loading, Trouble } from "@/ui/states";
import { Units } from "@/ui/units";
import { NextStep } from "./NextStep";
import { PARTS } from "./parts";
import { SeasonStrip } from "./SeasonStrip";

interface Context {
  /** Shows the season with the plot that is being typed; undefined shows it as it is kept. */
  showTyped: (now: Now | undefined) => void;
}

export const useSiteFrame = () => useOutletContext<Context>();

/** The frame of every page of a site: its parts in the order of the job, the strip of the season, the next step. */
export function SiteFrame() {
  const { workspaceId = "", siteId = "" } = useParams();
  const { pathname } = useLocation();
  const { data: session } = useSession();
  const { sheet } = useSite();
  const [typed, showTyped] = useState<Now>();
  const name = sheet.data?.site.name;
  useEffect(() => {
    if (name) document.title = `${name} · Ulmatic`;
  }, [name]);
  if (sheet.isPending) return <Loading what={t("theSite")} />;
  if (sheet.isError) return <Trouble error={sheet.error} retry={() => sheet.refetch()} />;
  const { site, now, steps } = sheet.data;
  const base = `/w/${workspaceId}/sites/${siteId}`;
  const writing = /\/(plots|access|settings)\b/.test(pathname);
  const menu = [
    { key: "files", label: t("files"), href: `${base}/files` },
    { key: "settings", label: t("settingsOfTheSite"), href: `${base}/settings` },
  ];
  return (
    <Units value={session?.user?.units ?? site.units}>
      <div className="flex min-h-dvh flex-col pb-14 lg:h-dvh lg:pb-0">
        <TopBar menu={<AppMenu site={menu} />}>
          <Link to={`/w/${workspaceId}/sites`} className="btn btn-ghost press min-w-0 justify-start px-2">
            <ArrowLeft size={18} className="shrink-0" aria-hidden />
            <span className="sr-only">{t("backToSites")}</span>
            <span className="display max-w-40 truncate text-lg sm:max-w-64">{site.name}</span>
          </Link>
          <nav className="hidden h-full lg:flex" aria-label={t("partsOfTheSite")}>
            {PARTS.map(({ path, label }) => (
              <NavLink key={path} to={`${base}${path}`} end={path === ""} className={wayClass}>
                {label}
              </NavLink>
            ))}
          </nav>
        </TopBar>
        <SeasonStrip now={typed ?? now} typing={typed !== undefined} assumed={sheet.data.climate_assumed} />
        {writing ? null : <NextStep steps={steps} />}
        <main id="main" className="min-h-0 grow lg:overflow-y-auto">
          <Outlet context={{ showTyped } satisfies Context} />
        </main>
        <nav
          className="fixed inset-x-0 bottom-0 z-20 grid h-14 grid-cols-6 border-t border-base-300 bg-base-100 lg:hidden print:hidden"
          aria-label={t("partsOfTheSite")}
        >
          {PARTS.map(({ path, label, icon: Icon }) => (
            <NavLink
              key={path}
              to={`${base}${path}`}
              end={path === ""}
              className={({ isActive }) =>
                `flex flex-col items-center justify-center border-t-3 text-xs ${isActive ? "border-primary font-semibold" : "border-transparent"}`
              }
            >
              <Icon size={20} aria-hidden /> {label}
            </NavLink>
          ))}
        </nav>
      </div>
    </Units>
  );
}
