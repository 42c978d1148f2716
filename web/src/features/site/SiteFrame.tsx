import { ArrowLeft, FileDown, Settings2 } from "lucide-react";
import { useState } from "react";
import { Link, NavLink, Outlet, useOutletContext, useParams } from "react-router";
import type { Now } from "@/api/schema.gen";
import { useSession } from "@/features/accounts/session";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/site";
import { Loading, Trouble } from "@/ui/states";
import { Units } from "@/ui/units";
import { SeasonStrip } from "./SeasonStrip";

const PARTS = [
  ["", t("ground")],
  ["/order", t("order")],
  ["/work", t("work")],
  ["/seasons", t("seasons")],
  ["/nitrogen", t("nitrogen")],
  ["/log", t("log")],
] as const;

interface Context {
  /** Shows the season with the plot that is being typed; undefined shows it as it is kept. */
  showTyped: (now: Now | undefined) => void;
}

export const useSiteFrame = () => useOutletContext<Context>();

/** The head of every page of a site: its parts in the order of the job, and the strip of the season. */
export function SiteFrame() {
  const { workspaceId = "", siteId = "" } = useParams();
  const { data: session } = useSession();
  const { sheet } = useSite();
  const [typed, showTyped] = useState<Now>();
  if (sheet.isPending) return <Loading what={t("theSite")} />;
  if (sheet.isError) return <Trouble error={sheet.error} retry={() => sheet.refetch()} />;
  const { site, now } = sheet.data;
  const back = `/w/${workspaceId}/sites/${siteId}`;
  const tab = ({ isActive }: { isActive: boolean }) =>
    `press inline-flex shrink-0 items-center border-b-3 px-3 pt-0.5 whitespace-nowrap ${isActive ? "border-primary font-semibold" : "border-transparent hover:border-base-300"}`;
  return (
    <Units value={session?.user?.units ?? site.units}>
      <div className="flex h-full flex-col">
        <header className="flex flex-wrap items-center gap-x-2 border-b border-base-300 bg-base-100 px-2 sm:px-3 print:hidden">
          <Link
            to={`/w/${workspaceId}/sites`}
            className="btn btn-ghost press -ml-1 max-w-64"
            title={t("backToTheSites")}
          >
            <ArrowLeft size={18} /> <h1 className="truncate text-lg">{site.name}</h1>
          </Link>
          <nav
            className="-mx-2 order-last flex w-screen overflow-x-auto sm:order-none sm:mx-0 sm:w-auto sm:grow"
            aria-label={t("site")}
          >
            {PARTS.map(([part, words]) => (
              <NavLink key={part} to={`${back}${part}`} end={part === ""} className={tab}>
                {words}
              </NavLink>
            ))}
          </nav>
          <span className="ml-auto flex">
            <Link to={`${back}/files`} className="btn btn-ghost btn-square press" title={t("filesInAndOut")}>
              <FileDown size={18} /> <span className="sr-only">{t("files")}</span>
            </Link>
            <Link
              to={`${back}/settings`}
              className="btn btn-ghost btn-square press"
              title={t("loadSpareBarrowUnitsLocationClimate")}
            >
              <Settings2 size={18} /> <span className="sr-only">{t("settings")}</span>
            </Link>
          </span>
        </header>
        <SeasonStrip now={typed ?? now} typing={typed !== undefined} assumed={sheet.data.climate_assumed} />
        <div className="min-h-0 grow lg:overflow-y-auto">
          <Outlet context={{ showTyped } satisfies Context} />
        </div>
      </div>
    </Units>
  );
}
