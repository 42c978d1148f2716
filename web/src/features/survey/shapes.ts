import type { PlotOut } from "@/api/schema.gen";
import { t } from "@/texts/survey";
import type { PLACEHOLDER } from "@/ui/format";

export type Kind = PlotOut["shape"]["kind"] & string;

/** One field of a shape's form. */
interface FieldPlan {
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
  /** Under its drawing. */
  short: string;
  when: string;
  fields: FieldPlan[];
}

const TRUNK: FieldPlan[] = [
  { key: "trunk_m", label: t("trunk"), bare: "small" },
  { key: "gap_m", label: t("gapAtTheTrunk"), bare: "small", hint: t("atLeast10Cm4In") },
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
    short: t("rectangle"),
    when: t("lengthAndWidth"),
    fields: [
      { key: "length_m", label: t("length"), bare: "length", hint: t("orBothAtOnce12X") },
      { key: "width_m", label: t("width"), bare: "length" },
    ],
  },
  triangle: {
    label: t("triangle"),
    short: t("triangle"),
    when: t("threeSides"),
    fields: [
      { key: "a_m", label: t("sideA"), bare: "length" },
      { key: "b_m", label: t("sideB"), bare: "length" },
      { key: "c_m", label: t("sideC"), bare: "length" },
    ],
  },
  ellipse: {
    label: t("circleOrEllipse"),
    short: t("circle"),
    when: t("oneOrTwoDiameters"),
    fields: [
      { key: "across_m", label: t("diameter"), bare: "length" },
      {
        key: "other_m",

        label: t("otherDiameter"),
        bare: "length",
        hint: t("emptyForACircle"),
      },
    ],
  },
  offsets: {
    label: t("irregularBedByOffsets"),
    short: t("curvedBed"),
    when: t("aStraightLineAndDistancesFrom"),
    fields: [
      { key: "spacing_m", label: t("distanceBetweenOffsets"), bare: "length" },
      { key: "edge", label: t("edgeBetweenOffsets"), choices: { curved: "curved", straight: t("straight") } },
      {
        key: "offsets_m",
        label: t("offsets"),
        bare: "length",
        rows: 2,
        wide: true,
        hint: t("includingTheFirstAndLast0"),
      },
    ],
  },
  polygon: {
    label: t("polygon"),
    short: t("polygon"),
    when: t("cornersAsDistancesFromOnePoint"),
    fields: [
      { key: "corners_m", label: t("corners"), bare: "length", rows: 5, wide: true, hint: t("onePerLineInOrder4") },
    ],
  },
  path: {
    label: t("path"),
    short: t("path"),
    when: t("legsTurnsAndAWidth"),
    fields: [
      { key: "legs_m", label: t("legs"), bare: "length", hint: t("alongTheMiddle1283") },
      { key: "width_m", label: t("width"), bare: "length" },
      {
        key: "turns_deg",

        label: t("turns"),
        wide: true,
        hint: t("n90Right45LeftLeaveEmpty"),
      },
    ],
  },
  ring: {
    label: t("treeRing"),
    short: t("treeRing"),
    when: t("canopyAndTrunkOneOrMany"),
    fields: [
      ...TREE,
      { key: "part", label: t("partMulched"), bare: "share" },
      { key: "trees", label: t("numberOfTrees") },
    ],
  },
  ring_row: { label: t("rowOfRings"), short: t("rowHeading"), when: t("treesInARowRingsMay"), fields: ROW },
  ring_block: {
    label: t("blockOfRows"),
    short: t("block"),
    when: t("parallelRowsOfTrees"),
    fields: [...ROW, { key: "rows", label: t("rows") }, { key: "row_spacing_m", label: t("rowToRow"), bare: "length" }],
  },
  strip: {
    label: t("stripAlongARow"),
    short: t("strip"),
    when: t("oneStripWithGapsAtThe"),
    fields: [
      { key: "length_m", label: t("length"), bare: "length" },
      { key: "width_m", label: t("width"), bare: "length" },
      { key: "trees", label: t("numberOfTrees") },
      ...TRUNK,
    ],
  },
  walked: {
    label: t("walkedBoundary"),
    short: t("walked"),
    when: t("latitudeAndLongitudeOfEachPoint"),
    fields: [
      { key: "points_deg", label: t("points"), rows: 5, wide: true, hint: t("onePerLine5105433") },
      { key: "accuracy_m", label: t("accuracy"), bare: "small", hint: t("possibleErrorOfAPoint") },
    ],
  },
};

export const CUT_KINDS = ["rectangle", "ellipse", "triangle"] as const;
