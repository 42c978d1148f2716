import { useQueryClient } from "@tanstack/react-query";
import { ArrowLeft } from "lucide-react";
import { type ReactNode, Suspense, useEffect, useState } from "react";
import { Link, NavLink, Outlet, useLocation, useParams } from "react-router";
import type { SiteSheet } from "@/api/schema.gen";
import { t } from "@/texts/app";
import { lazily } from "@/ui/lazily";
import { onFirstOffer } from "@/ui/undo";
import { WorkingSheet } from "@/ui/working";
import { AppMenu } from "./AppMenu";
import { LAST, useHere } from "./here";
import { useKeys } from "./keys";
import { Mark } from "./Mark";
import { Round } from "./round";

const KeysSheet = lazily(() => import("./KeysSheet"), "KeysSheet");
const Messages = lazily(() => import("@/ui/Messages"), "Messages");

/** What stands round every page of people signed in: keys, workings, messages, and the guided round. */
export function Frame() {
  const { workspaceId } = useParams();
  const keys = useKeys();
  const [messages, setMessages] = useState(false);
  useEffect(() => onFirstOffer(() => setMessages(true)), []);
  useEffect(() => {
    if (workspaceId) localStorage.setItem(LAST, workspaceId);
  }, [workspaceId]);
  return (
    <WorkingSheet>
      <a href="#main" className="btn btn-primary absolute -top-20 left-2 z-40 focus:top-2">
        {t("skipToContent")}
      </a>
      <Outlet context={keys.show} />
      <Round />
      {keys.open ? (
        <Suspense>
          <KeysSheet close={keys.close} />
        </Suspense>
      ) : null}
      {messages ? (
        <Suspense>
          <Messages />
        </Suspense>
      ) : null}
    </WorkingSheet>
  );
}

/** The one line at the top of a page: where somebody is, the ways on, and the menu. */
export function TopBar({ children, menu }: { children: ReactNode; menu: ReactNode }) {
  return (
    <header className="flex h-13 shrink-0 items-center gap-1 border-b border-base-300 bg-base-100 px-1 sm:gap-2 sm:px-3 print:hidden">
      {children}
      <span className="grow" />
      {menu}
    </header>
  );
}

export const wayClass = ({ isActive }: { isActive: boolean }) =>
  `press inline-flex h-full shrink-0 items-center border-b-3 px-2 pt-0.5 whitespace-nowrap sm:px-3 ${isActive ? "border-primary font-semibold" : "border-transparent hover:border-base-300"}`;

/** The frame of the pages of a workspace: sites, materials, suppliers and the rest. */
export function WorkspaceFrame() {
  const workspace = useHere();
  const base = workspace ? `/w/${workspace.id}` : "";
  const pages: [string, string][] = [
    ["today", t("today")],
    ["sites", t("sites")],
    ["materials", t("materials")],
    ["suppliers", t("suppliers")],
  ];
  return (
    <div className="flex min-h-dvh flex-col lg:h-dvh">
      <TopBar menu={<AppMenu />}>
        <NavLink
          to={workspace ? `${base}/sites` : "/account"}
          className="press mx-1 flex items-center gap-2"
          aria-label={t("ulmaticYourSites")}
        >
          <Mark />
          <span className="display hidden text-xl sm:inline">{t("ulmatic")}</span>
        </NavLink>
        {workspace ? (
          <nav className="flex h-full" aria-label={t("workspace")}>
            {pages.map(([page, words]) => (
              <NavLink key={page} to={`${base}/${page}`} className={wayClass}>
                {words}
              </NavLink>
            ))}
          </nav>
        ) : null}
      </TopBar>
      {workspace ? <BackToSite workspaceId={workspace.id} /> : null}
      <main id="main" className="min-h-0 grow lg:overflow-y-auto">
        <Outlet />
      </main>
    </div>
  );
}

/** From a page of the workspace back to the site that was looked at last. */
function BackToSite({ workspaceId }: { workspaceId: string }) {
  const { pathname } = useLocation();
  const cache = useQueryClient();
  const looked = cache
    .getQueryCache()
    .findAll({ queryKey: ["site", workspaceId] })
    .filter((query) => query.state.status === "success")
    .sort((a, b) => b.state.dataUpdatedAt - a.state.dataUpdatedAt)[0];
  const site = (looked?.state.data as SiteSheet | undefined)?.site;
  if (!site || pathname.endsWith("/sites")) return null;
  return (
    <Link
      to={`/w/${workspaceId}/sites/${site.id}`}
      className="link press mx-4 inline-flex shrink-0 items-center gap-1 pt-2 sm:mx-6 print:hidden"
    >
      <ArrowLeft size={16} aria-hidden /> {t("backToSite", { name: site.name })}
    </Link>
  );
}
