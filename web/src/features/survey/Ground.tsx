import { LayoutGrid } from "lucide-react";
import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from "react";
import type { Outline, Place, PlotOut, SiteOut } from "@/api/schema.gen";
import { depth } from "@/ui/format";
import { useUnits } from "@/ui/units";
import { Textures, textureOf } from "./texture";

/** What is drawn: a kept plot, or the one being typed. */
export interface Drawn {
  id: string;
  number: number;
  name: string;
  outline: Outline;
  place: Place;
  existing_mm: number;
  wanted_mm: number;
  gap_m: number | null;
}

export type When = "lies" | "wanted";

const THIN_MM = 50;
const CLOSE_GAP_M = 0.1;
const MARGIN = 34;
const FOOT = 26;
const HEAD = 62;

export function drawn(plot: PlotOut, number: number): Drawn {
  const gap_m = plot.shape.kind === "ring" ? plot.shape.gap_m : null;
  return { ...plot, number, gap_m };
}

/** Half width and half height of the box round a placed outline, in metres. */
function reach({ outline, place }: Pick<Drawn, "outline" | "place">) {
  const turn = ((place.turn_deg ?? 0) * Math.PI) / 180;
  const [cos, sin] = [Math.abs(Math.cos(turn)), Math.abs(Math.sin(turn))];
  return {
    x: (cos * outline.width_m + sin * outline.height_m) / 2,
    y: (sin * outline.width_m + cos * outline.height_m) / 2,
  };
}

function boundsOf(plots: Drawn[]) {
  const west = Math.min(...plots.map((plot) => plot.place.x_m - reach(plot).x));
  const east = Math.max(...plots.map((plot) => plot.place.x_m + reach(plot).x));
  const south = Math.min(...plots.map((plot) => plot.place.y_m - reach(plot).y));
  const north = Math.max(...plots.map((plot) => plot.place.y_m + reach(plot).y));
  return { west, east, south, north };
}

function useSize() {
  const ref = useRef<HTMLDivElement>(null);
  const [size, set] = useState({ width: 0, height: 0 });
  useEffect(() => {
    if (!ref.current) return;
    const observer = new ResizeObserver(([entry]) => {
      if (entry) set({ width: entry.contentRect.width, height: entry.contentRect.height });
    });
    observer.observe(ref.current);
    return () => observer.disconnect();
  }, []);
  return { ref, ...size };
}

interface Props {
  site: SiteOut;
  plots: Drawn[];
  chosen: string | undefined;
  choose: (id: string) => void;
  place?: (places: Record<string, Place | null>) => void;
}

type Grip = { id: string; turning: boolean; from: Place; x: number; y: number };

