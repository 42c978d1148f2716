import type { Estimate } from "@/api/schema.gen";
import { loadsOf } from "@/features/site/season";
import { t } from "@/texts/survey";
import { other } from "@/ui/format";
import { about, derived } from "@/ui/precision";
import { useUnits } from "@/ui/units";
import { Value } from "@/ui/working";

/** The walk by which the chips come, where it is known. */
function Reached({ access }: { access: Estimate["access"] }) {
  if (!access.walk) return null;
  return (
    <div className="col-span-2 text-sm" data-testid="plot-access">
      <dt className="inline text-base-content/75">
        {access.tip ? t("walkingDistanceFrom", { tip: access.tip }) : t("walkingDistanceFromTheTip")}{" "}
      </dt>
      <dd className="inline">
        <Value figure={access.walk} className="font-semibold" />
        {access.climb && access.climb.value > 0.005 ? (
          <>
            {t("up")} <Value figure={access.climb} />
          </>
        ) : null}
        {access.width ? (
          <>
            {t("narrowest")} <Value figure={access.width} />
          </>
        ) : null}
      </dd>
    </div>
  );
}

interface Props {
  estimate: Estimate | undefined;
  current: boolean;
  /** Only the two numbers, where there is little room. */
  brief: boolean;
}

/** Area, volume and the walk of the plot being typed. */
export function PlotFigures({ estimate, current, brief }: Props) {
  const aside = `block text-sm text-base-content/75 ${brief ? "max-lg:hidden" : ""}`;
  const units = useUnits();
  if (!estimate) {
    return (
      <p className="border-t border-base-300 bg-base-100 px-4 py-3 text-base-content/75">
        {t("areaVolumeAndLoadsAppearHere")}
      </p>
    );
  }
  const { area, planned, to_target: toTarget, edge, cardboard, season } = estimate.plot;
  return (
    <dl
      className={`grid grid-cols-2 gap-3 border-t border-base-300 bg-base-100 px-4 py-2 ${current ? "" : "opacity-60"}`}
      aria-live="polite"
    >
      <div data-testid="plot-area">
        <dt className="text-sm text-base-content/75">{t("area")}</dt>
        <dd>
          <Value figure={area} className="display text-2xl" />
          <span className={aside}>
            {t("edge")} <Value figure={edge} />;{" "}
            {estimate.found.cover === "lawn" || estimate.found.cover === "running_grass" ? (
              <>
                {t("cardboard")} <Value figure={cardboard} />
              </>
            ) : (
              derived(area.value, "m2", other(units))
            )}
          </span>
        </dd>
      </div>
      <div data-testid="plot-volume">
        <dt className="text-sm text-base-content/75">{t("plannedFor", { season })}</dt>
        <dd>
          <Value figure={planned} className="display text-2xl">
            {about(planned.value, units)}
          </Value>
          <span className={aside} data-testid="plot-to-target">
            {t("toTheTargetToday")}{" "}
            <Value figure={toTarget} className="font-semibold">
              {about(toTarget.value, units)}
            </Value>
            {toTarget.value > 0 ? `, ${about(toTarget.value, other(units))}` : ""}
          </span>
        </dd>
      </div>
      <div className="col-span-2 text-sm" data-testid="plot-loads">
        <dt className="inline text-base-content/75">{t("orderForTheWholeSite")}</dt>{" "}
        <dd className="inline font-semibold">{loadsOf(estimate.now, units)}</dd>
      </div>
      {brief ? null : <Reached access={estimate.access} />}
    </dl>
  );
}
