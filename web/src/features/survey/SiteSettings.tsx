import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, result } from "@/api/client";
import type { SiteEntry, SiteOut, UnitSystem } from "@/api/schema.gen";
import { useStale } from "@/api/stale";
import { useMay } from "@/features/accounts/session";
import { Laid, type LaidTexts } from "@/features/recipe/Laid";
import { known } from "@/features/recipe/PracticeChoice";
import { PageHead } from "@/features/site/PageHead";
import { t } from "@/texts/survey";
import { ChoiceBox } from "@/ui/ChoiceBox";
import { FieldFrame, TextField } from "@/ui/Field";
import { useFields } from "@/ui/fields";
import { barrow, PLACEHOLDER, share, volume } from "@/ui/format";
import { Sentence } from "@/ui/Sentence";
import { Loading, Trouble } from "@/ui/states";
import { useUndo } from "@/ui/undo";
import { ClimateFields, type ClimateTexts, climateEntry, climateOf } from "./ClimateFields";
import { useSite } from "./site";

type Entry = ClimateTexts &
  LaidTexts & {
    name: string;
    units: UnitSystem;
    load_m3: string;
    load_least_m3: string;
    load_most_m3: string;
    barrow_m3: string;
    spare: string;
    north: string;
    location_deg: string;
    time_zone: string;
  };

const STARTS: Record<
  UnitSystem,
  Pick<Entry, "load_m3" | "load_least_m3" | "load_most_m3" | "barrow_m3" | "spare" | "north" | "location_deg">
> = {
  metric: {
    load_m3: "10 m3",
    load_least_m3: "",
    load_most_m3: "",
    barrow_m3: "100 L",
    spare: "",
    north: "0",
    location_deg: "",
  },
  us: {
    load_m3: t("n12CuYd"),
    load_least_m3: "",
    load_most_m3: "",
    barrow_m3: t("n6CuFt"),
    spare: "",
    north: "0",
    location_deg: "",
  },
};

function entryOf(site: SiteOut): Entry {
  const typed = site.typed as Record<string, string | undefined>;
  return {
    name: site.name,
    units: site.units,
    load_m3: typed.load_m3 ?? volume(site.load_m3, site.units),
    load_least_m3: typed.load_least_m3 ?? (site.load_least_m3 ? volume(site.load_least_m3, site.units) : ""),
    load_most_m3: typed.load_most_m3 ?? (site.load_most_m3 ? volume(site.load_most_m3, site.units) : ""),
    barrow_m3: typed.barrow_m3 ?? barrow(site.barrow_m3, site.units),
    spare: typed.spare ?? (site.spare === null ? "" : share(site.spare)),
    north: String(site.north_deg),
    location_deg: site.location_deg?.join(", ") ?? "",
    time_zone: site.time_zone,
    ...climateOf(site),
    material: site.material ?? "",
    fire_district: site.fire_district,
    practice: known(site.practice),
  };
}

/** The time zones there are, with the one that is kept. */
function zones(stored: string) {
  const all = Intl.supportedValuesOf("timeZone");
  return [...new Set(["UTC", stored, ...all])];
}

/** What is sent for a site. */
export function siteEntry(entry: Entry): SiteEntry {
  const { north, climate, southern, temperatures_c, rain_mm, ...rest } = entry;
  const sent = climateEntry({ climate, southern, temperatures_c, rain_mm }) as SiteEntry["climate"];
  return {
    ...rest,
    load_least_m3: rest.load_least_m3.trim() || null,
    load_most_m3: rest.load_most_m3.trim() || null,
    spare: rest.spare.trim() || null,
    material: entry.material || null,
    climate: sent,
    north_deg: Number(north.replace(",", ".")),
  };
}

function Fields({
  entry,
  stored,
  change,
  errorAt,
}: {
  entry: Entry;
  stored?: SiteOut;
  change: (next: Partial<Entry>) => void;
  errorAt: (name: string) => string | undefined;
}) {
  const set = (field: keyof Entry) => (value: string) => change({ [field]: value });
  return (
    <>
      <TextField
        label={t("name")}
        value={entry.name}
        onChange={set("name")}
        error={errorAt("name")}
        autoFocus
      />
      <FieldFrame label={t("units")} hint={t("theUnitOfANumberWithout")}>
        {({ id, describedBy }) => (
          <select
            id={id}
            aria-describedby={describedBy}
            className="select press w-full"
            value={entry.units}
            onChange={(event) => {
              const units = event.target.value as UnitSystem;
              const starts = STARTS[entry.units];
              const untouched = entry.load_m3 === starts.load_m3 && entry.barrow_m3 === starts.barrow_m3;
              change(untouched ? { units, ...STARTS[units] } : { units });
            }}
          >
            <option value="metric">{t("metricMAndMm")}</option>
            <option value="us">{t("usFeetAndInches")}</option>
          </select>
        )}
      </FieldFrame>
      <div className="grid gap-4 sm:grid-cols-2">
        <TextField
          label={t("usualLoad")}
          unit={PLACEHOLDER.volume[entry.units]}
          value={entry.load_m3}
          onChange={set("load_m3")}
          error={errorAt("load_m3")}
          hint={t("theMostLikelyLooseVolumeOf")}
        />
        <TextField
          label={t("smallestLoad")}
          unit={PLACEHOLDER.volume[entry.units]}
          value={entry.load_least_m3}
          onChange={set("load_least_m3")}
          error={errorAt("load_least_m3")}
          hint={t("leaveEmptyIfLoadsAreAlways")}
        />
        <TextField
          label={t("largestLoad")}
          unit={PLACEHOLDER.volume[entry.units]}
          value={entry.load_most_m3}
          onChange={set("load_most_m3")}
          error={errorAt("load_most_m3")}
        />
        <TextField
          label={t("barrowHeaped")}
          unit={PLACEHOLDER.volume[entry.units]}
          value={entry.barrow_m3}
          onChange={set("barrow_m3")}
          error={errorAt("barrow_m3")}
        />
        <TextField
          label={t("spare")}
          unit="%"
          value={entry.spare}
          onChange={set("spare")}
          error={errorAt("spare")}
          hint={t("forEdgesSpillsAndSoftGround")}
        />
        <TextField
          label={t("northOnThePlan")}
          unit="°"
          value={entry.north}
          onChange={set("north")}
          error={errorAt("north_deg")}
          hint={t("degreesClockwiseFromTheTopOf")}
        />
      </div>
      <TextField
        label={t("location")}
        value={entry.location_deg}
        onChange={set("location_deg")}
        error={errorAt("location_deg")}
        hint={t("latitudeAndLongitudeOptional510543")}
      />
      <ChoiceBox
        label={t("timeZone")}
        hint={t("setsTheDateOfToday")}
        error={errorAt("time_zone")}
        value={entry.time_zone}
        onChange={(time_zone) => change({ time_zone })}
        options={zones(entry.time_zone).map((zone) => [zone, zone])}
      />
      <ClimateFields
        texts={entry}
        units={entry.units}
        stored={stored?.climate?.kind === "normals" ? stored.normals : undefined}
        change={change}
        errorAt={errorAt}
      />
      <Laid entry={entry} change={change} errorAt={errorAt} />
    </>
  );
}

