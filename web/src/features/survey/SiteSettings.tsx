import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { useChange } from "@/api/change";
import { useRequests } from "@/api/requests";
import type { SiteEntry, SiteOut, UnitSystem } from "@/api/schema.gen";
import { useStale } from "@/api/stale";
import { useMay } from "@/features/accounts/session";
import { Laid, type LaidTexts } from "@/features/recipe/Laid";
import { known } from "@/features/recipe/PracticeChoice";
import { PageHead } from "@/features/site/PageHead";
import { t } from "@/texts/survey";
import { Button } from "@/ui/Button";
import { ChoiceBox } from "@/ui/ChoiceBox";
import { SelectField, TextField } from "@/ui/Field";
import { useFields } from "@/ui/fields";
import { barrow, PLACEHOLDER, share, volume } from "@/ui/format";
import { Sentence } from "@/ui/Sentence";
import { Loading, Trouble } from "@/ui/states";
import { useUndo } from "@/ui/undo";
import { ClimateFields, type ClimateTexts, climateEntry, climateOf } from "./ClimateFields";
import { USUAL_SIZES } from "./entry";
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
function siteEntry(entry: Entry): SiteEntry {
  const { north, climate, southern, temperatures_c, rain_mm, ...rest } = entry;
  const sentClimate = climateEntry({ climate, southern, temperatures_c, rain_mm }) as Exclude<
    SiteEntry["climate"],
    undefined
  >;
  return {
    ...rest,
    load_least_m3: rest.load_least_m3.trim() || null,
    load_most_m3: rest.load_most_m3.trim() || null,
    spare: rest.spare.trim() || null,
    material: entry.material || null,
    climate: sentClimate,
    north_deg: Number(north.replace(",", ".")),
  };
}

function Fields({
  form,
  site,
  usualSpare,
}: {
  form: ReturnType<typeof useFields<Entry>>;
  site: SiteOut;
  usualSpare: number;
}) {
  const { values: entry, change, field, errorAt } = form;
  const volumes = PLACEHOLDER.volume[entry.units];
  const changeUnits = (units: UnitSystem) => {
    const usual = USUAL_SIZES[entry.units];
    const untouched = entry.load_m3 === usual.load_m3 && entry.barrow_m3 === usual.barrow_m3;
    change(untouched ? { units, ...USUAL_SIZES[units] } : { units });
  };
  return (
    <>
      <TextField label={t("name")} {...field("name")} autoFocus />
      <SelectField
        label={t("units")}
        hint={t("theUnitOfANumberWithout")}
        {...field("units")}
        onChange={changeUnits}
        options={{ metric: t("metricMAndMm"), us: t("usFeetAndInches") }}
      />
      <div className="grid gap-4 sm:grid-cols-2">
        <TextField label={t("usualLoad")} unit={volumes} {...field("load_m3")} hint={t("theMostLikelyLooseVolumeOf")} />
        <TextField
          label={t("smallestLoad")}
          unit={volumes}
          {...field("load_least_m3")}
          hint={t("leaveEmptyIfLoadsAreAlways")}
        />
        <TextField label={t("largestLoad")} unit={volumes} {...field("load_most_m3")} />
        <TextField label={t("barrowHeaped")} unit={volumes} {...field("barrow_m3")} />
        <TextField
          label={t("spare")}
          unit="%"
          {...field("spare")}
          hint={t("forEdgesSpillsAndSoftGround", { share: share(usualSpare) })}
        />
        <TextField
          label={t("northOnThePlan")}
          unit="°"
          {...field("north")}
          error={errorAt("north_deg")}
          hint={t("degreesClockwiseFromTheTopOf")}
        />
      </div>
      <TextField label={t("location")} {...field("location_deg")} hint={t("latitudeAndLongitudeOptional510543")} />
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
        stored={site.climate?.kind === "normals" ? site.normals : undefined}
        change={change}
        errorAt={errorAt}
      />
      <Laid entry={entry} change={change} errorAt={errorAt} />
    </>
  );
}

export function SiteSettings() {
  const { sheet } = useSite();
  if (sheet.isPending) return <Loading what={t("theSite")} />;
  if (sheet.isError) return <Trouble error={sheet.error} retry={() => sheet.refetch()} />;
  return <Settings site={sheet.data.site} usualSpare={sheet.data.usual_spare} />;
}

/** Figures that came with the site's archive and stand before those of the workspace. */
function OwnParameters({ site }: { site: SiteOut }) {
  const { siteApi } = useRequests();
  const refresh = useStale("plan");
  const reset = useChange(() => siteApi.delete("/parameters"), refresh);
  const number = Object.keys(site.parameters).length;
  if (number === 0) return null;
  return (
    <p className="flex flex-wrap items-center gap-2 border-l-4 border-primary pl-3" data-testid="site-parameters">
      <span className="grow">{t("cameWithTheArchiveOfThis", { parameters: t("parameters", { count: number }) })}</span>
      <Button small onClick={() => reset.mutate()}>
        {t("useTheWorkspacesParameters")}
      </Button>
    </p>
  );
}

function Settings({ site, usualSpare }: { site: SiteOut; usualSpare: number }) {
  const { workspaceId = "" } = useParams();
  const { change } = useSite();
  const { siteApi } = useRequests();
  const may = useMay();
  const navigate = useNavigate();
  const offerUndo = useUndo();
  const [start] = useState(() => entryOf(site));
  const form = useFields<Entry>({
    start,
    draft: `${workspaceId}.${site.id}.settings`,
    problem: change.error,
  });
  const refresh = useStale("sites");
  const restore = useChange(() => siteApi.post("/restoration"), refresh);
  const remove = useMutation({
    mutationFn: () => siteApi.delete(""),
    onSuccess: async () => {
      navigate(`/w/${workspaceId}/sites`);
      await refresh();
      offerUndo({ text: t("wasDeletedWithItsPlots", { name: site.name }), undo: () => restore.mutate() });
    },
  });
  const parent = `/w/${workspaceId}/sites/${site.id}`;
  return (
    <div className="mx-auto max-w-xl space-y-5 p-4 sm:p-6">
      <PageHead title={t("settingsOfTheSite")} />
      <form
        className="space-y-4"
        noValidate
        onSubmit={form.onSubmit((texts) =>
          change.mutate(
            { entry: siteEntry(texts), version: site.version },
            {
              onSuccess: () => {
                form.clear();
                navigate(parent);
              },
            },
          ),
        )}
      >
        <fieldset disabled={!may.edit} className="space-y-4">
          <Fields form={form} site={site} usualSpare={usualSpare} />
          <OwnParameters site={site} />
          <Sentence text={form.sentence} />
          <div className="flex flex-wrap gap-2">
            <Button type="submit" primary disabled={change.isPending}>
              {t("save")}
            </Button>
            <Link to={parent} className="btn btn-ghost press" onClick={() => form.clear()}>
              {t("backWithoutSaving")}
            </Link>
            <span className="grow" />
            <Button shown={may.own} ghost className="text-error" onClick={() => remove.mutate()}>
              {t("deleteSite")}
            </Button>
          </div>
        </fieldset>
      </form>
    </div>
  );
}
