import type { Outline } from "@/api/schema.gen";
import { t } from "@/texts/work";

type Ring = [number, number][];
const path = (rings: Ring[]) =>
  rings.map((ring) => `M${ring.map(([x, y]) => `${x.toFixed(2)} ${(-y).toFixed(2)}`).join("L")}Z`).join("");

/** A plot as measured, with the rows that are opened in it. */
export function RowSketch({ outline, rings }: { outline: Outline; rings: number[][][] }) {
  const margin = Math.max(outline.width_m, outline.height_m) * 0.04;
  const [width, height] = [outline.width_m + 2 * margin, outline.height_m + 2 * margin];
  const pieces = (outline.copies ?? [[0, 0]]).flatMap(([dx = 0, dy = 0]) =>
    (outline.rings as Ring[]).map((ring) => ring.map(([x, y]): [number, number] => [x + dx, y + dy])),
  );
  return (
    <svg
      viewBox={`${-width / 2} ${-height / 2} ${width} ${height}`}
      className="max-h-56 w-full"
      role="img"
      aria-label={t("rowsDrawn")}
    >
      <path
        d={path(pieces)}
        fillRule="evenodd"
        stroke="var(--soil-line)"
        strokeWidth={margin / 6}
        className="fill-base-300"
      />
      <path
        d={path(rings as Ring[])}
        fillRule="evenodd"
        className="fill-base-100"
        stroke="var(--color-base-content)"
        strokeWidth={margin / 9}
        strokeDasharray={`${margin / 2} ${margin / 3}`}
        data-testid="rows-drawn"
      />
    </svg>
  );
}
