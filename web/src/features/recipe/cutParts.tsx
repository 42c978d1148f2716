import { useMemo } from "react";
import type { Layer } from "@/api/schema.gen";
import { t } from "@/texts/recipe";
import { Words } from "@/ui/picture";
import { seeded } from "@/ui/seeded";
import { piecesOf, SHADE, tonesOf } from "./pieces";

/** A band of the cut: what, from where to where above the soil, in mm. */
export interface Band {
  key: string;
  label: string;
  from: number;
  to: number;
  layer?: Layer;
}

interface BandFillProps {
  band: Band;
  x: number;
  width: number;
  y: (mm: number) => number;
}

export function BandFill({ band, x, width, y }: BandFillProps) {
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
      {shade > 0 ? <rect x={x} y={y(band.to)} width={width} height={high} fill="#2a1c12" opacity={shade} /> : null}
      <line x1={x} x2={x + width} y1={y(band.to)} y2={y(band.to)} stroke="var(--soil-line)" strokeWidth={0.8} />
    </g>
  );
}

interface LevelProps {
  y: number;
  from: number;
  to: number;
  text: string;
  strong: boolean;
  hidden: boolean;
}

export function Level({ y, from, to, text, strong, hidden }: LevelProps) {
  if (hidden) return null;
  const wide = text.length * 6.6 + 10;
  return (
    <g>
      <path
        d={`M${from} ${y}H${to}`}
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
      <Words x={to - wide / 2 - 6} y={y + (strong ? -6.5 : 4.5)} anchor="middle" fontWeight={strong ? 700 : 500}>
        {text}
      </Words>
    </g>
  );
}

interface LabelsProps {
  bands: Band[];
  y: (mm: number) => number;
  x: number;
  edge: number;
  narrow: boolean;
  floor: number;
  width: number;
  green: boolean;
}

/** The names of the bands: beside them with leaders, or listed below on a narrow drawing. */
export function Labels({ bands, y, x, edge, narrow, floor, width, green }: LabelsProps) {
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
        const place = Math.max(middle, last + 19);
        const lines = wrapped(rest.length ? `${name}, ${rest.join(", ")}` : name, Math.floor((width - x - 4) / 6.1));
        last = place + (lines.length - 1) * 15;
        return (
          <g key={band.key}>
            <path
              d={`M${edge} ${middle}L${x - 4} ${place}`}
              stroke="var(--color-base-content)"
              strokeWidth={0.8}
              fill="none"
            />
            {lines.map((line, index) => (
              <text key={line} x={x} y={place + 4.5 + index * 15}>
                {line}
              </text>
            ))}
          </g>
        );
      })}
      <text x={x} y={floor - 10}>
        {green ? t("soilPartStaysGreen") : t("soil")}
      </text>
    </g>
  );
}

function wrapped(text: string, most: number): string[] {
  const lines: string[] = [];
  for (const word of text.split(" ")) {
    const line = lines.at(-1);
    if (line !== undefined && line.length + word.length + 1 <= most) lines[lines.length - 1] = `${line} ${word}`;
    else lines.push(word);
  }
  return lines;
}

export function soilMarks(from: number, to: number, ground: number, deep: number) {
  const random = seeded(11);
  let stones = "";
  let roots = "";
  for (let index = 0; index < (to - from) / 9; index += 1) {
    const [x, y, r] = [from + 4 + random() * (to - from - 8), ground + 8 + random() * (deep - 12), 1 + random() * 2.6];
    stones += `M${x.toFixed(1)} ${y.toFixed(1)}q${r} ${-r * 1.2} ${r * 2} 0q${-r * 0.3} ${r} ${-r} ${r}q${-r} 0 ${-r} ${-r}Z`;
    if (index % 3 === 0) {
      const [sx, sy] = [from + random() * (to - from - 20), ground + 3 + random() * 10];
      roots += `M${sx.toFixed(1)} ${sy.toFixed(1)}q${(random() * 6 - 3).toFixed(1)} 8 ${(random() * 8 - 4).toFixed(1)} ${(10 + random() * 14).toFixed(1)}`;
    }
  }
  return { stones, roots };
}

export function Grass({ x, width, ground }: { x: number; width: number; ground: number }) {
  const random = seeded(5);
  let blades = "";
  for (let index = 0; index < width / 3.2; index += 1) {
    const [bx, high, lean] = [x + 3 + random() * (width - 6), 12 + random() * 20, random() * 10 - 5];
    blades += `M${bx.toFixed(1)} ${ground}q${(lean * 0.2).toFixed(1)} ${(-high * 0.6).toFixed(1)} ${lean.toFixed(1)} ${(-high).toFixed(1)}`;
  }
  return <path d={blades} fill="none" stroke="var(--color-success)" strokeWidth={1.7} strokeLinecap="round" />;
}

export function Seedlings({ x, width, ground }: { x: number; width: number; ground: number }) {
  return (
    <g stroke="var(--color-success)" strokeWidth={1.8} fill="none" strokeLinecap="round">
      {[0.3, 0.5, 0.7].map((part) => (
        <path key={part} d={`M${x + width * part} ${ground}v-13m0 0q-6 -1 -7 -6m7 6q6 -1 7 -6`} />
      ))}
    </g>
  );
}
