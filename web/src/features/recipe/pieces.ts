import type { Material, Stage } from "@/api/schema.gen";
import { seeded } from "@/ui/seeded";

/** How the pieces of a material look in the cut: their tones, and their shape. */
const TONES: Record<string, [string, string, string]> = {
  wood_chips: ["#eed7a8", "#d6ad70", "#b98650"],
  bark: ["#96603f", "#7d4a32", "#5f3826"],
  sawdust: ["#f0dfb8", "#e4cb95", "#d3b377"],
  straw: ["#f1e2a3", "#e2c968", "#cdb04e"],
  leaves: ["#c99a55", "#b5793a", "#8f5a2b"],
  grass: ["#a9b86a", "#8a9b4c", "#6f8040"],
  shell: ["#7d4f30", "#6b3f24", "#55321c"],
  compost: ["#4b382a", "#3b2c22", "#2d211a"],
  manure: ["#6d5638", "#5a4530", "#453524"],
  biochar: ["#3a3938", "#262524", "#151414"],
};

/** How dark rotting has made it, by stage. */
export const SHADE: Record<Stage, number> = { fresh: 0, ageing: 0.16, aged: 0.34, decomposed: 0.6 };

export const tonesOf = (material: Pick<Material, "kind">) => TONES[material.kind] ?? TONES.wood_chips;

type Shape = (x: number, y: number, turn: number, random: () => number) => string;

const place = (x: number, y: number, turn: number) => (a: number, b: number) =>
  `${(x + a * Math.cos(turn) - b * Math.sin(turn)).toFixed(1)} ${(y + a * Math.sin(turn) + b * Math.cos(turn)).toFixed(1)}`;

const chip =
  (long: number, wide: number): Shape =>
  (x, y, turn, random) => {
    const p = place(x, y, turn);
    const [l, w] = [long * (0.6 + random() * 0.7), wide * (0.6 + random() * 0.7)];
    return `M${p(-l, -w)}L${p(l * 0.9, -w * 0.7)}L${p(l, w * 0.8)}L${p(-l * 0.85, w)}Z`;
  };
const strand =
  (long: number, bend: number): Shape =>
  (x, y, turn, random) => {
    const p = place(x, y, turn * 0.4);
    const l = long * (0.6 + random() * 0.8);
    const b = bend * (random() - 0.5) * 2;
    return `M${p(-l, 0)}Q${p(0, b)} ${p(l, 0)}Q${p(0, b + 2.2)} ${p(-l, 0.6)}Z`;
  };
const blob =
  (size: number): Shape =>
  (x, y, turn, random) => {
    const p = place(x, y, turn);
    const [a, b] = [size * (0.7 + random() * 0.6), size * (0.5 + random() * 0.5)];
    return `M${p(-a, 0)}C${p(-a, -b * 1.2)} ${p(a, -b * 1.2)} ${p(a, 0)}C${p(a, b * 1.2)} ${p(-a, b * 1.2)} ${p(-a, 0)}Z`;
  };
const leaf: Shape = (x, y, turn, random) => {
  const p = place(x, y, turn * 0.5);
  const l = 8 * (0.7 + random() * 0.5);
  return `M${p(-l, 0)}Q${p(0, -l * 0.6)} ${p(l, 0)}Q${p(0, l * 0.45)} ${p(-l, 0)}Z`;
};

const SHAPES: Record<string, { shape: Shape; each: number }> = {
  coarse: { shape: chip(11, 4.2), each: 75 },
  mixed: { shape: chip(7.5, 2.6), each: 42 },
  shredded: { shape: strand(12, 7), each: 30 },
  nuggets: { shape: blob(8), each: 95 },
  fine: { shape: blob(1.9), each: 9 },
  fibrous: { shape: strand(20, 9), each: 38 },
};

/** The pieces that fill a band, one path for each of three tones. */
export function piecesOf(material: Pick<Material, "kind" | "size">, width: number, height: number, seed: number) {
  const random = seeded(seed);
  const plan = material.kind === "leaves" ? { shape: leaf, each: 55 } : (SHAPES[material.size] ?? SHAPES.mixed);
  const tones: [string, string, string] = ["", "", ""];
  if (!plan) return tones;
  const count = Math.min(1400, Math.ceil((width * height) / plan.each));
  for (let index = 0; index < count; index += 1) {
    const [x, y, turn] = [random() * width, random() * height, (random() - 0.5) * Math.PI];
    const leafy = material.kind === "wood_chips" && material.size === "mixed" && index % 9 === 0;
    tones[(index % 3) as 0 | 1 | 2] += (leafy ? leaf : plan.shape)(x, y, turn, random);
  }
  return tones;
}
