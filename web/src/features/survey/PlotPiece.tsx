import { type KeyboardEvent, memo, type PointerEvent, useMemo } from "react";
import type { Outline, PlaceOutput as Place } from "@/api/schema.gen";
import { t } from "@/texts/survey";
import { aboutDepth } from "@/ui/precision";
import { useUnits } from "@/ui/units";
import { type Drawn, labelAt, reach } from "./drawn";
import { owingOf, textureOf } from "./texture";

const THIN_MM = 50;
const CLOSE_GAP_M = 0.1;
/** Pixels below which corners of an edge are left out. */
const FINE = 2.5;

type Ring = [number, number][];

/** An outline as SVG paths at a scale: the ground with all its repetitions, the trunks, the cut-outs. */
export function pathsOf(outline: Outline, scale: number, open: Drawn["open_rows"] = []) {
  const copies = outline.copies ?? [[0, 0]];
  const [first] = outline.rings;
  const points = first?.length ?? 0;
  const round = first ? Math.hypot(outline.width_m, outline.height_m) / copies.length : 0;
  const every = copies.length > 40 ? Math.max(1, Math.floor((FINE * points) / Math.max(1, 3 * round * scale))) : 1;
  const thinned = outline.rings.map((ring) =>
    (ring as Ring).filter((_, index) => index % Math.min(every, Math.max(1, Math.floor(ring.length / 8))) === 0),
  );
  const ground = copies
    .map(([cx, cy]) =>
      thinned
        .map(
          (ring) =>
            `M${ring.map(([x, y]) => `${((x + cx) * scale).toFixed(1)} ${(-(y + cy) * scale).toFixed(1)}`).join("L")}Z`,
        )
        .join(""),
    )
    .join("");
  const radius = outline.trunk_radius_m ?? 0;
  const stems = copies.flatMap(([cx, cy]) =>
    (outline.trunks ?? []).map(([x, y]) => [(x + cx) * scale, -(y + cy) * scale] as const),
  );
  const circles = (r: number) =>
    stems
      .map(([x, y]) => `M${(x - r).toFixed(1)} ${y.toFixed(1)}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0`)
      .join("");
  const close =
    stems.length > 0 && outline.gap_m !== null && outline.gap_m !== undefined && outline.gap_m < CLOSE_GAP_M;
  const closed = (rings: number[][][]) =>
    rings
      .map(
        (ring) =>
          `M${(ring as Ring).map(([x, y]) => `${(x * scale).toFixed(1)} ${(-y * scale).toFixed(1)}`).join("L")}Z`,
      )
      .join("");
  const cuts = closed(outline.cuts ?? []);
  return {
    ground,
    cuts,
    rows: closed(open),
    trunks: circles(Math.max(1.4, radius * scale)),
    warning: close ? circles(radius * scale + 3) + circles(radius * scale + 6) : "",
    trunkAtMiddle: stems.some(([x, y]) => Math.hypot(x, y) < 16),
  };
}

interface PieceProps {
  plot: Drawn;
  place: Place;
  depth_mm: number;
  /** Nitrogen in g/m², drawn instead of depth where it is given. */
  balance?: number;
  scale: number;
  chosen: boolean;
  marked: boolean;
  movable: boolean;
  label: string | null;
  take: (event: PointerEvent, plot: Drawn, turning: boolean) => void;
  onKey: (event: KeyboardEvent, plot: Drawn) => void;
}

