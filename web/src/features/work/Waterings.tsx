import type { Watering } from "@/api/schema.gen";
import { t } from "@/texts/work";
import { day } from "@/ui/format";
import { aboutWater } from "@/ui/precision";
import { Scroll } from "@/ui/Scroll";
import { type Column, Table } from "@/ui/Table";
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
        <Table
          rows={waterings}
          columns={[
            [t("what"), (watering) => `${watering.plot}: ${watering.words}`],
            ...WEEKS.map(
              (at): Column<Watering> => [
                at === 0 ? t("thisWeek") : t("inWeeks", { count: at }),
                ({ weeks }) => {
                  const water = weeks[at]?.water;
                  return water ? <Value figure={water}>{aboutWater(water.value, units)}</Value> : "–";
                },
              ],
            ),
            [t("wateredUntil"), (watering) => day(watering.weeks.at(-1)?.on ?? watering.planted_on)],
          ]}
        />
      </Scroll>
    </section>
  );
}
