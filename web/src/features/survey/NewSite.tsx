import { useQuery } from "@tanstack/react-query";
import { Briefcase, type LucideIcon, Sprout, Trees } from "lucide-react";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { useChange } from "@/api/change";
import { api } from "@/api/client";
import { useRequests } from "@/api/requests";
import type { NewSite as NewSiteEntry, RegionList } from "@/api/schema.gen";
import { useStale } from "@/api/stale";
import { t } from "@/texts/survey";
import { Back } from "@/ui/Back";
import { Button } from "@/ui/Button";
import { SelectField, TextField } from "@/ui/Field";
import { useFields } from "@/ui/fields";
import { Sentence } from "@/ui/Sentence";
import { Loading, Trouble } from "@/ui/states";
import { FIRST_PLOT, type Purpose, USUAL_SIZES } from "./entry";

const PURPOSES: Record<Purpose, { label: string; what: string; name: string; icon: LucideIcon }> = {
  garden: {
    label: t("garden"),
    what: t("bedsPathsAndTreesOfMy"),
    name: t("myGarden"),
    icon: Sprout,
  },
  orchard: { label: t("orchard"), what: t("rowsOfTrees"), name: t("myOrchard"), icon: Trees },
  clients: { label: t("clients"), what: t("sitesOfOtherPeople"), name: t("firstClient"), icon: Briefcase },
};

const timeZone = Intl.DateTimeFormat().resolvedOptions().timeZone || "UTC";

/** A new site asks where and what; everything else has a default that the settings change. */
export function NewSite() {
  const regions = useQuery({
    queryKey: ["regions", timeZone],
    queryFn: () => api.get("/regions", { query: { time_zone: timeZone } }),
    staleTime: Number.POSITIVE_INFINITY,
  });
  if (regions.isPending) return <Loading what={t("theRegions")} />;
  if (regions.isError) return <Trouble error={regions.error} retry={() => regions.refetch()} />;
  return <Asked list={regions.data} />;
}

function Asked({ list }: { list: RegionList }) {
  const { regions, guess } = list;
  const { workspaceId = "" } = useParams();
  const { workspaceApi } = useRequests();
  const navigate = useNavigate();
  const refresh = useStale("sites");
  const [start] = useState(() => ({
    id: crypto.randomUUID(),
    purpose: "garden" as Purpose,
    name: "",
    region: guess ?? regions[0]?.key ?? "",
  }));
  const add = useChange((body: NewSiteEntry) => workspaceApi.post("/sites", { body }));
  const form = useFields({ start, draft: `${workspaceId}.new-site`, problem: add.error });
  const { purpose } = form.values;
  const save = ({ id, name, region: key }: typeof start) => {
    const region = regions.find((region) => region.key === key);
    if (!region) return;
    add.mutate(
      {
        id,
        name: name.trim() || PURPOSES[purpose].name,
        units: region.units,
        currency: region.currency,
        climate: { kind: "class", name: region.climate, southern: region.southern },
        time_zone: timeZone,
        ...USUAL_SIZES[region.units],
      },
      {
        onSuccess: async (site) => {
          form.clear();
          await refresh();
          navigate(`/w/${workspaceId}/sites/${site.id}/plots/new?for=${purpose}`);
        },
      },
    );
  };
  const continents = [...new Set(regions.map((region) => region.continent))];
  return (
    <form noValidate className="mx-auto max-w-xl space-y-5 p-4 sm:p-6" onSubmit={form.onSubmit(save)}>
      <Back to={`/w/${workspaceId}/sites`}>{t("sites")}</Back>
      <h1 className="text-3xl">{t("whereAndWhatDoYouMulch")}</h1>
      <fieldset>
        <legend className="mb-1 text-sm font-semibold">{t("what")}</legend>
        <div className="grid gap-2 sm:grid-cols-3">
          {(Object.keys(PURPOSES) as Purpose[]).map((key) => {
            const { label, what, icon: Icon } = PURPOSES[key];
            return (
              <label
                key={key}
                className={`press flex cursor-pointer items-center gap-3 border-2 bg-base-100 p-3 has-focus-visible:outline-3 has-focus-visible:outline-accent sm:flex-col sm:items-start ${purpose === key ? "border-primary" : "border-base-300"}`}
              >
                <input
                  type="radio"
                  name="purpose"
                  className="sr-only"
                  checked={purpose === key}
                  onChange={() => form.change({ purpose: key })}
                />
                <Icon size={28} className="shrink-0 text-primary" aria-hidden />
                <span className="leading-tight">
                  <span className="block text-lg font-semibold">{label}</span>
                  <span className="text-sm text-base-content/75">{what}</span>
                </span>
              </label>
            );
          })}
        </div>
      </fieldset>
      <SelectField
        label={t("where")}
        hint={`${t("setsUnitsClimateAndCurrencyYou")} ${list.climate_source}`}
        {...form.field("region")}
        error={form.errorAt("climate") ?? form.errorAt("time_zone")}
      >
        {continents.map((continent) => (
          <optgroup key={continent} label={continent}>
            {regions
              .filter((region) => region.continent === continent)
              .map((region) => (
                <option key={region.key} value={region.key}>
                  {region.name}
                </option>
              ))}
          </optgroup>
        ))}
      </SelectField>
      <TextField
        label={t("nameOfTheSiteOptional")}
        {...form.field("name")}
        hint={t("withoutANameItIsCalled", { name: PURPOSES[purpose].name })}
      />
      <Sentence text={form.sentence} />
      <Button type="submit" primary large wide disabled={add.isPending}>
        {FIRST_PLOT[purpose].next}
      </Button>
    </form>
  );
}
