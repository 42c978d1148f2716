import { useSearchParams } from "react-router";
import type { SeasonName } from "@/api/schema.gen";
import { t } from "@/texts/site";
import { Select } from "@/ui/Select";

/** The season asked for in the address; the running one where none is. */
export function useAskedSeason() {
  const [params] = useSearchParams();
  return params.get("season") ?? undefined;
}

/** Which season is shown: the running one, or a later one. */
export function SeasonSelect({ seasons, value }: { seasons: SeasonName[]; value: string }) {
  const [params, setParams] = useSearchParams();
  return (
    <Select
      className="w-auto print:hidden"
      label={t("season")}
      value={value}
      onChange={(season) => {
        const next = new URLSearchParams(params);
        if (season === seasons[0]?.key) next.delete("season");
        else next.set("season", season);
        setParams(next, { replace: true });
      }}
      options={seasons.map((season): [string, string] => [season.key, season.name])}
    />
  );
}
