import { useSearchParams } from "react-router";
import type { SeasonName } from "@/api/schema.gen";
import { t } from "@/texts/site";

/** The season asked for in the address; the running one where none is. */
export function useAskedSeason() {
  const [params] = useSearchParams();
  return params.get("season") ?? undefined;
}

/** Which season is shown: the running one, or a later one. */
export function SeasonSelect({ seasons, value }: { seasons: SeasonName[]; value: string }) {
  const [params, setParams] = useSearchParams();
  return (
    <select
      className="select press w-auto print:hidden"
      aria-label={t("season")}
      value={value}
      onChange={(event) => {
        const next = new URLSearchParams(params);
        if (event.target.value === seasons[0]?.key) next.delete("season");
        else next.set("season", event.target.value);
        setParams(next, { replace: true });
      }}
    >
      {seasons.map((season) => (
        <option key={season.key} value={season.key}>
          {season.name}
        </option>
      ))}
    </select>
  );
}
