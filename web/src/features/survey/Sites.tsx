import { useMutation, useQuery } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { Link, useNavigate, useParams } from "react-router";
import { apiOfWorkspace } from "@/api/client";
import { sendArchive } from "@/api/files";
import { useRequests } from "@/api/requests";
import type { AllSites } from "@/api/schema.gen";
import { useStale } from "@/api/stale";
import { useMay, useSession, useWorkspaceUnits } from "@/features/accounts/session";
import { costOf } from "@/features/site/season";
import { t } from "@/texts/survey";
import { FileButton } from "@/ui/FileChoice";
import { money, valueText } from "@/ui/format";
import { about, aboutArea } from "@/ui/precision";
import { Scroll } from "@/ui/Scroll";
import { Sentence } from "@/ui/Sentence";
import { Empty, Loading, Trouble } from "@/ui/states";
import { type Column, Table } from "@/ui/Table";

export function Sites() {
  const { workspaceId = "" } = useParams();
  const { workspaceApi } = useRequests();
  const may = useMay();
  const { data: session } = useSession();
  const sites = useQuery({
    queryKey: ["sites", workspaceId],
    queryFn: () => workspaceApi.get("/sites"),
  });
  // An empty list that is being fetched again may be out of date; “No site yet” is said only when it is known.
  const unsure = sites.isFetching && sites.data?.length === 0;
  if (sites.isPending || unsure) return <Loading what={t("yourSites")} />;
  if (sites.isError) return <Trouble error={sites.error} retry={() => sites.refetch()} />;
  const bring = may.edit ? <BringArchive workspaceId={workspaceId} /> : null;
  const add = may.edit ? (
    <Link to="new" className="btn btn-primary press" data-key="n">
      <Plus size={18} /> {t("newSite")}
    </Link>
  ) : null;
  if (sites.data.length === 0) {
    return (
      <Empty title={t("noSitesYet")}>
        <p className="max-w-prose">{t("aSiteIsOnePlaceWith")}</p>
        <div className="flex flex-wrap gap-2">
          {add}
          {bring}
        </div>
      </Empty>
    );
  }
  return (
    <div className="mx-auto max-w-4xl p-4 sm:p-6">
      <div className="mb-4 flex items-center justify-between gap-4">
        <h1 className="text-3xl">{t("sites")}</h1>
        <div className="flex flex-wrap justify-end gap-2">
          {bring}
          {add}
        </div>
      </div>
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {sites.data.map(({ site, plots, area_m2, now }) => {
          const units = session?.user?.units ?? site.units;
          return (
            <li key={site.id}>
              <Link
                to={site.id}
                className="grid grid-cols-[1fr_auto] items-baseline gap-x-6 gap-y-1 px-2 py-4 hover:bg-base-100"
              >
                <span className="display text-xl">{site.name}</span>
                <span className="display text-right text-xl">
                  {now.order.length === 0
                    ? t("nothingToOrder")
                    : now.loads > 0
                      ? t("loads", { count: now.loads })
                      : about(now.ordered_m3, units)}
                </span>
                <span className="text-base-content/75">
                  {t("plots", { count: plots })}, {aboutArea(area_m2, units)}
                </span>
                <span className="text-right text-base-content/75">
                  {t("needed", {
                    season: now.season,
                    volume: about(now.needed_m3, units),
                    hours: valueText(now.hours, "h", units),
                    cost: costOf(now),
                  })}
                </span>
              </Link>
            </li>
          );
        })}
      </ul>
      <ComingYears workspaceId={workspaceId} />
    </div>
  );
}

interface Volumes {
  name: string;
  /** By year. */
  volumes_m3: number[];
  /** Whether it is the sum of the sites, or what is likely to come for them. */
  sum?: boolean;
  supply?: boolean;
}

/** What all sites together take in coming years. */
function ComingYears({ workspaceId }: { workspaceId: string }) {
  const units = useWorkspaceUnits();
  const demand = useQuery({
    queryKey: ["seasons", workspaceId, "all"],
    queryFn: () => apiOfWorkspace(workspaceId).get("/years"),
  });
  if (!demand.data || demand.data.sites.length === 0) return null;
  const { years, sites, total_m3, supply_m3, breaks_in, seasons } = demand.data;
  return (
    <section className="mt-8" data-testid="coming-years">
      <h2 className="text-xl">{t("comingYearsAllSites")}</h2>
      <Scroll label={t("comingYearsAllSites")}>
        <Table
          rows={[
            ...sites.map(({ name, volumes_m3 }): Volumes => ({ name, volumes_m3 })),
            { name: t("allSites"), volumes_m3: total_m3, sum: true },
            { name: t("likelyToCome"), volumes_m3: years.map(() => supply_m3), supply: true },
          ]}
          columns={[
            [t("looseChips"), ({ name, sum }) => (sum ? <strong>{name}</strong> : name)],
            ...years.map(
              (year, at): Column<Volumes> => [
                at === 0 ? t("restOf", { year }) : year,
                ({ volumes_m3, sum, supply }) => {
                  const short = supply && (total_m3[at] ?? 0) > supply_m3 + 0.05;
                  const look = short ? "font-semibold text-error" : sum ? "font-semibold" : "";
                  return <span className={look}>{about(volumes_m3[at] ?? 0, units)}</span>;
                },
              ],
            ),
          ]}
        />
      </Scroll>
      {breaks_in ? (
        <p className="mt-2 border-l-4 border-warning pl-3" data-testid="all-breaks">
          {t("inAllSitesTogetherNeedMore", { breaksIn: breaks_in })}
        </p>
      ) : null}
      <Scroll label={t("season")}>
        <Table
          className="mt-4 w-full"
          testId="all-seasons"
          rows={seasons}
          columns={[
            [t("season"), (season) => season.name],
            [
              t("neededHeading"),
              (season) =>
                Object.entries(season.by_material)
                  .map(([name, m3]) => t("ofWithVolume", { volume: about(m3, units), name: name.toLowerCase() }))
                  .join(", "),
              "words",
            ],
            [t("loadsHeading"), (season) => season.loads],
            [t("work"), (season) => valueText(season.hours, "h", units)],
            [t("cost"), costsOf],
          ]}
        />
      </Scroll>
    </section>
  );
}

/** What a season costs, by currency. */
function costsOf({ costs, costs_known }: AllSites["seasons"][number]) {
  const sums = Object.entries(costs).map(([currency, cost]) => money(Number(cost), currency));
  if (sums.length === 0) return costs_known ? t("free") : t("priceUnknown");
  return `${sums.join(" + ")}${costs_known ? "" : t("someUnknown")}`;
}

/** Makes a site from an archive that was taken out here or elsewhere. */
function BringArchive({ workspaceId }: { workspaceId: string }) {
  const refresh = useStale("sites");
  const navigate = useNavigate();
  const bring = useMutation({
    retry: false,
    mutationFn: (file: File) => sendArchive(workspaceId, crypto.randomUUID(), file),
    onSuccess: async (site) => {
      await refresh();
      navigate(site.id);
    },
  });
  return (
    <div>
      <FileButton className="" accept=".json" take={bring.mutate}>
        {t("importAnArchive")}
      </FileButton>
      <Sentence className="mt-1 max-w-64 text-sm" text={bring.error?.message} />
    </div>
  );
}
