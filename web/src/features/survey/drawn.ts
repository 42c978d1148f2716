import type { Outline, PlaceOutput as Place, PlotOut } from "@/api/schema.gen";
import type { Marked } from "./landmarks";

/** What is drawn: a kept plot, or the one being typed. */
export interface Drawn {
  id: string;
  number: number;
  name: string;
  outline: Outline;
  place: Place;
  existing_mm: number;
  wanted_mm: number;
  /** Rows that lie open, in metres about its middle. */
  open_rows?: number[][][];
}

export function drawn(plot: PlotOut, number: number): Drawn {
  return { ...plot, existing_mm: plot.depth.middle, number };
}

type Sized = { outline: Pick<Outline, "width_m" | "height_m" | "label">; place: Place };

/** Half width and half height of the box round something placed, in metres. */
export function reach({ outline, place }: Sized) {
  const turn = ((place.turn_deg ?? 0) * Math.PI) / 180;
  const [cos, sin] = [Math.abs(Math.cos(turn)), Math.abs(Math.sin(turn))];
  return {
    x: (cos * outline.width_m + sin * outline.height_m) / 2,
    y: (sin * outline.width_m + cos * outline.height_m) / 2,
  };
}

/** Where a plot's name stands, in metres from its middle on the plan. */
export function labelAt({ outline, place }: Sized): [number, number] {
  const [x, y] = outline.label ?? [0, 0];
  const turn = ((place.turn_deg ?? 0) * Math.PI) / 180;
  return [x * Math.cos(turn) - y * Math.sin(turn), x * Math.sin(turn) + y * Math.cos(turn)];
}

export type XY = [number, number];

/** A tip or a pile place as something placed. */
export function standing(landmark: Exclude<Marked["landmark"], { kind?: "way" }>): Sized {
  return { outline: { width_m: landmark.length_m, height_m: landmark.width_m }, place: landmark.place };
}

function boxOf(mark: Marked): XY[] {
  const { landmark } = mark;
  if (landmark.kind === "way") return landmark.points_m as XY[];
  const sized = standing(landmark);
  const { x, y } = reach(sized);
  const { x_m, y_m } = sized.place;
  return [
    [x_m - x, y_m - y],
    [x_m + x, y_m + y],
  ];
}

/** The box round everything on the plan, in metres. */
export function boundsOf(plots: Drawn[], marks: Marked[]) {
  const corners: XY[] = plots.flatMap((plot) => {
    const { x, y } = reach(plot);
    const { x_m, y_m } = plot.place;
    return [
      [x_m - x, y_m - y],
      [x_m + x, y_m + y],
    ] as XY[];
  });
  corners.push(...marks.flatMap(boxOf));
  if (corners.length === 0) return { west: 0, east: 0, south: 0, north: 0 };
  const bounds = { west: Infinity, east: -Infinity, south: Infinity, north: -Infinity };
  for (const [x, y] of corners) {
    bounds.west = Math.min(bounds.west, x);
    bounds.east = Math.max(bounds.east, x);
    bounds.south = Math.min(bounds.south, y);
    bounds.north = Math.max(bounds.north, y);
  }
  return bounds;
}

export const toCentimetre = (value: number) => Math.round(value * 100) / 100;
