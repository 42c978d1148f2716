import { useId, useMemo } from "react";
import type { Estimate, Layer } from "@/api/schema.gen";
import { depth, length } from "@/ui/format";
import { useUnits } from "@/ui/units";
import { piecesOf, SHADE, seeded, tonesOf } from "./pieces";

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

const STAGES = { fresh: "fresh", ageing: "ageing", aged: "aged", decomposed: "decomposed" } as const;

/** A band of the cut: what, from where to where above the soil, in mm. */
interface Band {
  key: string;
  label: string;
  from: number;
  to: number;
  layer?: Layer;
}

function bandsOf(recipe: Props["recipe"], existing: number, units: "metric" | "us"): Band[] {
  const bands: Band[] = [];
  let at = 0;
  for (const layer of recipe.layers.filter((one) => one.role !== "mulch")) {
    const label = layer.settled_mm
      ? `${layer.material.name}, ${depth(layer.settled_mm, units)}`
      : layer.material.name;
    bands.push({ key: layer.role, label, from: at, to: at + layer.settled_mm, layer });
    at += layer.settled_mm;
  }
  if (existing > 0) {
    bands.push({ key: "old", label: `Lies there, ${depth(existing, units)}`, from: at, to: at + existing });
    at += existing;
  }
  for (const layer of recipe.layers.filter((one) => one.role === "mulch")) {
    const label = `${layer.material.name}, ${STAGES[layer.stage]}, ${depth(layer.settled_mm, units)}`;
    bands.push({ key: "mulch", label, from: at, to: at + layer.settled_mm, layer });
    at += layer.settled_mm;
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
    .filter((one) => one.role !== "mulch")
    .reduce((sum, one) => sum + one.settled_mm, 0);
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
  const ticks = Array.from(
    { length: Math.floor(top_mm / (step * every)) + 1 },
    (_, index) => index * step * every,
  );
  const soil = useMemo(() => soilMarks(from, to, ground, SOIL), [from, to, ground, SOIL]);
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className="h-full max-h-80 w-full"
      role="img"
      aria-label={`Cut: ${bands.map((band) => band.label).join("; ") || "bare soil"}; wanted ${depth(recipe.target_mm, units)}`}
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
          <g
            stroke={close ? "var(--color-error)" : "var(--color-base-content)"}
            strokeWidth={close ? 2 : 1.1}
          >
            <path
              d={`M${bark} ${ground - 4}V${SKY + 6}M${starts} ${ground - 4}V${SKY + 6}M${bark} ${SKY + 10}H${starts}`}
              fill="none"
            />
            {close ? (
              <path
                d={`M${bark + 3} ${ground - 4}V${SKY + 6}M${starts + 3} ${ground - 4}V${SKY + 6}`}
                fill="none"
              />
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
              ? `gap ${length(gap, units)}: ${length(recipe.gap_least_m ?? 0, units)} needed`
              : `gap ${length(gap, units)}`}
          </text>
        </g>
      ) : null}
      <Level
        y={y(beneath + recipe.target_mm)}
        from={starts}
        to={to}
        text={`wanted ${depth(recipe.target_mm, units)}`}
        strong
        hidden={recipe.target_mm <= 0}
      />
      <Level
        y={y(beneath + recipe.least_mm)}
        from={starts}
        to={to}
        text={`least ${depth(recipe.least_mm, units)}`}
        strong={false}
        hidden={recipe.target_mm <= 0}
      />
      <g fontSize={12.5} fill="var(--color-base-content)">
        <line
          x1={LEFT - 6}
          x2={LEFT - 6}
          y1={y(0)}
          y2={y(ticks.at(-1) ?? 0)}
          stroke="var(--color-base-content)"
          strokeWidth={1.4}
        />
        {ticks.map((mm) => (
          <g key={mm}>
            <line
              x1={LEFT - 13}
              x2={LEFT - 6}
              y1={y(mm)}
              y2={y(mm)}
              stroke="var(--color-base-content)"
              strokeWidth={1.2}
            />
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
  );
}

const laid = (from: number, to: number, holdAt: number, hold: number, ground: number, top: number) => {
  const lip = 18;
  const body = (a: number, b: number) =>
    `M${a} ${ground}L${a + lip} ${top}H${b - (b < to ? lip : 0)}L${b} ${ground}Z`;
  return hold ? body(from, holdAt - hold / 2) + body(holdAt + hold / 2, to) : body(from, to);
};

function BandFill({
  band,
  x,
  width,
  y,
}: {
  band: Band;
  x: number;
  width: number;
  y: (mm: number) => number;
}) {
  const high = y(band.from) - y(band.to);
  const material = band.layer?.material ?? { kind: "manure" as const, size: "fine" as const };
  const { kind, size } = material;
  const tones = useMemo(
    () => piecesOf({ kind, size }, width, high, band.key.length * 31),
    [kind, size, width, high, band.key],
  );
  if (band.layer?.role === "sheet") {
    const waves = Array.from(
      { length: Math.ceil(width / 6) },
      (_, at) => `${x + at * 6} ${y(band.from) - (at % 2 ? 5 : 1)}`,
    );
    return (
      <g>
        <rect x={x} y={y(band.from) - 7} width={width} height={7} fill="#e0c79b" />
        <path
          d={`M${x} ${y(band.from) - 7}H${x + width}M${x} ${y(band.from)}H${x + width}`}
          stroke="#8a6a44"
          strokeWidth={1.4}
        />
        <path d={`M${waves.join("L")}`} fill="none" stroke="#8a6a44" strokeWidth={1.2} />
      </g>
    );
  }
  const colours = tonesOf(material) ?? ["#eed7a8", "#d6ad70", "#b98650"];
  const shade = band.layer ? SHADE[band.layer.stage] : 0.15;
  return (
    <g>
      <rect x={x} y={y(band.to)} width={width} height={high} fill={colours[2]} />
      <g transform={`translate(${x} ${y(band.to)})`}>
        {tones.map((path, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the index is the tone
          <path key={index} d={path} fill={colours[index]} stroke="#00000030" strokeWidth={0.5} />
        ))}
      </g>
      {shade > 0 ? (
        <rect x={x} y={y(band.to)} width={width} height={high} fill="#2a1c12" opacity={shade} />
      ) : null}
      <line
        x1={x}
        x2={x + width}
        y1={y(band.to)}
        y2={y(band.to)}
        stroke="var(--soil-line)"
        strokeWidth={0.8}
      />
    </g>
  );
}

function Level({
  y,
  from,
  to,
  text,
  strong,
  hidden,
}: {
  y: number;
  from: number;
  to: number;
  text: string;
  strong: boolean;
  hidden: boolean;
}) {
  if (hidden) return null;
  const wide = text.length * 6.6 + 10;
  return (
    <g>
      <line
        x1={from}
        x2={to}
        y1={y}
        y2={y}
        stroke={strong ? "var(--color-primary)" : "var(--color-base-content)"}
        strokeWidth={strong ? 2 : 1.3}
        strokeDasharray={strong ? undefined : "5 4"}
      />
      <rect
        x={to - wide - 6}
        y={y - (strong ? 20 : 9)}
        width={wide}
        height={18}
        rx={2}
        fill="var(--color-base-100)"
        stroke={strong ? "var(--color-primary)" : "none"}
      />
      <text
        x={to - wide / 2 - 6}
        y={y + (strong ? -6.5 : 4.5)}
        textAnchor="middle"
        fontSize={12.5}
        fontWeight={strong ? 700 : 500}
        fill="var(--color-base-content)"
      >
        {text}
      </text>
    </g>
  );
}

/** The names of the bands: beside them with leaders, or listed below on a narrow drawing. */
function Labels({
  bands,
  y,
  x,
  edge,
  narrow,
  floor,
  width,
  green,
}: {
  bands: Band[];
  y: (mm: number) => number;
  x: number;
  edge: number;
  narrow: boolean;
  floor: number;
  width: number;
  green: boolean;
}) {
  const rows = [...bands].reverse();
  if (narrow) {
    return (
      <g fontSize={13} fill="var(--color-base-content)">
        {rows.map((band, index) => (
          <text key={band.key} x={12} y={floor + 15 + index * 17}>
            {band.label}
          </text>
        ))}
      </g>
    );
  }
  let last = -Infinity;
  return (
    <g fontSize={13} fill="var(--color-base-content)">
      {rows.map((band) => {
        const middle = (y(band.from) + y(band.to)) / 2 - (band.from === band.to ? 3 : 0);
        const [name = "", ...rest] = band.label.split(", ");
        const at = Math.max(middle, last + 19);
        const lines = wrapped(
          rest.length ? `${name}, ${rest.join(", ")}` : name,
          Math.floor((width - x - 4) / 6.1),
        );
        last = at + (lines.length - 1) * 15;
        return (
          <g key={band.key}>
            <path
              d={`M${edge} ${middle}L${x - 4} ${at}`}
              stroke="var(--color-base-content)"
              strokeWidth={0.8}
              fill="none"
            />
            {lines.map((line, index) => (
              <text key={line} x={x} y={at + 4.5 + index * 15}>
                {line}
              </text>
            ))}
          </g>
        );
      })}
      <text x={x} y={floor - 10}>
        {green ? "Soil; a part stays green" : "Soil"}
      </text>
    </g>
  );
}

function wrapped(text: string, most: number): string[] {
  const lines: string[] = [];
  for (const word of text.split(" ")) {
    const line = lines.at(-1);
    if (line !== undefined && line.length + word.length + 1 <= most)
      lines[lines.length - 1] = `${line} ${word}`;
    else lines.push(word);
  }
  return lines;
}

function soilMarks(from: number, to: number, ground: number, deep: number) {
  const random = seeded(11);
  let stones = "";
  let roots = "";
  for (let index = 0; index < (to - from) / 9; index += 1) {
    const [x, y, r] = [
      from + 4 + random() * (to - from - 8),
      ground + 8 + random() * (deep - 12),
      1 + random() * 2.6,
    ];
    stones += `M${x.toFixed(1)} ${y.toFixed(1)}q${r} ${-r * 1.2} ${r * 2} 0q${-r * 0.3} ${r} ${-r} ${r}q${-r} 0 ${-r} ${-r}Z`;
    if (index % 3 === 0) {
      const [sx, sy] = [from + random() * (to - from - 20), ground + 3 + random() * 10];
      roots += `M${sx.toFixed(1)} ${sy.toFixed(1)}q${(random() * 6 - 3).toFixed(1)} 8 ${(random() * 8 - 4).toFixed(1)} ${(10 + random() * 14).toFixed(1)}`;
    }
  }
  return { stones, roots };
}

function Grass({ x, width, ground }: { x: number; width: number; ground: number }) {
  const random = seeded(5);
  let blades = "";
  for (let at = 0; at < width / 3.2; at += 1) {
    const [bx, high, lean] = [x + 3 + random() * (width - 6), 12 + random() * 20, random() * 10 - 5];
    blades += `M${bx.toFixed(1)} ${ground}q${(lean * 0.2).toFixed(1)} ${(-high * 0.6).toFixed(1)} ${lean.toFixed(1)} ${(-high).toFixed(1)}`;
  }
  return (
    <path d={blades} fill="none" stroke="var(--color-success)" strokeWidth={1.7} strokeLinecap="round" />
  );
}

function Seedlings({ x, width, ground }: { x: number; width: number; ground: number }) {
  return (
    <g stroke="var(--color-success)" strokeWidth={1.8} fill="none" strokeLinecap="round">
      {[0.3, 0.5, 0.7].map((part) => (
        <path key={part} d={`M${x + width * part} ${ground}v-13m0 0q-6 -1 -7 -6m7 6q6 -1 7 -6`} />
      ))}
    </g>
  );
}