/** One plot on the plan: its ground in its depth, trunks, its tag and, when chosen, its turning handle. */
export const PlotPiece = memo(function PlotPiece(props: PieceProps) {
  const { plot, place, depth_mm, balance, scale, chosen, marked, movable, label, take, onKey } = props;
  const units = useUnits();
  const { outline } = plot;
  const paths = useMemo(() => pathsOf(outline, scale, plot.open_rows), [outline, scale, plot.open_rows]);
  const turn = -(place.turn_deg ?? 0);
  const edge = depth_mm <= 0 ? "2 4" : depth_mm < THIN_MM ? "9 4 3 5" : undefined;
  const stands = chosen || marked;
  const box = reach({ outline, place });
  const [labelX, labelY] = labelAt({ outline, place });
  const gap = ((outline.trunk_radius_m ?? 0) + (outline.gap_m ?? 0)) * scale;
  const shift = paths.trunkAtMiddle && box.y * scale > gap + 26 ? gap + 14 : 0;
  return (
    <g
      transform={`translate(${place.x_m * scale} ${-place.y_m * scale})`}
      data-grip={movable ? (chosen ? "always" : "mouse") : undefined}
      role="button"
      tabIndex={0}
      aria-pressed={stands}
      aria-label={`${plot.number} ${plot.name}, ${balance === undefined ? (depth_mm > 0 ? aboutDepth(depth_mm, units) : t("bare")) : balance < 0 ? t("owesNitrogen") : balance > 0 ? t("paysNitrogenBack") : t("even")}`}
      onPointerDown={(event) => take(event, plot, false)}
      onKeyDown={(event) => onKey(event, plot)}
      style={{ cursor: movable ? "grab" : "pointer", outlineOffset: 4 }}
    >
      <g transform={`rotate(${turn})`}>
        <rect
          x={(-outline.width_m / 2) * scale - 4}
          y={(-outline.height_m / 2) * scale - 4}
          width={outline.width_m * scale + 8}
          height={outline.height_m * scale + 8}
          fill="transparent"
          stroke={stands ? "var(--color-primary)" : "none"}
          strokeWidth={1.5}
          strokeDasharray="3 3"
        />
        <path
          d={paths.ground}
          fill={balance === undefined ? textureOf(depth_mm) : owingOf(balance)}
          fillRule="evenodd"
          stroke={stands ? "var(--color-primary)" : "var(--soil-line)"}
          strokeWidth={chosen ? 2.5 : 1.25}
          strokeDasharray={edge}
        />
        {paths.cuts ? (
          <path d={paths.cuts} fill="var(--color-base-100)" stroke="var(--soil-line)" strokeDasharray="3 2" />
        ) : null}
        {paths.rows ? (
          <path
            d={paths.rows}
            fill="var(--color-base-100)"
            fillRule="evenodd"
            stroke="var(--soil-line)"
            strokeDasharray="4 2"
          />
        ) : null}
        {paths.trunks ? <path d={paths.trunks} fill="var(--trunk)" /> : null}
        {paths.warning ? <path d={paths.warning} fill="none" stroke="var(--color-error)" strokeWidth={1.4} /> : null}
        {chosen && movable ? (
          <g
            transform={`translate(0 ${(-outline.height_m / 2) * scale - 22})`}
            onPointerDown={(event) => take(event, plot, true)}
            style={{ cursor: "ew-resize" }}
          >
            <line y1={18} y2={7} stroke="var(--color-primary)" strokeWidth={1.5} />
            <circle r={14} fill="transparent" />
            <circle r={7} fill="var(--color-base-100)" stroke="var(--color-primary)" strokeWidth={2.5} />
          </g>
        ) : null}
      </g>
      {label ? <Tag text={label} x={labelX * scale} y={shift - labelY * scale} chosen={stands} /> : null}
    </g>
  );
});

export function Tag({ text, x, y, chosen }: { text: string; x: number; y: number; chosen: boolean }) {
  const width = text.length * 6.7 + 12;
  return (
    <g transform={`translate(${x} ${y})`} pointerEvents="none">
      <rect
        x={-width / 2}
        y={-10.5}
        width={width}
        height={21}
        rx={3}
        fill={chosen ? "var(--color-primary)" : "var(--color-base-100)"}
        stroke={chosen ? "none" : "var(--soil-line)"}
        strokeWidth={0.75}
      />
      <text
        textAnchor="middle"
        y={4.5}
        fontSize={13}
        fontWeight={600}
        fill={chosen ? "var(--color-primary-content)" : "var(--color-base-content)"}
      >
        {text}
      </text>
    </g>
  );
}
