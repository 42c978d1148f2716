import { t } from "@/texts/survey";
import { seeded } from "@/ui/seeded";

/** Depth as texture: the deeper the mulch, the denser the flecks on the soil. */

const TILE = 72;
const LEVELS = 8;
const FULL_MM = 150;

/** The flecks of one tile as one path for each of three tones. */
function flecks(level: number) {
  const random = seeded(7);
  const tones = ["", "", ""];
  for (let index = 0; index < (level > 0 ? 12 + 9 * level ** 2 : 0); index += 1) {
    const [x, y, turn] = [random() * TILE, random() * TILE, random() * Math.PI];
    const [long, wide, tone] = [2.2 + random() * 3.4, 0.9 + random() * 1.1, Math.floor(random() * 3)];
    // Flecks that cross an edge are drawn again on the other side, so that no seam shows.
    for (const dx of [-TILE, 0, TILE]) {
      for (const dy of [-TILE, 0, TILE]) {
        const [cx, cy] = [x + dx, y + dy];
        if (cx < -6 || cy < -6 || cx > TILE + 6 || cy > TILE + 6) continue;
        const corners = [
          [-long, -wide],
          [long, -wide * 0.6],
          [long * 0.9, wide],
          [-long * 0.8, wide * 0.8],
        ].map(([a = 0, b = 0]) => {
          const px = cx + a * Math.cos(turn) - b * Math.sin(turn);
          const py = cy + a * Math.sin(turn) + b * Math.cos(turn);
          return `${px.toFixed(1)} ${py.toFixed(1)}`;
        });
        tones[tone] += `M${corners.join("L")}Z`;
      }
    }
  }
  return tones;
}

const DRAWN = Array.from({ length: LEVELS + 1 }, (_, level) => flecks(level));

function level(depth_mm: number) {
  return depth_mm <= 0 ? 0 : Math.min(LEVELS, Math.max(1, Math.round((depth_mm / FULL_MM) * LEVELS)));
}

/** The fill of ground covered `depth_mm` deep. */
export const textureOf = (depth_mm: number) => `url(#depth-${level(depth_mm)})`;

export function Textures() {
  return (
    <defs>
      {DRAWN.map((marks, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: the index is the level
        <pattern key={index} id={`depth-${index}`} width={TILE} height={TILE} patternUnits="userSpaceOnUse">
          <rect width={TILE} height={TILE} fill="var(--soil)" />
          {marks.map((path, tone) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: the index is the tone
            <path key={tone} d={path} fill={`var(--chip-${tone + 1})`} />
          ))}
        </pattern>
      ))}
    </defs>
  );
}

/** Bounds in g N/m² between the drawings of what is owed and paid back. */
const OWED = [0.25, 1, 4];

const degree = (g: number) => OWED.filter((bound) => Math.abs(g) >= bound).length;

/** The fill of ground by its nitrogen: hatched where it is owed, dotted where it is paid back, closer where more. */
export const owingOf = (g: number) =>
  degree(g) === 0 ? "var(--color-base-100)" : `url(#${g < 0 ? "owes" : "pays"}-${degree(g)})`;

export function Owing() {
  return (
    <defs>
      {OWED.map((bound, index) => {
        const spacing = [12, 8, 5][index] ?? 5;
        return (
          <g key={bound}>
            <pattern
              id={`owes-${index + 1}`}
              width={spacing}
              height={spacing}
              patternUnits="userSpaceOnUse"
              patternTransform="rotate(45)"
            >
              <rect width={spacing} height={spacing} fill="var(--color-base-100)" />
              <path d={`M0 0V${spacing}`} stroke="var(--color-base-content)" strokeWidth={2 + index * 0.6} />
            </pattern>
            <pattern id={`pays-${index + 1}`} width={spacing} height={spacing} patternUnits="userSpaceOnUse">
              <rect width={spacing} height={spacing} fill="var(--color-base-100)" />
              <circle cx={spacing / 2} cy={spacing / 2} r={1.6 + index * 0.4} fill="var(--color-secondary)" />
            </pattern>
          </g>
        );
      })}
    </defs>
  );
}

export function OwedLegend({ x, y }: { x: number; y: number }) {
  return (
    <g fontSize={13} fill="var(--color-base-content)" textAnchor="end">
      <rect x={x - 150} y={y - 13} width={20} height={16} fill={owingOf(-2)} stroke="var(--soil-line)" />
      <text x={x - 90} y={y}>
        {t("owed")}
      </text>
      <rect x={x - 80} y={y - 13} width={20} height={16} fill={owingOf(2)} stroke="var(--soil-line)" />
      <text x={x} y={y}>
        {t("paidBack")}
      </text>
    </g>
  );
}
