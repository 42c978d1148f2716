import { useId, useMemo } from "react";
import type { Estimate } from "@/api/schema.gen";
import { t } from "@/texts/recipe";
import { DataTable } from "@/ui/DataTable";
import { depth } from "@/ui/format";
import { aboutDepth, aboutGap } from "@/ui/precision";
import { useUnits } from "@/ui/units";
import { type Band, BandFill, Grass, Labels, Level, Seedlings, soilMarks } from "./cutParts";

interface Props {
  recipe: Estimate["recipe"];
  existing_mm: number;
  trunkRadius_m: number | null;
  holds: number;
  /** Drawn up to this depth at least, so that cuts side by side have one scale. */
  upTo_mm?: number;
  /** Drawn narrow, for a phone or for three side by side. */
  narrow?: boolean;
}

const STAGES = {
  fresh: t("fresh"),
  ageing: t("ageing"),
  aged: t("aged"),
  decomposed: t("decomposed"),
};

function bandsOf(recipe: Props["recipe"], existing: number, units: "metric" | "us"): Band[] {
  const bands: Band[] = [];
  let height = 0;
  for (const layer of recipe.layers.filter((layer) => layer.role !== "mulch")) {
    const label = layer.settled_mm
      ? `${layer.material.name}, ${aboutDepth(layer.settled_mm, units)}`
      : layer.material.name;
    bands.push({ key: layer.role, label, from: height, to: height + layer.settled_mm, layer });
    height += layer.settled_mm;
  }
  if (existing > 0) {
    bands.push({
      key: "old",
      label: t("existingDepth", { depth: depth(existing, units) }),
      from: height,
      to: height + existing,
    });
    height += existing;
  }
  for (const layer of recipe.layers.filter((layer) => layer.role === "mulch")) {
    const label = `${layer.material.name}, ${STAGES[layer.stage]}, ${aboutDepth(layer.settled_mm, units)}`;
    bands.push({ key: "mulch", label, from: height, to: height + layer.settled_mm, layer });
    height += layer.settled_mm;
  }
  return bands;
}

