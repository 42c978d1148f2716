import type { Certainty, TipPlan } from "@/api/schema.gen";
import { t } from "@/texts/supply";
import { share } from "@/ui/format";
import { about, aboutDistance, aboutHeight } from "@/ui/precision";
import { useUnits } from "@/ui/units";

const [WIDE, HIGH, FOOT, HEAD] = [320, 118, 20, 20];

/** How sure so many loads are, when nobody knows what one holds: a column for each number of loads. */
export function Sure({ certainty, loads }: { certainty: Certainty; loads: number }) {
  const { chances } = certainty;
  const here = chances.find((chance) => chance.loads === loads);
  const sure = here?.enough ?? (loads > (chances.at(-1)?.loads ?? 0) ? 1 : 0);
  const step = WIDE / Math.max(3, chances.length);
  const y = (part: number) => HIGH - FOOT - part * (HIGH - FOOT - HEAD);
  return (
    <section data-testid="sure">
      <h2 className="text-lg">{t("chanceItIsEnough")}</h2>
      <p>
        {t("theSizeOfALoadIs", {
          number: t("loadsAre", { count: loads }),
          share: share(Math.round(sure * 100) / 100),
        })}
      </p>
      <svg
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        className="mt-1 w-full"
        role="img"
        aria-label={t("certaintyByNumberOfLoads")}
      >
        {[0.5, 0.8, 0.95].map((part) => (
          <g key={part}>
            <line
              x1={0}
              x2={WIDE}
              y1={y(part)}
              y2={y(part)}
              stroke="var(--color-base-content)"
              strokeDasharray="2 4"
              strokeWidth={0.8}
            />
            <text x={1} y={y(part) + (part === 0.8 ? 11 : -3)} fontSize={12} fill="var(--color-base-content)">
              {part * 100} %
            </text>
          </g>
        ))}
        {chances.map((chance, index) => (
          <g key={chance.loads}>
            <rect
              x={(index + 0.22) * step}
              y={y(chance.enough)}
              width={step * 0.56}
              height={Math.max(1, chance.enough * (HIGH - FOOT - HEAD))}
              fill={chance.loads === loads ? "var(--color-primary)" : "var(--color-secondary)"}
              opacity={chance.loads === loads ? 1 : 0.55}
            />
            <text
              x={(index + 0.5) * step}
              y={HIGH - 5}
              fontSize={13}
              fontWeight={chance.loads === loads ? 700 : 400}
              textAnchor="middle"
              fill="var(--color-base-content)"
            >
              {chance.loads}
            </text>
          </g>
        ))}
      </svg>
      <p className="text-sm text-base-content/75">
        {t("for50For80For95", {
          for_50: certainty.for_50,
          for_80: certainty.for_80,
          for_95: certainty.for_95,
        })}
      </p>
    </section>
  );
}

/** Whether one load stands on each tip. */
export function Tips({ tips, load_m3 }: { tips: TipPlan[]; load_m3: number }) {
  const units = useUnits();
  if (tips.length === 0) return null;
  return (
    <section data-testid="tips">
      <h2 className="text-lg">{t("tip")}</h2>
      {tips.map(({ tip, fits, heap, holds_m3, wall_m, clear }) => (
        <p key={tip} className={fits ? "" : "border-l-4 border-error pl-3"}>
          <strong>{tip}:</strong>{" "}
          {fits && clear === false
            ? `${t("onlyFromTheWall", { length: aboutDistance(wall_m ?? 0, units) })} `
            : ""}
          {fits
            ? t("oneLoadFitsHighOn", {
                length: aboutHeight(heap.height_m, units),
                length2: aboutDistance(heap.length_m, units),
                length3: aboutDistance(heap.width_m, units),
              })
            : t("doesNotFitAtASafe", { volume: about(load_m3, units), volume2: about(holds_m3, units) })}
        </p>
      ))}
      <p className="text-sm text-base-content/75">
        {t("chipsStandAtAbout40A", { length: aboutHeight(2, units) })}
      </p>
    </section>
  );
}
