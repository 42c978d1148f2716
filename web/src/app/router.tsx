import { createBrowserRouter, Navigate, Outlet, type RouteObject, useParams } from "react-router";
import { SignIn } from "@/features/accounts/SignIn";
import { SignUp } from "@/features/accounts/SignUp";
import { useSession } from "@/features/accounts/session";
import { t } from "@/texts/app";
import { turnClock } from "@/ui/clock";
import { Loading, Trouble } from "@/ui/states";
import { OutageBanner } from "./OutageBanner";
import { page } from "./Page";

function Shell() {
  return (
    <>
      <OutageBanner />
      <Outlet />
    </>
  );
}

const frame = page(() => import("./Frame"), "Frame");

/** Only for people signed in; others sign in first and come back. */
function Members() {
  const session = useSession();
  const { workspaceId } = useParams();
  if (session.isPending) return <Loading what={t("yourRecords")} />;
  if (session.isError) return <Trouble error={session.error} retry={() => session.refetch()} />;
  if (!session.data.user) {
    return <Navigate to={`/sign-in?next=${encodeURIComponent(location.pathname + location.search)}`} replace />;
  }
  const workspace = session.data.workspaces.find((member) => member.id === workspaceId);
  if (workspaceId && !workspace) return <NotHere />;
  turnClock(workspace?.clock_ahead_s ?? 0);
  return frame.element;
}

function Home() {
  const session = useSession();
  if (session.isPending) return <Loading what={t("yourRecords")} />;
  if (session.isError) return <Trouble error={session.error} retry={() => session.refetch()} />;
  const [first] = session.data.workspaces;
  return <Navigate to={first ? `/w/${first.id}/today` : session.data.user ? "/account" : "/sign-in"} replace />;
}

function NotHere() {
  return (
    <main className="p-6">
      <h1 className="text-2xl">{t("thereIsNothingAtThisAddress")}</h1>
      <p className="my-3">{t("itMayHaveBeenDeletedOr")}</p>
      <a className="btn btn-primary press" href="/">
        {t("goToYourSites")}
      </a>
    </main>
  );
}

const letters = () => import("@/features/accounts/Letters");
const parts = () => import("@/features/site/partPages");
const seasons = () => import("@/features/schedule/SeasonsPage");
// One element for three addresses: choosing a plot does not draw the plan anew.
const ground = page(() => import("@/features/survey/SitePage"), "SitePage");
const materials = page(() => import("@/features/materials/Materials"), "Materials");
const suppliers = page(() => import("@/features/supply/Suppliers"), "Suppliers");

const everybody: RouteObject[] = [
  { path: "/", element: <Home /> },
  { path: "/sign-in", element: <SignIn /> },
  { path: "/sign-up", element: <SignUp /> },
  { path: "/join", ...page(() => import("@/features/accounts/Join"), "Join") },
  { path: "/forgotten", ...page(letters, "Forgotten") },
  { path: "/new-password", ...page(letters, "NewPassword") },
  { path: "/verify", ...page(letters, "Verify") },
  { path: "/client", ...page(() => import("@/features/money/ClientPage"), "ClientPage") },
  { path: "/field", ...page(() => import("@/features/log/field/FieldPage"), "FieldPage") },
];

const ofWorkspace: RouteObject[] = [
  { index: true, element: <Navigate to="today" replace /> },
  { path: "today", ...page(() => import("@/features/work/TodayPage"), "TodayPage") },
  { path: "team", ...page(() => import("@/features/accounts/Team"), "Team") },
  { path: "parameters", ...page(() => import("@/features/materials/Parameters"), "Parameters") },
  { path: "practice", ...page(() => import("@/features/recipe/PracticePage"), "PracticePage") },
  { path: "materials", ...materials },
  { path: "materials/guess", ...page(() => import("@/features/materials/GuessLoad"), "GuessLoad") },
  { path: "materials/pile", ...page(() => import("@/features/materials/PileMix"), "PileMix") },
  {
    path: "materials/own/:materialId",
    ...page(() => import("@/features/materials/OwnMaterial"), "OwnMaterial"),
  },
  { path: "materials/:materialKey", ...materials },
  { path: "suppliers", ...suppliers },
  { path: "suppliers/:supplierId", ...suppliers },
  { path: "sites", ...page(() => import("@/features/survey/Sites"), "Sites") },
  { path: "sites/new", ...page(() => import("@/features/survey/NewSite"), "NewSite") },
];

const ofOrder: RouteObject[] = [
  { index: true, ...page(() => import("@/features/supply/OrderTab"), "OrderTab") },
  { path: "offers", ...page(() => import("@/features/supply/OffersTab"), "OffersTab") },
  { path: "piles", ...page(() => import("@/features/stock/PilesTab"), "PilesTab") },
  { path: "quote", ...page(() => import("@/features/money/QuoteTab"), "QuoteTab") },
];

const ofWork: RouteObject[] = [
  { index: true, ...page(() => import("@/features/work/WorkPage"), "WorkPage") },
  { path: "tasks", ...page(() => import("@/features/work/TasksPage"), "TasksPage") },
  { path: "calendar", ...page(() => import("@/features/work/CalendarPage"), "CalendarPage") },
  { path: "rows", ...page(() => import("@/features/work/RowsPage"), "RowsPage") },
  { path: "machines", ...page(() => import("@/features/work/MachinesPage"), "MachinesPage") },
];

const ofSeasons: RouteObject[] = [
  { index: true, ...page(seasons, "SeasonsPage") },
  { path: "years", ...page(() => import("@/features/schedule/YearsPage"), "YearsPage") },
];

const ofLog: RouteObject[] = [
  { index: true, ...page(() => import("@/features/log/LogPage"), "LogPage") },
  { path: "learning", ...page(() => import("@/features/log/LearningPage"), "LearningPage") },
  { path: "past", ...page(() => import("@/features/log/PastPage"), "PastPage") },
];

const ofSite: RouteObject[] = [
  { index: true, ...ground },
  { path: "access/:markId", ...ground },
  { path: "plots/:plotId", ...ground },
  { path: "plots/:plotId/compare", ...page(() => import("@/features/recipe/Compare"), "Compare") },
  { path: "order", ...page(parts, "OrderPages"), children: ofOrder },
  { path: "work", ...page(parts, "WorkPages"), children: ofWork },
  { path: "seasons", ...page(seasons, "SeasonsFrame"), children: ofSeasons },
  { path: "nitrogen", ...page(() => import("@/features/nitrogen/NitrogenPage"), "NitrogenPage") },
  { path: "log", ...page(parts, "LogPages"), children: ofLog },
  { path: "files", ...page(() => import("@/features/survey/Files"), "Files") },
  { path: "settings", ...page(() => import("@/features/survey/SiteSettings"), "SiteSettings") },
];

const members: RouteObject[] = [
  {
    ...page(() => import("./Frame"), "WorkspaceFrame"),
    children: [
      { path: "/account", ...page(() => import("@/features/accounts/Account"), "Account") },
      { path: "/w/:workspaceId", children: ofWorkspace },
    ],
  },
  {
    path: "/w/:workspaceId/sites/:siteId",
    ...page(() => import("@/features/site/SiteFrame"), "SiteFrame"),
    children: ofSite,
  },
];

export const router = createBrowserRouter([
  {
    element: <Shell />,
    errorElement: <Trouble error={null} />,
    children: [
      ...everybody,
      { element: <Members />, handle: frame.handle, children: members },
      { path: "*", element: <NotHere /> },
    ],
  },
]);