/** The cross-section through a plot: soil, what lies there, every layer, trunk and gap, ruler, wanted and least depth. */
export function Cut({ recipe, existing_mm, trunkRadius_m, holds, upTo_mm = 0, narrow = false }: Props) {
  const units = useUnits();
  const id = useId();
  const [WIDE, HIGH] = narrow ? [340, 264] : [640, 236];
  const bands = useMemo(() => bandsOf(recipe, existing_mm, units), [recipe, existing_mm, units]);
  const top_mm = Math.max(60, upTo_mm, recipe.target_mm, ...bands.map((band) => band.to));
  const beneath = recipe.layers
    .filter((layer) => layer.role !== "mulch")
    .reduce((sum, layer) => sum + layer.settled_mm, 0);
  const [SKY, SOIL, LEFT] = [narrow ? 48 : 30, 62, 58];
  const right = narrow ? 8 : 196;
  const ground = HIGH - SOIL - (narrow ? bands.length * 17 : 0);
  const scale = (ground - SKY) / top_mm;
  const y = (mm: number) => ground - mm * scale;
  const [from, to] = [LEFT, WIDE - right];
  const trunk = recipe.gap_m !== null && trunkRadius_m !== null;
  const gap = trunk ? (recipe.gap_m ?? 0) : 0;
  // Across it is not to scale: the trunk stands at the left, its gap as wide as there is room.
  const [bark, gapWide] = trunk ? [from + 46, 16 + Math.min(0.4, gap) * 150] : [from, 0];
  const starts = bark + gapWide;
  const green = recipe.laid_share < 0.995 ? (to - starts) * Math.min(0.6, 1 - recipe.laid_share) : 0;
  const holdAt = starts + (to - green - starts) * 0.52;
  const hold = holds > 0 ? 44 : 0;
  const ends = to - green;
  const close = trunk && recipe.gap_least_m !== null && gap < (recipe.gap_least_m ?? 0) - 0.0005;
  const step = units === "us" ? 25.4 : 25;
  const every = top_mm * scale > 0 && step * scale < 13 ? 2 : 1;
  const ticks = Array.from({ length: Math.floor(top_mm / (step * every)) + 1 }, (_, index) => index * step * every);
  const soil = useMemo(() => soilMarks(from, to, ground, SOIL), [from, to, ground, SOIL]);
  return (
    <>
      <svg
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        className="h-full max-h-80 w-full"
        role="img"
        aria-label={t("cutTarget", {
          layers: bands.map((band) => band.label).join("; ") || t("bareSoil"),
          depth: depth(recipe.target_mm, units),
        })}
        data-testid="cut"
      >
        <defs>
          <clipPath id={`${id}clip`}>
            {/* Laid ground slopes down to the trunk, and is open where rows are held back. */}
            <path d={laid(starts, ends, holdAt, hold, ground, SKY - 6)} />
          </clipPath>
        </defs>
        <rect x={from} y={ground} width={to - from} height={SOIL} fill="var(--cut-soil)" />
        <path d={soil.stones} fill="var(--cut-stone)" />
        <path d={soil.roots} fill="none" stroke="var(--cut-root)" strokeWidth={1.1} strokeLinecap="round" />
        <g clipPath={`url(#${id}clip)`}>
          {[...bands]
            .sort((a, b) => Number(a.key === "sheet") - Number(b.key === "sheet"))
            .map((band) => (
              <BandFill key={band.key} band={band} x={from} width={to - from} y={y} />
            ))}
        </g>
        {green > 0 ? <Grass x={ends} width={green} ground={ground} /> : null}
        {hold > 0 ? <Seedlings x={holdAt - hold / 2} width={hold} ground={ground} /> : null}
        <line x1={from} x2={to} y1={ground} y2={ground} stroke="var(--soil-line)" strokeWidth={1.6} />
        {trunk ? (
          <g>
            <path
              d={`M${from} ${SKY - 24}H${bark - 14}C${bark - 13} ${ground - 46} ${bark - 8} ${ground - 16} ${bark} ${ground}C${bark + 4} ${ground + 10} ${bark + 20} ${ground + 24} ${bark + 34} ${ground + 40}L${bark - 6} ${ground + 22}L${from} ${ground + 34}Z`}
              fill="var(--cut-trunk)"
              stroke="var(--soil-line)"
            />
            <path
              d={`M${from + 9} ${SKY - 20}C${from + 12} ${ground - 50} ${from + 7} ${ground - 24} ${from + 12} ${ground - 4}M${from + 22} ${SKY - 20}C${from + 20} ${ground - 60} ${from + 25} ${ground - 30} ${from + 23} ${ground - 8}`}
              fill="none"
              stroke="var(--cut-bark)"
              strokeWidth={1.6}
            />
            <g stroke={close ? "var(--color-error)" : "var(--color-base-content)"} strokeWidth={close ? 2 : 1.1}>
              <path
                d={`M${bark} ${ground - 4}V${SKY + 6}M${starts} ${ground - 4}V${SKY + 6}M${bark} ${SKY + 10}H${starts}`}
                fill="none"
              />
              {close ? (
                <path d={`M${bark + 3} ${ground - 4}V${SKY + 6}M${starts + 3} ${ground - 4}V${SKY + 6}`} fill="none" />
              ) : null}
            </g>
            <text
              x={bark - 2}
              y={narrow ? 14 : SKY - 2}
              fontSize={13}
              fontWeight={600}
              fill={close ? "var(--color-error)" : "var(--color-base-content)"}
            >
              {close
                ? t("gapNeeded", {
                    gap: aboutGap(gap, units),
                    needed: aboutGap(recipe.gap_least_m ?? 0, units),
                  })
                : t("gap", { gap: aboutGap(gap, units) })}
            </text>
          </g>
        ) : null}
        <Level
          y={y(beneath + recipe.target_mm)}
          from={starts}
          to={to}
          text={t("target", { depth: depth(recipe.target_mm, units) })}
          strong
          hidden={recipe.target_mm <= 0}
        />
        <Level
          y={y(beneath + recipe.least_mm)}
          from={starts}
          to={to}
          text={t("least", { depth: depth(recipe.least_mm, units) })}
          strong={false}
          hidden={recipe.target_mm <= 0}
        />
        <g fontSize={12.5} fill="var(--color-base-content)">
          <path
            d={`M${LEFT - 6} ${y(0)}V${y(ticks.at(-1) ?? 0)}`}
            stroke="var(--color-base-content)"
            strokeWidth={1.4}
          />
          {ticks.map((mm) => (
            <g key={mm}>
              <path d={`M${LEFT - 13} ${y(mm)}H${LEFT - 6}`} stroke="var(--color-base-content)" strokeWidth={1.2} />
              <text x={LEFT - 17} y={y(mm) + 4.4} textAnchor="end">
                {units === "us" ? Math.round(mm / 25.4) : mm}
              </text>
            </g>
          ))}
          <text x={LEFT - 17} y={SKY - 8} textAnchor="end" fontWeight={600}>
            {units === "us" ? "in" : "mm"}
          </text>
        </g>
        <Labels
          bands={bands}
          y={y}
          x={to + 12}
          edge={to}
          narrow={narrow}
          floor={ground + SOIL}
          width={WIDE}
          green={green > 0}
        />
      </svg>
      <DataTable
        caption={t("layersOfTheCut")}
        heads={[t("layerOfTheCut"), t("settledDepthOfTheLayer")]}
        rows={[...bands].reverse().map((band) => [band.label, depth(band.to - band.from, units)])}
      />
    </>
  );
}

const laid = (from: number, to: number, holdAt: number, hold: number, ground: number, top: number) => {
  const lip = 18;
  const body = (a: number, b: number) => `M${a} ${ground}L${a + lip} ${top}H${b - (b < to ? lip : 0)}L${b} ${ground}Z`;
  return hold ? body(from, holdAt - hold / 2) + body(holdAt + hold / 2, to) : body(from, to);
};
