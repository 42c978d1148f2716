import { scaleBand, scaleLinear } from "d3-scale";
import type { Certainty } from "@/api/schema.gen";
import { t } from "@/texts/supply";
import { DataTable } from "@/ui/DataTable";
import { share } from "@/ui/format";
import { Grid, Words } from "@/ui/picture";

const [WIDE, HIGH, FOOT, HEAD, LEFT] = [320, 118, 20, 20, 44];

/** How sure so many loads are, when nobody knows what one holds: a column for each number of loads. */
export function Confidence({ certainty, loads }: { certainty: Certainty; loads: number }) {
  const { chances } = certainty;
  const current = chances.find((chance) => chance.loads === loads);
  const sure = current?.enough ?? (loads > (chances.at(-1)?.loads ?? 0) ? 1 : 0);
  const x = scaleBand(
    chances.map((chance) => chance.loads),
    [LEFT, WIDE],
  ).padding(0.4);
  const y = scaleLinear([0, 1], [HIGH - FOOT, HEAD]);
  return (
    <section data-testid="sure">
      <h2 className="text-lg">{t("chanceItIsEnough")}</h2>
      <p>
        {t("theSizeOfALoadIs", {
          loads: t("loadsAre", { count: loads }),
          share: share(Math.round(sure * 100) / 100),
        })}
      </p>
      <svg
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        className="mt-1 w-full"
        role="img"
        aria-label={t("certaintyByNumberOfLoads")}
      >
        <Grid y={y} ticks={[0.5, 0.8, 0.95]} left={LEFT} right={WIDE} words={(part) => `${part * 100} %`} />
        {chances.map((chance) => (
          <g key={chance.loads}>
            <rect
              x={x(chance.loads)}
              y={y(chance.enough)}
              width={Math.min(60, x.bandwidth())}
              height={Math.max(1, y(0) - y(chance.enough))}
              fill={chance.loads === loads ? "var(--color-primary)" : "var(--color-secondary)"}
              opacity={chance.loads === loads ? 1 : 0.55}
            />
            <Words
              x={(x(chance.loads) ?? 0) + Math.min(60, x.bandwidth()) / 2}
              y={HIGH - 5}
              size={13}
              fontWeight={chance.loads === loads ? 700 : 400}
              anchor="middle"
            >
              {chance.loads}
            </Words>
          </g>
        ))}
      </svg>
      <DataTable
        caption={t("certaintyByNumberOfLoads")}
        heads={[t("loads"), t("chanceItIsEnough")]}
        rows={chances.map((chance) => [String(chance.loads), share(Math.round(chance.enough * 100) / 100)])}
      />
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