function Page({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="mx-auto max-w-xl space-y-5 p-4 sm:p-6">
      <PageHead title={title} />
      {children}
    </div>
  );
}

export function SiteSettings() {
  const { sheet } = useSite();
  if (sheet.isPending) return <Loading what={t("theSite")} />;
  if (sheet.isError) return <Trouble error={sheet.error} retry={() => sheet.refetch()} />;
  return <Settings site={sheet.data.site} />;
}

/** Figures that came with the site's archive and stand before those of the workspace. */
function OwnParameters({ site }: { site: SiteOut }) {
  const { path } = useSite();
  const refresh = useStale("plan");
  const reset = useMutation({
    mutationFn: () =>
      result(
        api.DELETE("/api/v1/workspaces/{workspace_id}/sites/{site_id}/parameters", { params: { path } }),
      ),
    onSuccess: refresh,
  });
  const number = Object.keys(site.parameters).length;
  if (number === 0) return null;
  return (
    <p
      className="flex flex-wrap items-center gap-2 border-l-4 border-primary pl-3"
      data-testid="site-parameters"
    >
      <span className="grow">
        {t("cameWithTheArchiveOfThis", { number: t("parameters", { count: number }) })}
      </span>
      <button type="button" className="btn btn-sm press" onClick={() => reset.mutate()}>
        {t("useTheWorkspacesParameters")}
      </button>
    </p>
  );
}

function Settings({ site }: { site: SiteOut }) {
  const { workspaceId = "" } = useParams();
  const { change, path } = useSite();
  const may = useMay();
  const navigate = useNavigate();
  const cache = useQueryClient();
  const offerUndo = useUndo();
  const [start] = useState(() => entryOf(site));
  const form = useFields<Entry>({
    start,
    draft: `${workspaceId}.${site.id}.settings`,
    problem: change.error,
  });
  const refresh = () => cache.invalidateQueries({ queryKey: ["sites", workspaceId] });
  const restore = useMutation({
    mutationFn: () =>
      result(api.POST("/api/v1/workspaces/{workspace_id}/sites/{site_id}/restoration", { params: { path } })),
    onSuccess: refresh,
  });
  const remove = useMutation({
    mutationFn: () =>
      result(api.DELETE("/api/v1/workspaces/{workspace_id}/sites/{site_id}", { params: { path } })),
    onSuccess: async () => {
      navigate(`/w/${workspaceId}/sites`);
      await refresh();
      offerUndo({ text: t("wasDeletedWithItsPlots", { name: site.name }), undo: () => restore.mutate() });
    },
  });
  const back = `/w/${workspaceId}/sites/${site.id}`;
  return (
    <Page title={t("settingsOfTheSite")}>
      <form
        className="space-y-4"
        noValidate
        onSubmit={form.onSubmit((texts) =>
          change.mutate(
            { entry: siteEntry(texts), version: site.version },
            {
              onSuccess: () => {
                form.clear();
                navigate(back);
              },
            },
          ),
        )}
      >
        <fieldset disabled={!may.edit} className="space-y-4">
          <Fields entry={form.values} stored={site} change={form.change} errorAt={form.errorAt} />
          <OwnParameters site={site} />
          <Sentence text={form.sentence} />
          <div className="flex flex-wrap gap-2">
            <button type="submit" className="btn btn-primary press" disabled={change.isPending}>
              {t("save")}
            </button>
            <Link to={back} className="btn btn-ghost press" onClick={() => form.clear()}>
              {t("backWithoutSaving")}
            </Link>
            <span className="grow" />
            {may.own ? (
              <button
                type="button"
                className="btn btn-ghost press text-error"
                onClick={() => remove.mutate()}
              >
                {t("deleteSite")}
              </button>
            ) : null}
          </div>
        </fieldset>
      </form>
    </Page>
  );
}
