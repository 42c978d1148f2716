import type { TipPlan } from "@/api/schema.gen";
import { t } from "@/texts/supply";
import { about, aboutDistance, aboutHeight } from "@/ui/precision";
import { useUnits } from "@/ui/units";

/** Whether one load stands on each tip. */
export function Tips({ tips, load_m3 }: { tips: TipPlan[]; load_m3: number }) {
  const units = useUnits();
  if (tips.length === 0) return null;
  return (
    <section data-testid="tips">
      <h2 className="text-lg">{t("tip")}</h2>
      {tips.map(({ tip, fits, stand, holds_m3, wall_m, clear }) => (
        <p key={tip} className={fits ? "" : "border-l-4 border-error pl-3"}>
          <strong>{tip}:</strong>{" "}
          {fits && clear === false ? `${t("onlyFromTheWall", { distance: aboutDistance(wall_m ?? 0, units) })} ` : ""}
          {fits
            ? t("oneLoadFitsHighOn", {
                height: aboutHeight(stand.height_m, units),
                length: aboutDistance(stand.length_m, units),
                width: aboutDistance(stand.width_m, units),
              })
            : t("doesNotFitAtASafe", { volume: about(load_m3, units), volume2: about(holds_m3, units) })}
        </p>
      ))}
      <p className="text-sm text-base-content/75">{t("chipsStandAtAbout40A", { height: aboutHeight(2, units) })}</p>
    </section>
  );
}
