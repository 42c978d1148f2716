import { Moon, Sun } from "lucide-react";
import { Link, NavLink, Outlet, useParams } from "react-router";
import { useSession, useSignOut } from "@/features/accounts/session";
import { t } from "@/texts/app";
import { UndoOffer } from "@/ui/undo";
import { WorkingSheet } from "@/ui/working";
import { Keys } from "./keys";
import { Mark } from "./Mark";
import { useTheme } from "./theme";

const LAST = "ulmatic.workspace";

/** The header with its ways through the application, round every page of people signed in. */
export function Frame() {
  const { data: session } = useSession();
  const { workspaceId } = useParams();
  const signOut = useSignOut();
  const { dark, toggle } = useTheme();
  if (workspaceId) localStorage.setItem(LAST, workspaceId);
  const workspaces = session?.workspaces ?? [];
  const here = workspaceId ?? localStorage.getItem(LAST);
  const workspace = workspaces.find((workspace) => workspace.id === here) ?? workspaces[0];
  const home = workspace ? `/w/${workspace.id}/sites` : "/account";
  const tab = ({ isActive }: { isActive: boolean }) =>
    `press inline-flex items-center border-b-3 px-2 pt-0.5 sm:px-3 ${isActive ? "border-primary font-semibold" : "border-transparent hover:border-base-300"}`;
  return (
    <WorkingSheet>
      <UndoOffer>
        <a href="#main" className="btn btn-primary absolute -top-20 left-2 z-40 focus:top-2">
          {t("skipToThePage")}
        </a>
        <div className="flex min-h-dvh flex-col lg:h-dvh">
          <header className="flex h-14 shrink-0 items-center gap-1 border-b border-base-300 bg-base-100 px-2 sm:gap-3 sm:px-4 print:hidden">
            <Link to={home} className="press mr-1 flex items-center gap-2" aria-label={t("ulmaticYourSites")}>
              <Mark />
              <span className="display hidden text-xl sm:inline">{t("ulmatic")}</span>
            </Link>
            <nav className="flex h-full" aria-label={t("main")}>
              {workspace ? (
                <>
                  <NavLink to={home} className={tab}>
                    {t("sites")}
                  </NavLink>
                  <NavLink to={`/w/${workspace.id}/materials`} className={tab}>
                    {t("materials")}
                  </NavLink>
                  <NavLink
                    to={`/w/${workspace.id}/suppliers`}
                    className={(state) => `${tab(state)} max-sm:hidden`}
                  >
                    {t("suppliers")}
                  </NavLink>
                  <NavLink
                    to={`/w/${workspace.id}/practice`}
                    className={(state) => `${tab(state)} max-sm:hidden`}
                  >
                    {t("practice")}
                  </NavLink>
                  <NavLink
                    to={`/w/${workspace.id}/team`}
                    className={(state) => `${tab(state)} max-sm:hidden`}
                  >
                    {t("team")}
                  </NavLink>
                </>
              ) : null}
            </nav>
            <span className="grow" />
            <Keys />
            <button
              type="button"
              className="btn btn-ghost btn-square press"
              onClick={toggle}
              aria-label={dark ? t("useTheLightTheme") : t("useTheDarkTheme")}
              title={dark ? t("lightTheme") : t("darkTheme")}
            >
              {dark ? <Sun size={20} /> : <Moon size={20} />}
            </button>
            <details className="dropdown dropdown-end">
              <summary className="btn btn-ghost press max-w-36 sm:max-w-64">
                <span className="truncate">{session?.user?.name}</span>
              </summary>
              <ul className="menu dropdown-content z-20 mt-1 w-64 rounded-box border border-base-300 bg-base-100 p-2 shadow-lg">
                {workspaces.map((other) => (
                  <li key={other.id}>
                    <Link
                      to={`/w/${other.id}/sites`}
                      className="press"
                      aria-current={other.id === workspace?.id}
                    >
                      <span className="grow">{other.name}</span>
                      <span className="text-sm text-base-content/70">{other.role}</span>
                    </Link>
                  </li>
                ))}
                {workspace
                  ? ["suppliers", "practice", "team"].map((page) => (
                      <li key={page} className="sm:hidden">
                        <Link to={`/w/${workspace.id}/${page}`} className="press capitalize">
                          {page}
                        </Link>
                      </li>
                    ))
                  : null}
                {workspace ? (
                  <li>
                    <Link to={`/w/${workspace.id}/parameters`} className="press">
                      {t("parametersAndSources")}
                    </Link>
                  </li>
                ) : null}
                <li>
                  <Link to="/account" className="press">
                    {t("accountAndUnits")}
                  </Link>
                </li>
                <li>
                  <button type="button" className="press" onClick={() => signOut.mutate()}>
                    {t("signOut")}
                  </button>
                </li>
              </ul>
            </details>
          </header>
          <main id="main" className="min-h-0 grow">
            <Outlet />
          </main>
        </div>
      </UndoOffer>
    </WorkingSheet>
  );
}
