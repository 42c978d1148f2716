import { t } from "@/texts/schedule";
import { DataTable } from "@/ui/DataTable";
import { dateFormat } from "@/ui/intl";
import { Words } from "@/ui/picture";
import { aboutDepth } from "@/ui/precision";
import { useUnits } from "@/ui/units";
import type { Layer } from "./seasons";

const [WIDE, HIGH, SKY, SOIL, LEFT] = [460, 300, 26, 64, 60];
const FILL = ["var(--chip-3)", "var(--chip-2)", "var(--chip-1)"];

interface Band {
  key: string;
  name: string;
  on: string;
  planned: boolean;
  mm: number;
  from: number;
  to: number;
  fill: string;
}

/** What is left of layers at a week, stacked, the youngest on top; `times` undoes the mean over a ring's quarters. */
function stacked(layers: Layer[], week: number): Band[] {
  let height = 0;
  return layers
    .map((layer) => ({ ...layer, mm: (layer.chips[week] ?? 0) * (layer.quarter === null ? 1 : 4) }))
    .filter((layer) => layer.mm >= 0.5)
    .sort((a, b) => (a.on < b.on ? -1 : 1))
    .map((layer, index, all) => {
      const from = height;
      height += layer.mm;
      const fill = FILL[index === all.length - 1 ? 2 : index % 2] ?? FILL[0];
      return { ...layer, key: `${layer.on}${layer.name}${index}`, from, to: height, fill: fill as string };
    });
}

const month = (iso: string) => dateFormat({ month: "short", year: "numeric" }).format(new Date(`${iso}T12:00`));

interface CutAtProps {
  layers: Layer[];
  humus_mm: number;
  week: number;
  top_mm: number;
  least_mm: number | null;
}

