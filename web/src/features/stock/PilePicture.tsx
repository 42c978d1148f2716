import type { PileOut } from "@/api/schema.gen";
import { t } from "@/texts/stock";
import { DataTable } from "@/ui/DataTable";
import { Words } from "@/ui/picture";
import { about, aboutDistance, aboutHeight, SPECK_M3 } from "@/ui/precision";
import { Scroll } from "@/ui/Scroll";
import { useUnits } from "@/ui/units";

const STAGE_FILL: Record<string, string> = {
  fresh: "var(--chip-1)",
  ageing: "var(--chip-2)",
  aged: "var(--chip-3)",
  decomposed: "var(--cut-soil)",
};
const [PX, GAP, HEAD, FOOT, LEAST] = [46, 56, 26, 40, 720];
const HEATS_M = 2;

/** Piles from the side, all on one scale, darker the further rotted, with what they measure and the nearest wall. */
export function PilePicture({ piles }: { piles: PileOut[] }) {
  const units = useUnits();
  const standing = piles.filter((pile) => pile.stock_m3 > SPECK_M3);
  if (standing.length === 0) return null;
  const tall = Math.max(HEATS_M + 0.15, ...standing.map((pile) => pile.stand.height_m));
  const ground = HEAD + tall * PX;
  let edge = 0;
  const drawn = standing.map((pile) => {
    const wall = pile.plan?.wall_m != null && pile.plan.wall_m < 4 ? pile.plan.wall_m * PX : null;
    const foot = pile.stand.length_m * PX;
    const left = edge + (wall === null ? GAP : wall + 30) + Math.max(0, 130 - foot) / 2;
    edge = left + Math.max(foot, foot / 2 + 65);
    return { pile, wall, foot, at: left };
  });
  const wide = Math.max(LEAST, edge + GAP);
  const heats = ground - HEATS_M * PX;
  return (
    <Scroll label={t("pilesSideView")}>
      <svg
        viewBox={`0 0 ${wide} ${ground + FOOT}`}
        className="w-full min-w-[36rem]"
        role="img"
        aria-label={standing
          .map((pile) =>
            t("highLong", {
              name: pile.name,
              height: aboutHeight(pile.stand.height_m, units),
              length: aboutDistance(pile.stand.length_m, units),
            }),
          )
          .join("; ")}
      >
        <path d={`M0 ${heats}H${wide}`} stroke="var(--color-base-content)" strokeDasharray="2 5" strokeWidth={1} />
        <Words x={wide - 4} y={heats - 5} size={13} anchor="end">
          {t("heatsUpAbove", { height: aboutHeight(HEATS_M, units) })}
        </Words>
        <line x1={0} x2={wide} y1={ground} y2={ground} stroke="var(--soil-line)" strokeWidth={2.5} />
        {drawn.map(({ pile, wall, foot, at }) => {
          const half = Math.min(foot, pile.stand.width_m * PX) / 2;
          const top = ground - pile.stand.height_m * PX;
          const oldest = [...pile.lots].sort((a, b) => b.age_days - a.age_days)[0]?.stage ?? "fresh";
          return (
            <g key={pile.id} fill="var(--color-base-content)" fontSize={13.5}>
              {wall === null ? null : <Wall x={at - wall} high={tall * PX} ground={ground} pile={pile} />}
              <path
                d={outline(at, foot, half, top, ground)}
                fill={STAGE_FILL[oldest]}
                stroke="var(--soil-line)"
                strokeWidth={1.8}
                strokeLinejoin="round"
              />
              <text x={at + foot / 2} y={top - 7} textAnchor="middle">
                {t("high", { height: aboutHeight(pile.stand.height_m, units) })}
              </text>
              <text x={at + foot / 2} y={ground + 17} textAnchor="middle" fontWeight={700}>
                {pile.name}
              </text>
              <text x={at + foot / 2} y={ground + 34} textAnchor="middle">
                {aboutDistance(pile.stand.length_m, units)}
                {pile.stand.ridge ? ` × ${aboutDistance(pile.stand.width_m, units)}` : ` ${t("across")}`}
              </text>
            </g>
          );
        })}
      </svg>
      <DataTable
        caption={t("pilesSideView")}
        heads={[
          t("pile"),
          t("volumeOfThePile"),
          t("heightOfThePile"),
          t("lengthOfThePile"),
          t("widthOfThePile"),
          t("toTheNearestWall"),
        ]}
        rows={standing.map((pile) => [
          pile.name,
          about(pile.stock_m3, units),
          aboutHeight(pile.stand.height_m, units),
          aboutDistance(pile.stand.length_m, units),
          aboutDistance(pile.stand.width_m, units),
          pile.plan?.wall_m == null ? "" : aboutDistance(pile.plan.wall_m, units),
        ])}
      />
    </Scroll>
  );
}

/** A cone, or a ridge with half cones at its ends; its edges rounded off. */
function outline(at: number, foot: number, half: number, top: number, ground: number) {
  const slope = (ground - top) / half;
  const round = Math.min(8, half / 3);
  const [left, right] = [at + half, at + foot - half];
  const low = top + round * slope;
  return `M${at} ${ground} L${left - round} ${low} Q${left} ${top} ${left + Math.min(round, (right - left) / 2)} ${right - left > 2 ? top : (top + low) / 2} L${right - Math.min(round, (right - left) / 2)} ${right - left > 2 ? top : (top + low) / 2} Q${right} ${top} ${right + round} ${low} L${at + foot} ${ground} Z`;
}

function Wall({ x, high, ground, pile }: { x: number; high: number; ground: number; pile: PileOut }) {
  const units = useUnits();
  const isNear = pile.plan?.clear === false;
  const distance = aboutDistance(pile.plan?.wall_m ?? 0, units);
  return (
    <>
      <rect
        x={x - 10}
        y={ground - high}
        width={10}
        height={high}
        fill={isNear ? "var(--color-error)" : "var(--color-base-content)"}
        opacity={isNear ? 1 : 0.4}
      />
      <text x={x + 5} y={ground - 6} fill={isNear ? "var(--color-error)" : "var(--color-base-content)"}>
        {distance}
      </text>
    </>
  );
}
