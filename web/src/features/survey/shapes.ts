import type { PlotOut } from "@/api/schema.gen";
import type { PLACEHOLDER } from "@/ui/format";

export type Kind = PlotOut["shape"]["kind"] & string;

/** One field of a shape's form. */
export interface FieldPlan {
  key: string;
  label: string;
  bare?: keyof typeof PLACEHOLDER;
  hint?: string;
  rows?: number;
  choices?: Record<string, string>;
  wide?: boolean;
}

interface ShapePlan {
  label: string;
  when: string;
  fields: FieldPlan[];
}

const TRUNK: FieldPlan[] = [
  { key: "trunk_m", label: "Trunk", bare: "small" },
  {
    key: "gap_m",
    label: "Gap at the trunk",
    bare: "small",
    hint: "At least 10 cm (4 in); 30 cm (12 in) for fresh chips",
  },
];
const TREE: FieldPlan[] = [
  { key: "canopy_m", label: "Canopy spread", bare: "length", hint: "Edge to edge, through the trunk" },
  ...TRUNK,
  { key: "reach_m", label: "Beyond the drip line", bare: "small" },
];
const ROW: FieldPlan[] = [
  ...TREE,
  { key: "trees", label: "Trees in the row" },
  { key: "spacing_m", label: "Tree to tree", bare: "length" },
];

export const SHAPES: Record<Kind, ShapePlan> = {
  rectangle: {
    label: "Rectangle",
    when: "Length and width",
    fields: [
      { key: "length_m", label: "Length", bare: "length", hint: "Or both at once: 12 x 3.5" },
      { key: "width_m", label: "Width", bare: "length" },
    ],
  },
  triangle: {
    label: "Triangle",
    when: "A corner by its three sides",
    fields: [
      { key: "a_m", label: "Side a", bare: "length" },
      { key: "b_m", label: "Side b", bare: "length" },
      { key: "c_m", label: "Side c", bare: "length" },
    ],
  },
  ellipse: {
    label: "Circle or ellipse",
    when: "One or two diameters",
    fields: [
      { key: "across_m", label: "Across", bare: "length" },
      { key: "other_m", label: "Across the other way", bare: "length", hint: "Empty for a circle" },
    ],
  },
  offsets: {
    label: "Irregular bed, by offsets",
    when: "A straight line, and the edge’s distance from it",
    fields: [
      { key: "spacing_m", label: "Offsets taken every", bare: "length" },
      { key: "edge", label: "The edge is", choices: { curved: "curved", straight: "straight between" } },
      {
        key: "offsets_m",
        label: "Offsets, from end to end",
        bare: "length",
        rows: 2,
        wide: true,
        hint: "First and last too: 0, 1.2, 2.4, 1.8, 0",
      },
    ],
  },
  polygon: {
    label: "Polygon",
    when: "Corners, along and across from one point",
    fields: [
      {
        key: "corners_m",
        label: "Corners",
        bare: "length",
        rows: 5,
        wide: true,
        hint: "One on each line, walking round: 4.5, 3",
      },
    ],
  },
  path: {
    label: "Path",
    when: "Legs, turns and a width",
    fields: [
      { key: "legs_m", label: "Legs", bare: "length", hint: "Along the middle: 12 + 8 + 3.5" },
      { key: "width_m", label: "Width", bare: "length" },
      { key: "turns_deg", label: "Turns", wide: true, hint: "90 right, 45 left; empty for straight on" },
    ],
  },
  ring: {
    label: "Tree ring",
    when: "Canopy and trunk; many alike",
    fields: [
      ...TREE,
      { key: "part", label: "Part mulched", bare: "share" },
      { key: "trees", label: "Trees alike" },
    ],
  },
  ring_row: { label: "Row of rings", when: "Trees in a row, that may grow together", fields: ROW },
  ring_block: {
    label: "Block of rows",
    when: "Rows of trees side by side",
    fields: [
      ...ROW,
      { key: "rows", label: "Rows" },
      { key: "row_spacing_m", label: "Row to row", bare: "length" },
    ],
  },
  strip: {
    label: "Strip along a row",
    when: "One strip with gaps at the trunks",
    fields: [
      { key: "length_m", label: "Length", bare: "length" },
      { key: "width_m", label: "Width", bare: "length" },
      { key: "trees", label: "Trees in it" },
      ...TRUNK,
    ],
  },
  walked: {
    label: "Walked boundary",
    when: "Latitudes and longitudes",
    fields: [
      { key: "points_deg", label: "Points", rows: 5, wide: true, hint: "One on each line: 51.0543, -3.1227" },
      { key: "accuracy_m", label: "Good to", bare: "small", hint: "How far off a point may be" },
    ],
  },
};

export const CUT_KINDS = ["rectangle", "ellipse", "triangle"] as const;
