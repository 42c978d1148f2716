import { t } from "@/texts/survey";
import { depth } from "@/ui/format";
import { Words } from "@/ui/picture";
import { textureOf } from "./texture";

export function North({ x, y, turn }: { x: number; y: number; turn: number }) {
  return (
    <g transform={`translate(${x} ${y})`} role="img" aria-label={t("north")}>
      <g transform={`rotate(${turn})`}>
        <path d="M0 -19 L6.5 9 L0 4.500 Z" fill="var(--color-base-content)" />
        <path d="M0 -19 L-6.5 9 L0 4.500 Z" fill="none" stroke="var(--color-base-content)" strokeWidth={1.2} />
      </g>
      <Words y={24} anchor="middle" size={13} fontWeight={700}>
        {t("n")}
      </Words>
    </g>
  );
}

export function ScaleBar({ x, y, scale, us }: { x: number; y: number; scale: number; us: boolean }) {
  const unit = us ? 0.3048 : 1;
  const steps = [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000];
  const chosen = steps.find((step) => step * unit * scale >= 40) ?? 10_000;
  const long = chosen * unit * scale;
  return (
    <g
      transform={`translate(${x} ${y})`}
      role="img"
      aria-label={t("scaleBarOf", { length: chosen, unit: us ? t("feet") : t("metres") })}
    >
      <rect width={long / 2} height={5} y={-5} fill="var(--color-base-content)" />
      <rect x={long / 2} width={long / 2} height={5} y={-5} fill="none" stroke="var(--color-base-content)" />
      <Words x={long + 7} y={1} size={13}>
        {chosen} {us ? "ft" : "m"}
      </Words>
    </g>
  );
}

/** The depth legend. */
export function Legend({ x, y, us, narrow }: { x: number; y: number; us: boolean; narrow: boolean }) {
  const depths = us ? [25.4, 76.2, 152.4] : [25, 75, 150];
  const step = narrow ? 64 : 78;
  return (
    <g transform={`translate(${x - step * depths.length} ${y})`} role="img" aria-label={t("moreFlecksMeanDeeperMulch")}>
      {depths.map((mm, index) => (
        <g key={mm} transform={`translate(${index * step} 0)`}>
          <rect y={-14} width={20} height={16} fill={textureOf(mm)} stroke="var(--soil-line)" strokeWidth={0.75} />
          <Words x={25} y={0} size={13}>
            {us ? depth(mm, "us") : t("mmWithMm", { mm })}
          </Words>
        </g>
      ))}
    </g>
  );
}
