import { depth } from "@/ui/format";
import { useUnits } from "@/ui/units";
import type { Layer } from "./seasons";

const [WIDE, HIGH, SKY, SOIL, LEFT] = [460, 300, 26, 64, 60];
const FILL = ["var(--chip-3)", "var(--chip-2)", "var(--chip-1)"];

/** The cross-section of a plot at a date: soil, the crumb made, and every layer that is left, the youngest on top. */
export function CutAt({
  layers,
  mould_mm,
  week,
  top_mm,
  least_mm,
}: {
  layers: Layer[];
  mould_mm: number;
  week: number;
  top_mm: number;
  least_mm: number | null;
}) {
  const units = useUnits();
  const there = layers
    .map((one) => ({ ...one, mm: one.chips[week] ?? 0 }))
    .filter((one) => one.mm >= 0.5)
    .sort((a, b) => (a.on < b.on ? -1 : 1));
  const scale = (HIGH - SKY - SOIL) / Math.max(60, top_mm);
  const ground = HIGH - SOIL;
  const wide = WIDE - LEFT - 178;
  const step = (units === "us" ? 25.4 : 25) * (top_mm * scale > 0 && scale * 25 < 14 ? 2 : 1);
  const ticks = Array.from({ length: Math.floor(top_mm / step) + 1 }, (_, at) => at * step);
  let at = 0;
  let label = HIGH;
  const bands = there.map((one, index) => {
    const from = at;
    at += one.mm;
    return {
      ...one,
      from,
      to: at,
      fill: FILL[Math.min(FILL.length - 1, there.length - 1 - index === 0 ? 2 : index % 2)],
    };
  });
  const tags = bands.map((one) => {
    const middle = ground - ((one.from + one.to) / 2) * scale;
    label = Math.min(middle + 4, label - 32);
    return { key: one.on + one.name, middle, y: label, one };
  });
  const crumb = mould_mm * scale;
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className="h-full max-h-80 w-full"
      role="img"
      data-testid="cut-at"
      aria-label={`Cut: ${bands.map((one) => `${one.name}, ${depth(one.mm, units)}`).join("; ") || "no chips left"}; crumb ${depth(mould_mm, units)}`}
    >
      <rect x={LEFT} y={ground} width={wide} height={SOIL} fill="var(--cut-soil)" />
      <rect x={LEFT} y={ground} width={wide} height={Math.min(SOIL, crumb)} fill="var(--cut-bark)" />
      <path
        d={Array.from(
          { length: 26 },
          (_, n) => `M${LEFT + ((n * 53) % wide)} ${ground + 5 + ((n * 29) % (SOIL - 12))}h${2 + (n % 3)}`,
        ).join("")}
        stroke="var(--cut-stone)"
        strokeWidth={2.4}
        strokeLinecap="round"
      />
      {bands.map((one) => (
        <g key={one.on + one.name}>
          <rect
            x={LEFT}
            y={ground - one.to * scale}
            width={wide}
            height={(one.to - one.from) * scale}
            fill={one.fill}
            stroke="var(--soil-line)"
            strokeWidth={0.8}
            strokeDasharray={one.planned ? "4 3" : undefined}
          />
          <path
            d={Array.from({ length: Math.min(90, Math.round(one.mm * 0.9)) }, (_, n) => {
              const px = LEFT + 6 + ((n * 61 + one.mm * 7) % (wide - 16));
              const py = ground - one.from * scale - 3 - ((n * 37) % Math.max(1, one.mm * scale - 5));
              return `M${px.toFixed(1)} ${py.toFixed(1)}l${4 + (n % 4)} ${((n * 3) % 5) - 2}`;
            }).join("")}
            stroke="var(--soil-line)"
            strokeWidth={1.1}
            opacity={0.5}
          />
        </g>
      ))}
      <line x1={LEFT} x2={LEFT + wide} y1={ground} y2={ground} stroke="var(--soil-line)" strokeWidth={1.6} />
      {ticks.map((mm) => (
        <g key={mm}>
          <line
            x1={LEFT - 5}
            x2={LEFT}
            y1={ground - mm * scale}
            y2={ground - mm * scale}
            stroke="var(--color-base-content)"
          />
          <text
            x={LEFT - 8}
            y={ground - mm * scale + 4}
            fontSize={12.5}
            textAnchor="end"
            fill="var(--color-base-content)"
          >
            {depth(mm, units)}
          </text>
        </g>
      ))}
      {least_mm ? (
        <g>
          <line
            x1={LEFT}
            x2={LEFT + wide + 6}
            y1={ground - least_mm * scale}
            y2={ground - least_mm * scale}
            stroke="var(--color-error)"
            strokeDasharray="2 4"
            strokeWidth={1.6}
          />
        </g>
      ) : null}
      {tags.map(({ key, middle, y, one }) => (
        <g key={key}>
          <path
            d={`M${LEFT + wide} ${middle}L${LEFT + wide + 12} ${y - 4}`}
            stroke="var(--color-base-content)"
            strokeWidth={0.8}
            fill="none"
          />
          <text x={LEFT + wide + 15} y={y} fontSize={13} fill="var(--color-base-content)">
            {one.name.length > 22 ? `${one.name.slice(0, 21)}…` : one.name}
          </text>
          <text
            x={LEFT + wide + 15}
            y={y + 14}
            fontSize={13}
            fontWeight={700}
            fill="var(--color-base-content)"
          >
            {depth(one.mm, units)}
            <tspan fontWeight={400}>
              {" "}
              {new Date(`${one.on}T12:00`).toLocaleDateString(undefined, { month: "short", year: "numeric" })}
            </tspan>
          </text>
        </g>
      ))}
      <text x={LEFT + wide + 15} y={ground + 34} fontSize={13} fill="var(--color-base-content)">
        crumb made
      </text>
      <text
        x={LEFT + wide + 15}
        y={ground + 49}
        fontSize={13}
        fontWeight={700}
        fill="var(--color-base-content)"
      >
        {depth(mould_mm, units)}
      </text>
    </svg>
  );
}