/** The cross-section of a plot at a date: soil, the humus made, and every layer that is left, the youngest on top. */
export function CutAt({ layers, humus_mm, week, top_mm, least_mm }: CutAtProps) {
  const units = useUnits();
  const quartered = layers.some((layer) => layer.quarter !== null);
  const columns = (quartered ? [0, 1, 2, 3] : [null]).map((quarter) =>
    stacked(
      layers.filter((layer) => layer.quarter === null || layer.quarter === quarter),
      week,
    ),
  );
  const highest = Math.max(60, top_mm, ...columns.map((bands) => bands.at(-1)?.to ?? 0));
  const scale = (HIGH - SKY - SOIL) / highest;
  const ground = HIGH - SOIL;
  const wide = WIDE - LEFT - 178;
  const each = wide / columns.length;
  const step = (units === "us" ? 25.4 : 25) * (scale * 25 < 14 ? 2 : 1);
  const ticks = Array.from({ length: Math.floor(highest / step) + 1 }, (_, at) => at * step);
  let label = HIGH;
  const tags = quartered
    ? columns.map((bands, quarter) => ({
        key: String(quarter),
        middle: null,
        y: SKY + 14 + quarter * 40,
        name: t("quarter", { number: quarter + 1 }),
        mm: bands.at(-1)?.to ?? 0,
        on: bands.at(-1)?.on,
      }))
    : (columns[0] ?? []).map((band) => {
        const middle = ground - ((band.from + band.to) / 2) * scale;
        label = Math.min(middle + 4, label - 32);
        return { key: band.key, middle, y: label, name: band.name, mm: band.mm, on: band.on };
      });
  const words = tags.map((tag) => `${tag.name}, ${aboutDepth(tag.mm, units)}`);
  return (
    <>
      <svg
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        className="h-full max-h-80 w-full"
        role="img"
        data-testid="cut-at"
        aria-label={t("cutHumus", {
          layers: words.join("; ") || t("noChipsLeft"),
          depth: aboutDepth(humus_mm, units),
        })}
      >
        <rect x={LEFT} y={ground} width={wide} height={SOIL} fill="var(--cut-soil)" />
        <rect x={LEFT} y={ground} width={wide} height={Math.min(SOIL, humus_mm * scale)} fill="var(--cut-bark)" />
        <path
          d={Array.from(
            { length: 26 },
            (_, n) => `M${LEFT + ((n * 53) % wide)} ${ground + 5 + ((n * 29) % (SOIL - 12))}h${2 + (n % 3)}`,
          ).join("")}
          stroke="var(--cut-stone)"
          strokeWidth={2.4}
          strokeLinecap="round"
        />
        {columns.map((bands, column) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: quarters keep their places
          <g key={column}>
            {bands.map((band) => (
              <LayerBand
                key={band.key}
                band={band}
                x={LEFT + column * each}
                width={each}
                ground={ground}
                scale={scale}
              />
            ))}
            {quartered ? (
              <text
                x={LEFT + (column + 0.5) * each}
                y={ground + 16}
                fontSize={13}
                fontWeight={700}
                textAnchor="middle"
                fill="var(--color-base-100)"
              >
                {column + 1}
              </text>
            ) : null}
          </g>
        ))}
        <line x1={LEFT} x2={LEFT + wide} y1={ground} y2={ground} stroke="var(--soil-line)" strokeWidth={1.6} />
        {ticks.map((mm) => (
          <g key={mm}>
            <path d={`M${LEFT - 5} ${ground - mm * scale}H${LEFT}`} stroke="var(--color-base-content)" />
            <Words x={LEFT - 8} y={ground - mm * scale + 4} anchor="end">
              {aboutDepth(mm, units)}
            </Words>
          </g>
        ))}
        {least_mm ? (
          <path
            d={`M${LEFT} ${ground - least_mm * scale}H${LEFT + wide + 6}`}
            stroke="var(--color-error)"
            strokeDasharray="2 4"
            strokeWidth={1.6}
          />
        ) : null}
        {tags.map((tag) => (
          <g key={tag.key} fill="var(--color-base-content)" fontSize={13}>
            {tag.middle === null ? null : (
              <path
                d={`M${LEFT + wide} ${tag.middle}L${LEFT + wide + 12} ${tag.y - 4}`}
                stroke="var(--color-base-content)"
                strokeWidth={0.8}
                fill="none"
              />
            )}
            <text x={LEFT + wide + 15} y={tag.y}>
              {tag.name.length > 22 ? `${tag.name.slice(0, 21)}…` : tag.name}
            </text>
            <text x={LEFT + wide + 15} y={tag.y + 14} fontWeight={700}>
              {aboutDepth(tag.mm, units)}
              <tspan fontWeight={400}> {tag.on ? month(tag.on) : ""}</tspan>
            </text>
          </g>
        ))}
        <Words x={LEFT + wide + 15} y={ground + 34} size={13}>
          {t("humusFormed")}
        </Words>
        <Words x={LEFT + wide + 15} y={ground + 49} size={13} fontWeight={700}>
          {aboutDepth(humus_mm, units)}
        </Words>
      </svg>
      <DataTable
        caption={t("layersOfTheCut")}
        heads={[t("layer"), t("depthLeft"), t("laidOn")]}
        rows={[...tags].reverse().map((tag) => [tag.name, aboutDepth(tag.mm, units), tag.on ? month(tag.on) : ""])}
      />
    </>
  );
}

interface LayerBandProps {
  band: Band;
  x: number;
  width: number;
  ground: number;
  scale: number;
}

function LayerBand({ band, x, width, ground, scale }: LayerBandProps) {
  const flecks = Array.from({ length: Math.min(90, Math.round((band.mm * width) / 280)) }, (_, n) => {
    const px = x + 4 + ((n * 61 + band.from * 7) % Math.max(1, width - 14));
    const py = ground - band.from * scale - 3 - ((n * 37) % Math.max(1, band.mm * scale - 5));
    return `M${px.toFixed(1)} ${py.toFixed(1)}l${4 + (n % 4)} ${((n * 3) % 5) - 2}`;
  });
  return (
    <>
      <rect
        x={x}
        y={ground - band.to * scale}
        width={width}
        height={(band.to - band.from) * scale}
        fill={band.fill}
        stroke="var(--soil-line)"
        strokeWidth={0.8}
        strokeDasharray={band.planned ? "4 3" : undefined}
      />
      <path d={flecks.join("")} stroke="var(--soil-line)" strokeWidth={1.1} opacity={0.5} />
    </>
  );
}
