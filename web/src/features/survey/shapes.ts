import type { PlotOut } from "@/api/schema.gen";
import { t } from "@/texts/survey";
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
  { key: "trunk_m", label: t("trunk"), bare: "small" },
  {
    key: "gap_m",
    label: t("gapAtTheTrunk"),
    bare: "small",
    hint: t("atLeast10Cm4In"),
  },
];
const TREE: FieldPlan[] = [
  { key: "canopy_m", label: t("canopySpread"), bare: "length", hint: t("edgeToEdgeThroughTheTrunk") },
  ...TRUNK,
  { key: "reach_m", label: t("beyondTheDripLine"), bare: "small" },
];
const ROW: FieldPlan[] = [
  ...TREE,
  { key: "trees", label: t("treesInTheRow") },
  { key: "spacing_m", label: t("treeToTree"), bare: "length" },
];

export const SHAPES: Record<Kind, ShapePlan> = {
  rectangle: {
    label: t("rectangle"),
    when: t("lengthAndWidth"),
    fields: [
      { key: "length_m", label: t("length"), bare: "length", hint: t("orBothAtOnce12X") },
      { key: "width_m", label: t("width"), bare: "length" },
    ],
  },
  triangle: {
    label: t("triangle"),
    when: t("aCornerByItsThreeSides"),
    fields: [
      { key: "a_m", label: t("sideA"), bare: "length" },
      { key: "b_m", label: t("sideB"), bare: "length" },
      { key: "c_m", label: t("sideC"), bare: "length" },
    ],
  },
  ellipse: {
    label: t("circleOrEllipse"),
    when: t("oneOrTwoDiameters"),
    fields: [
      { key: "across_m", label: t("across"), bare: "length" },
      { key: "other_m", label: t("acrossTheOtherWay"), bare: "length", hint: t("emptyForACircle") },
    ],
  },
  offsets: {
    label: t("irregularBedByOffsets"),
    when: t("aStraightLineAndTheEdges"),
    fields: [
      { key: "spacing_m", label: t("offsetsTakenEvery"), bare: "length" },
      { key: "edge", label: t("theEdgeIs"), choices: { curved: "curved", straight: t("straightBetween") } },
      {
        key: "offsets_m",
        label: t("offsetsFromEndToEnd"),
        bare: "length",
        rows: 2,
        wide: true,
        hint: t("firstAndLastToo01"),
      },
    ],
  },
  polygon: {
    label: t("polygon"),
    when: t("cornersAlongAndAcrossFromOne"),
    fields: [
      {
        key: "corners_m",
        label: t("corners"),
        bare: "length",
        rows: 5,
        wide: true,
        hint: t("oneOnEachLineWalkingRound"),
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
    label: t("treeRing"),
    when: t("canopyAndTrunkManyAlike"),
    fields: [
      ...TREE,
      { key: "part", label: t("partMulched"), bare: "share" },
      { key: "trees", label: t("treesAlike") },
    ],
  },
  ring_row: { label: t("rowOfRings"), when: t("treesInARowThatMay"), fields: ROW },
  ring_block: {
    label: t("blockOfRows"),
    when: t("rowsOfTreesSideBySide"),
    fields: [
      ...ROW,
      { key: "rows", label: t("rows") },
      { key: "row_spacing_m", label: t("rowToRow"), bare: "length" },
    ],
  },
  strip: {
    label: t("stripAlongARow"),
    when: t("oneStripWithGapsAtThe"),
    fields: [
      { key: "length_m", label: t("length"), bare: "length" },
      { key: "width_m", label: t("width"), bare: "length" },
      { key: "trees", label: t("treesInIt") },
      ...TRUNK,
    ],
  },
  walked: {
    label: t("walkedBoundary"),
    when: t("latitudesAndLongitudes"),
    fields: [
      { key: "points_deg", label: t("points"), rows: 5, wide: true, hint: t("oneOnEachLine510543") },
      { key: "accuracy_m", label: t("goodTo"), bare: "small", hint: t("howFarOffAPointMay") },
    ],
  },
};

export const CUT_KINDS = ["rectangle", "ellipse", "triangle"] as const;
