import { createBrowserRouter, Navigate, Outlet, useParams } from "react-router";
import { Account } from "@/features/accounts/Account";
import { Join } from "@/features/accounts/Join";
import { Forgotten, NewPassword, Verify } from "@/features/accounts/Letters";
import { SignIn } from "@/features/accounts/SignIn";
import { SignUp } from "@/features/accounts/SignUp";
import { useSession } from "@/features/accounts/session";
import { Team } from "@/features/accounts/Team";
import { LogPage } from "@/features/log/LogPage";
import { GuessLoad } from "@/features/materials/GuessLoad";
import { Heap } from "@/features/materials/Heap";
import { Materials } from "@/features/materials/Materials";
import { OwnMaterial } from "@/features/materials/OwnMaterial";
import { Parameters } from "@/features/materials/Parameters";
import { QuoteTab } from "@/features/money/QuoteTab";
import { NitrogenPage } from "@/features/nitrogen/NitrogenPage";
import { Compare } from "@/features/recipe/Compare";
import { PracticePage } from "@/features/recipe/PracticePage";
import { SeasonsFrame, SeasonsPage } from "@/features/schedule/SeasonsPage";
import { YearsPage } from "@/features/schedule/YearsPage";
import { SiteFrame } from "@/features/site/SiteFrame";
import { PilesTab } from "@/features/stock/PilesTab";
import { OffersTab } from "@/features/supply/OffersTab";
import { OrderPages } from "@/features/supply/OrderPages";
import { OrderTab } from "@/features/supply/OrderTab";
import { Suppliers } from "@/features/supply/Suppliers";
import { Files } from "@/features/survey/Files";
import { NewSite, SiteSettings } from "@/features/survey/SiteForm";
import { SitePage } from "@/features/survey/SitePage";
import { Sites } from "@/features/survey/Sites";
import { WorkPage } from "@/features/work/WorkPage";
import { t } from "@/texts/app";
import { Loading, Trouble } from "@/ui/states";
import { Frame } from "./Frame";
import { OutageBanner } from "./OutageBanner";

function Shell() {
  return (
    <>
      <OutageBanner />
      <Outlet />
    </>
  );
}

/** Only for people signed in; others sign in first and come back. */
function Members() {
  const session = useSession();
  const { workspaceId } = useParams();
  if (session.isPending) return <Loading what={t("yourRecords")} />;
  if (session.isError) return <Trouble error={session.error} retry={() => session.refetch()} />;
  if (!session.data.user) {
    return (
      <Navigate to={`/sign-in?next=${encodeURIComponent(location.pathname + location.search)}`} replace />
    );
  }
  const known = session.data.workspaces.some((workspace) => workspace.id === workspaceId);
  if (workspaceId && !known) return <NotHere />;
  return <Frame />;
}

function Home() {
  const session = useSession();
  if (session.isPending) return <Loading what={t("yourRecords")} />;
  if (session.isError) return <Trouble error={session.error} retry={() => session.refetch()} />;
  const [first] = session.data.workspaces;
  return (
    <Navigate to={first ? `/w/${first.id}/sites` : session.data.user ? "/account" : "/sign-in"} replace />
  );
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

export const router = createBrowserRouter([
  {
    element: <Shell />,
    errorElement: <Trouble error={null} />,
    children: [
      { path: "/", element: <Home /> },
      { path: "/sign-in", element: <SignIn /> },
      { path: "/sign-up", element: <SignUp /> },
      { path: "/join", element: <Join /> },
      { path: "/forgotten", element: <Forgotten /> },
      { path: "/new-password", element: <NewPassword /> },
      { path: "/verify", element: <Verify /> },
      {
        element: <Members />,
        children: [
          { path: "/account", element: <Account /> },
          {
            path: "/w/:workspaceId",
            children: [
              { index: true, element: <Navigate to="sites" replace /> },
              { path: "team", element: <Team /> },
              { path: "parameters", element: <Parameters /> },
              { path: "practice", element: <PracticePage /> },
              { path: "materials", element: <Materials /> },
              { path: "materials/guess", element: <GuessLoad /> },
              { path: "materials/heap", element: <Heap /> },
              { path: "materials/own/:materialId", element: <OwnMaterial /> },
              { path: "materials/:materialKey", element: <Materials /> },
              { path: "suppliers", element: <Suppliers /> },
              { path: "suppliers/:supplierId", element: <Suppliers /> },
              { path: "sites", element: <Sites /> },
              { path: "sites/new", element: <NewSite /> },
              { path: "sites/:siteId/settings", element: <SiteSettings /> },
              { path: "sites/:siteId/files", element: <Files /> },
              {
                path: "sites/:siteId",
                element: <SiteFrame />,
                children: [
                  { index: true, element: <SitePage /> },
                  { path: "access/:markId", element: <SitePage /> },
                  { path: "plots/:plotId", element: <SitePage /> },
                  {
                    path: "order",
                    element: <OrderPages />,
                    children: [
                      { index: true, element: <OrderTab /> },
                      { path: "offers", element: <OffersTab /> },
                      { path: "piles", element: <PilesTab /> },
                      { path: "quote", element: <QuoteTab /> },
                    ],
                  },
                  { path: "work", element: <WorkPage /> },
                  {
                    path: "seasons",
                    element: <SeasonsFrame />,
                    children: [
                      { index: true, element: <SeasonsPage /> },
                      { path: "years", element: <YearsPage /> },
                    ],
                  },
                  { path: "nitrogen", element: <NitrogenPage /> },
                  { path: "log", element: <LogPage /> },
                ],
              },
              { path: "sites/:siteId/plots/:plotId/compare", element: <Compare /> },
            ],
          },
        ],
      },
      { path: "*", element: <NotHere /> },
    ],
  },
]);
