import { useMemo } from "react";
import type { Material } from "@/api/schema.gen";
import { piecesOf, tonesOf } from "@/features/recipe/pieces";

interface Props {
  material: Pick<Material, "kind" | "size">;
  large?: boolean;
}

/** A handful of the material, drawn from its kind and the size of its pieces. */
export function Swatch({ material, large = false }: Props) {
  const [wide, high] = large ? [360, 84] : [56, 40];
  const { kind, size } = material;
  const tones = useMemo(() => piecesOf({ kind, size }, wide, high, 17), [kind, size, wide, high]);
  const colours = tonesOf(material) ?? ["#eed7a8", "#d6ad70", "#b98650"];
  const sheet = kind === "sheet";
  return (
    <svg viewBox={`0 0 ${wide} ${high}`} className={large ? "w-full" : "h-10 w-14"} aria-hidden="true">
      <rect width={wide} height={high} fill={sheet ? "#c8a877" : colours[2]} />
      {sheet ? (
        <path
          d={Array.from(
            { length: Math.ceil(wide / 4) },
            (_, at) => `${at ? "L" : "M"}${at * 4} ${high / 2 + (at % 2 ? 4 : -4)}`,
          ).join("")}
          fill="none"
          stroke="#8a6a44"
          strokeWidth={1.6}
        />
      ) : (
        tones.map((path, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the index is the tone
          <path key={index} d={path} fill={colours[index]} stroke="#00000026" strokeWidth={0.5} />
        ))
      )}
    </svg>
  );
}