/** The plan of the site, drawn to scale from the measurements. */
export function Ground({ site, plots, chosen, choose, place }: Props) {
  const units = useUnits();
  const { ref, width, height } = useSize();
  const [when, setWhen] = useState<When>("wanted");
  const [grip, setGrip] = useState<Grip | null>(null);
  const [moved, setMoved] = useState<Place | null>(null);
  const bounds = boundsOf(plots);
  const scale = Math.min(
    (width - 2 * MARGIN) / Math.max(1, bounds.east - bounds.west),
    (height - MARGIN - HEAD - FOOT) / Math.max(1, bounds.north - bounds.south),
  );
  const left = (width - (bounds.east - bounds.west) * scale) / 2;
  const top = HEAD + (height - HEAD - FOOT - MARGIN - (bounds.north - bounds.south) * scale) / 2;
  const toX = (x_m: number) => left + (x_m - bounds.west) * scale;
  const toY = (y_m: number) => top + (bounds.north - y_m) * scale;

  const keep = (id: string, next: Place) => {
    // With the first one set by hand all are held where they are, so that nothing else jumps.
    const all = Object.fromEntries(
      plots.filter((plot) => plot.id !== "new").map((plot) => [plot.id, plot.place]),
    );
    place?.({ ...all, [id]: next });
  };
  const take = (event: PointerEvent, plot: Drawn, turning: boolean) => {
    event.stopPropagation();
    choose(plot.id);
    if (!place || plot.id === "new") return;
    event.currentTarget.setPointerCapture(event.pointerId);
    setGrip({ id: plot.id, turning, from: plot.place, x: event.clientX, y: event.clientY });
  };
  const drag = (event: PointerEvent) => {
    if (!grip) return;
    const box = ref.current?.getBoundingClientRect();
    if (grip.turning && box) {
      const [dx, dy] = [
        event.clientX - box.left - toX(grip.from.x_m),
        event.clientY - box.top - toY(grip.from.y_m),
      ];
      const raw = (Math.atan2(-dy, dx) * 180) / Math.PI - 90;
      const step = event.shiftKey ? 1 : 5;
      setMoved({ ...grip.from, turn_deg: Math.round(raw / step) * step });
      return;
    }
    const [dx, dy] = [(event.clientX - grip.x) / scale, (event.clientY - grip.y) / scale];
    if (Math.hypot(dx, dy) * scale < 4 && !moved) return;
    setMoved({ ...grip.from, x_m: round(grip.from.x_m + dx), y_m: round(grip.from.y_m - dy) });
  };
  const drop = () => {
    if (grip && moved) keep(grip.id, moved);
    setGrip(null);
    setMoved(null);
  };
  const key = (event: KeyboardEvent, plot: Drawn) => {
    const far = event.shiftKey ? 5 : 0.5;
    const by: Record<string, Partial<Place>> = {
      ArrowLeft: { x_m: round(plot.place.x_m - far) },
      ArrowRight: { x_m: round(plot.place.x_m + far) },
      ArrowUp: { y_m: round(plot.place.y_m + far) },
      ArrowDown: { y_m: round(plot.place.y_m - far) },
      "[": { turn_deg: ((plot.place.turn_deg ?? 0) + 15) % 360 },
      "]": { turn_deg: ((plot.place.turn_deg ?? 0) - 15) % 360 },
    };
    if (event.key === "Enter" || event.key === " ") choose(plot.id);
    else if (by[event.key] && place && plot.id !== "new") keep(plot.id, { ...plot.place, ...by[event.key] });
    else return;
    event.preventDefault();
  };

  return (
    <section aria-label="Ground plan" className="relative flex h-full min-h-72 flex-col">
      <div className="absolute top-2 left-2 z-10 flex gap-1 print:hidden">
        <div className="join" role="group" aria-label="Which depth is drawn">
          {(["lies", "wanted"] as const).map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={when === one}
              className={`btn btn-sm join-item press ${when === one ? "btn-neutral" : "bg-base-100"}`}
              onClick={() => setWhen(one)}
            >
              {one === "lies" ? "As it lies" : "As wanted"}
            </button>
          ))}
        </div>
        {place ? (
          <button
            type="button"
            className="btn btn-sm btn-square press bg-base-100"
            aria-label="Set all plots out side by side again"
            title="Set all plots out side by side again"
            onClick={() =>
              place(
                Object.fromEntries(plots.filter((plot) => plot.id !== "new").map((plot) => [plot.id, null])),
              )
            }
          >
            <LayoutGrid size={17} />
          </button>
        ) : null}
      </div>
      <div ref={ref} className="relative min-h-0 grow overflow-hidden">
        {width < 60 ? null : (
          <svg
            width={width}
            height={height}
            viewBox={`0 0 ${width} ${height}`}
            className="absolute inset-0 touch-none select-none"
            role="group"
            aria-label={`Plan of ${site.name} with ${plots.length} plots`}
            onPointerMove={drag}
            onPointerUp={drop}
            onPointerCancel={drop}
          >
            <Textures />
            {[...plots]
              .sort((a, b) => Number(a.id === chosen) - Number(b.id === chosen))
              .map((plot) => {
                const at = moved && grip?.id === plot.id ? moved : plot.place;
                return (
                  <PlotPiece
                    key={plot.id}
                    plot={{ ...plot, place: at }}
                    depth_mm={when === "lies" ? plot.existing_mm : plot.wanted_mm}
                    x={toX(at.x_m)}
                    y={toY(at.y_m)}
                    scale={scale}
                    chosen={plot.id === chosen}
                    movable={Boolean(place) && plot.id !== "new"}
                    take={take}
                    onKey={key}
                  />
                );
              })}
            <North x={width - 26} y={30} turn={site.north_deg} />
            <ScaleBar x={14} y={height - 12} scale={scale} us={units === "us"} />
            <Legend x={width - 14} y={height - 12} us={units === "us"} narrow={width < 460} />
          </svg>
        )}
      </div>
    </section>
  );
}

const round = (value: number) => Math.round(value * 100) / 100;

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

function PlotPiece({ plot, depth_mm, x, y, scale, chosen, movable, take, onKey }: PieceProps) {
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

function North({ x, y, turn }: { x: number; y: number; turn: number }) {
  return (
    <g transform={`translate(${x} ${y})`} role="img" aria-label="North">
      <g transform={`rotate(${turn})`}>
        <path d="M0 -19 L6.5 9 L0 4.500 Z" fill="var(--color-base-content)" />
        <path
          d="M0 -19 L-6.5 9 L0 4.500 Z"
          fill="none"
          stroke="var(--color-base-content)"
          strokeWidth={1.2}
        />
      </g>
      <text y={24} textAnchor="middle" fontSize={13} fontWeight={700} fill="var(--color-base-content)">
        N
      </text>
    </g>
  );
}

function ScaleBar({ x, y, scale, us }: { x: number; y: number; scale: number; us: boolean }) {
  const unit = us ? 0.3048 : 1;
  const steps = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000];
  const chosen = steps.find((step) => step * unit * scale >= 56) ?? 10_000;
  const long = chosen * unit * scale;
  return (
    <g
      transform={`translate(${x} ${y})`}
      role="img"
      aria-label={`Scale bar of ${chosen} ${us ? "feet" : "metres"}`}
    >
      <rect width={long / 2} height={5} y={-5} fill="var(--color-base-content)" />
      <rect x={long / 2} width={long / 2} height={5} y={-5} fill="none" stroke="var(--color-base-content)" />
      <text x={long + 7} y={1} fontSize={13} fill="var(--color-base-content)">
        {chosen} {us ? "ft" : "m"}
      </text>
    </g>
  );
}

function Legend({ x, y, us, narrow }: { x: number; y: number; us: boolean; narrow: boolean }) {
  const depths = us ? [25.4, 76.2, 152.4] : [25, 75, 150];
  const step = narrow ? 64 : 78;
  return (
    <g
      transform={`translate(${x - step * depths.length} ${y})`}
      role="img"
      aria-label="The denser the flecks, the deeper the mulch"
    >
      {depths.map((mm, index) => (
        <g key={mm} transform={`translate(${index * step} 0)`}>
          <rect
            y={-14}
            width={20}
            height={16}
            fill={textureOf(mm)}
            stroke="var(--soil-line)"
            strokeWidth={0.75}
          />
          <text x={25} y={0} fontSize={13} fill="var(--color-base-content)">
            {us ? depth(mm, "us") : `${mm} mm`}
          </text>
        </g>
      ))}
    </g>
  );
}
