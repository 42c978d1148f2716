import type { Outline, Place, PlotOut } from "@/api/schema.gen";

/** What is drawn: a kept plot, or the one being typed. */
export interface Drawn {
  id: string;
  number: number;
  name: string;
  outline: Outline;
  place: Place;
  existing_mm: number;
  wanted_mm: number;
  gap_m: number | null;
}

export function drawn(plot: PlotOut, number: number): Drawn {
  const gap_m = plot.shape.kind === "ring" ? plot.shape.gap_m : null;
  return { ...plot, number, gap_m };
}

/** Half width and half height of the box round a placed outline, in metres. */
export function reach({ outline, place }: Pick<Drawn, "outline" | "place">) {
  const turn = ((place.turn_deg ?? 0) * Math.PI) / 180;
  const [cos, sin] = [Math.abs(Math.cos(turn)), Math.abs(Math.sin(turn))];
  return {
    x: (cos * outline.width_m + sin * outline.height_m) / 2,
    y: (sin * outline.width_m + cos * outline.height_m) / 2,
  };
}

export function boundsOf(plots: Drawn[]) {
  const west = Math.min(...plots.map((plot) => plot.place.x_m - reach(plot).x));
  const east = Math.max(...plots.map((plot) => plot.place.x_m + reach(plot).x));
  const south = Math.min(...plots.map((plot) => plot.place.y_m - reach(plot).y));
  const north = Math.max(...plots.map((plot) => plot.place.y_m + reach(plot).y));
  return { west, east, south, north };
}

export const toCentimetre = (value: number) => Math.round(value * 100) / 100;
