import type { KeyboardEvent, PointerEvent } from "react";
import { depth } from "@/ui/format";
import { useUnits } from "@/ui/units";
import { type Drawn, reach } from "./drawn";
import { textureOf } from "./texture";

const THIN_MM = 50;
const CLOSE_GAP_M = 0.1;

interface PieceProps {
  plot: Drawn;
  depth_mm: number;
  x: number;
  y: number;
  scale: number;
  chosen: boolean;
  movable: boolean;
  take: (event: PointerEvent, plot: Drawn, turning: boolean) => void;
  onKey: (event: KeyboardEvent, plot: Drawn) => void;
}

/** One plot on the plan: its ground in its depth, trunks, its tag and, when chosen, its turning handle. */
export function PlotPiece({ plot, depth_mm, x, y, scale, chosen, movable, take, onKey }: PieceProps) {
  const units = useUnits();
  const { outline } = plot;
  const turn = -(plot.place.turn_deg ?? 0);
  const path = outline.rings
    .map(
      (ring) =>
        `M${ring.map(([px, py]) => `${(px * scale).toFixed(1)} ${(-py * scale).toFixed(1)}`).join("L")}Z`,
    )
    .join("");
  const copies = outline.copies ?? [[0, 0]];
  const edge = depth_mm <= 0 ? "2 4" : depth_mm < THIN_MM ? "9 4 3 5" : undefined;
  const close = plot.gap_m !== null && plot.gap_m < CLOSE_GAP_M;
  const box = reach(plot);
  const label = `${plot.number} ${plot.name}`;
  const fits = 2 * box.x * scale > label.length * 6.9 && 2 * box.y * scale > 26;
  const single = copies.length === 1;
  // The tag of a ring stands below the trunk, where it hides neither trunk nor gap.
  const hole = outline.rings[1]?.[0] ? Math.hypot(...outline.rings[1][0]) * scale : 0;
  const beside = hole > 0 && outline.width_m * scale > 60 ? hole + 14 : 0;
  return (
    <g
      transform={`translate(${x} ${y})`}
      role="button"
      tabIndex={0}
      aria-pressed={chosen}
      aria-label={`${plot.number} ${plot.name}, ${depth_mm > 0 ? depth(depth_mm, units) : "bare"}`}
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
          stroke={chosen ? "var(--color-primary)" : "none"}
          strokeWidth={1.5}
          strokeDasharray="3 3"
        />
        {copies.map(([cx, cy]) => (
          <g
            key={`${cx} ${cy}`}
            transform={`translate(${(cx * scale).toFixed(1)} ${(-cy * scale).toFixed(1)})`}
          >
            <path
              d={path}
              fill={textureOf(depth_mm)}
              fillRule="evenodd"
              stroke={chosen ? "var(--color-primary)" : "var(--soil-line)"}
              strokeWidth={chosen ? 2.5 : 1.25}
              strokeDasharray={edge}
            />
            {outline.trunk_radius_m ? (
              <>
                <circle r={Math.max(1.6, outline.trunk_radius_m * scale)} fill="var(--trunk)" />
                {close ? (
                  <>
                    <circle
                      r={outline.trunk_radius_m * scale + 3}
                      fill="none"
                      stroke="var(--color-error)"
                      strokeWidth={1.4}
                    />
                    <circle
                      r={outline.trunk_radius_m * scale + 6}
                      fill="none"
                      stroke="var(--color-error)"
                      strokeWidth={1.4}
                    />
                  </>
                ) : null}
              </>
            ) : null}
          </g>
        ))}
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
      <Tag text={fits && single ? label : String(plot.number)} y={beside} chosen={chosen} />
    </g>
  );
}

function Tag({ text, y, chosen }: { text: string; y: number; chosen: boolean }) {
  const width = text.length * 6.7 + 12;
  return (
    <g transform={`translate(0 ${y})`} pointerEvents="none">
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
