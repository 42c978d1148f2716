import type { Dimension, Outline } from "@/api/schema.gen";
import { t } from "@/texts/survey";
import { sideLength } from "@/ui/precision";
import { useUnits } from "@/ui/units";
import { Textures, textureOf } from "./texture";

interface Props {
  outline: Outline;
  wanted_mm: number;
  focus: string | undefined;
  onPick: (field: string) => void;
}

const [WIDTH, HEIGHT, MARGIN, LINE] = [352, 168, 30, 15];

/** What has to be seen: all of a single piece, or of repeated ones the first with its dimension lines. */
function viewOf(outline: Outline) {
  const repeated = (outline.copies?.length ?? 1) > 1 || (outline.trunks?.length ?? 0) > 1;
  const lines = (outline.dimensions ?? []).flatMap((line) => line.points);
  const tall = Math.max(outline.width_m, outline.height_m) > 4 * Math.min(outline.width_m, outline.height_m);
  const ring = outline.rings.flat();
  const points =
    repeated && tall && lines.length > 0
      ? lines
      : repeated && (outline.trunks?.length ?? 0) <= 1
        ? [...ring, ...lines]
        : ring;
  const xs = points.map(([x]) => x);
  const ys = points.map(([, y]) => y);
  return {
    west: Math.min(...xs),
    east: Math.max(...xs),
    south: Math.min(...ys),
    north: Math.max(...ys),
  };
}

/** The plot by itself with its dimension lines; the number being edited stands out, and a line leads to its field. */
export function Sketch({ outline, wanted_mm, focus, onPick }: Props) {
  const units = useUnits();
  const box = viewOf(outline);
  const scale = Math.min(
    (WIDTH - 2 * MARGIN) / Math.max(0.1, box.east - box.west),
    (HEIGHT - 2 * MARGIN) / Math.max(0.1, box.north - box.south),
  );
  const toX = (x: number) => WIDTH / 2 + (x - (box.west + box.east) / 2) * scale;
  const toY = (y: number) => HEIGHT / 2 - (y - (box.south + box.north) / 2) * scale;
  const drawn = (rings: [number, number][][]) =>
    rings.map((ring) => `M${ring.map(([x, y]) => `${toX(x).toFixed(1)} ${toY(y).toFixed(1)}`).join("L")}Z`).join("");
  const path = drawn(outline.rings as [number, number][][]);
  const copies = (outline.copies ?? []).filter(([x, y]) => Math.abs(x * scale) < WIDTH && Math.abs(y * scale) < HEIGHT);
  const lines = outline.dimensions ?? [];
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="sticky -top-3 z-10 w-full rounded-box bg-base-200"
      role="group"
      aria-label={t("thePlotWithItsMeasurements")}
    >
      <Textures />
      {copies.map(([x, y]) => (
        <g key={`${x} ${y}`} transform={`translate(${(x * scale).toFixed(1)} ${(-y * scale).toFixed(1)})`}>
          <path
            d={path}
            fill={textureOf(wanted_mm)}
            fillRule="evenodd"
            stroke="var(--soil-line)"
            strokeWidth={1.2}
            opacity={0.85}
          />
          {outline.trunk_radius_m
            ? outline.trunks?.map(([tx, ty]) => (
                <circle
                  key={`${tx} ${ty}`}
                  cx={toX(tx)}
                  cy={toY(ty)}
                  r={Math.max(1.5, (outline.trunk_radius_m ?? 0) * scale)}
                  fill="var(--trunk)"
                />
              ))
            : null}
        </g>
      ))}
      <path
        d={drawn((outline.cuts ?? []) as [number, number][][])}
        fill="var(--color-base-200)"
        stroke="var(--soil-line)"
        strokeDasharray="3 2"
      />
      {[...lines]
        .sort((a, b) => Number(a.field === focus) - Number(b.field === focus))
        .map((line) => (
          <Line
            key={line.field}
            line={line}
            from={[toX(line.points[0][0]), toY(line.points[0][1])]}
            to={[toX(line.points[1][0]), toY(line.points[1][1])]}
            text={sideLength(line.value_m, units)}
            chosen={line.field === focus || line.field.startsWith(`${focus}.`)}
            crowded={lines.length > 12}
            onPick={onPick}
          />
        ))}
    </svg>
  );
}

interface LineProps {
  line: Dimension;
  from: [number, number];
  to: [number, number];
  text: string;
  chosen: boolean;
  crowded: boolean;
  onPick: (field: string) => void;
}

function Line({ line, from, to, text, chosen, crowded, onPick }: LineProps) {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  const long = Math.hypot(dx, dy) || 1;
  // The left of the direction, as it is seen with y downwards.
  const [nx, ny] = [dy / long, -dx / long];
  const out = (line.outward ?? 1) * LINE;
  const [x1, y1, x2, y2] = [from[0] + nx * out, from[1] + ny * out, to[0] + nx * out, to[1] + ny * out];
  const colour = chosen ? "var(--color-primary)" : "var(--color-base-content)";
  // Offsets stand side by side; labels at two heights by turns keep clear of each other.
  const part = line.field.startsWith("offsets_m.") ? (Number(line.field.slice(10)) % 2 ? 0.68 : 0.32) : 0.5;
  const wide = text.length * 6.4 + 6;
  const mx = Math.min(WIDTH - wide / 2 - 2, Math.max(wide / 2 + 2, x1 + (x2 - x1) * part));
  const my = Math.min(HEIGHT - 10, Math.max(10, y1 + (y2 - y1) * part));
  const tick = (x: number, y: number) => {
    const [tx, ty] = [((dx / long + nx) * 4) / Math.SQRT2, ((dy / long + ny) * 4) / Math.SQRT2];
    return <line x1={x - tx} y1={y - ty} x2={x + tx} y2={y + ty} strokeWidth={chosen ? 2.5 : 1.5} />;
  };
  const isShown = chosen || !crowded;
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the fields themselves are reached by keyboard
    <g
      stroke={colour}
      style={{ cursor: "pointer" }}
      onClick={() => onPick(line.field)}
      data-dimension={line.field}
      data-chosen={chosen}
    >
      <line x1={x1} y1={y1} x2={x2} y2={y2} stroke="transparent" strokeWidth={14} />
      <line x1={from[0]} y1={from[1]} x2={x1} y2={y1} strokeWidth={0.6} />
      <line x1={to[0]} y1={to[1]} x2={x2} y2={y2} strokeWidth={0.6} />
      <line x1={x1} y1={y1} x2={x2} y2={y2} strokeWidth={chosen ? 2.2 : 1} />
      {tick(x1, y1)}
      {tick(x2, y2)}
      {isShown ? (
        <g stroke="none">
          <rect x={mx - wide / 2} y={my - 8.5} width={wide} height={17} rx={2} fill="var(--color-base-100)" />
          <text x={mx} y={my + 4.5} textAnchor="middle" fontSize={13} fontWeight={chosen ? 700 : 500} fill={colour}>
            {text}
          </text>
        </g>
      ) : null}
    </g>
  );
}
