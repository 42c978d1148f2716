import type { Watering } from "@/api/schema.gen";
import { t } from "@/texts/work";
import { day } from "@/ui/format";
import { aboutWater } from "@/ui/precision";
import { Scroll } from "@/ui/Scroll";
import { useUnits } from "@/ui/units";
import { Value } from "@/ui/working";

const WEEKS = [0, 1, 2, 3];

/** What is watered week by week until it has rooted: less the rain, less what mulch saves. */
export function Waterings({ waterings }: { waterings: Watering[] }) {
  const units = useUnits();
  if (waterings.length === 0) return null;
  return (
    <section className="space-y-2" data-testid="waterings">
      <h2 className="text-xl">{t("waterUntilRooted")}</h2>
      <p className="text-sm text-base-content/75">{t("waterIsCounted")}</p>
      <Scroll label={t("waterUntilRooted")}>
        <table className="table table-sm">
          <thead>
            <tr>
              <th>{t("what")}</th>
              {WEEKS.map((at) => (
                <th key={at} className="text-right">
                  {at === 0 ? t("thisWeek") : t("inWeeks", { count: at })}
                </th>
              ))}
              <th>{t("wateredUntil")}</th>
            </tr>
          </thead>
          <tbody>
            {waterings.map((watering) => (
              <tr key={`${watering.plot_id} ${watering.planted_on} ${watering.words}`}>
                <td>
                  {watering.plot}: {watering.words}
                </td>
                {WEEKS.map((at) => {
                  const week = watering.weeks[at];
                  return (
                    <td key={at} className="text-right">
                      {week ? <Value figure={week.water}>{aboutWater(week.water.value, units)}</Value> : "–"}
                    </td>
                  );
                })}
                <td>{day(watering.weeks.at(-1)?.on ?? watering.planted_on)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Scroll>
    </section>
  );
}
