import type { Outline, PlaceOutput as Place, PlotOut } from "@/api/schema.gen";

/** What is drawn: a kept plot, or the one being typed. */
export interface Drawn {
  id: string;
  number: number;
  name: string;
  outline: Outline;
  place: Place;
  existing_mm: number;
  wanted_mm: number;
}

export function drawn(plot: PlotOut, number: number): Drawn {
  return { ...plot, number };
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

/** Where a plot's name stands, in metres from its middle on the plan. */
export function labelAt({ outline, place }: Pick<Drawn, "outline" | "place">): [number, number] {
  const [x, y] = outline.label ?? [0, 0];
  const turn = ((place.turn_deg ?? 0) * Math.PI) / 180;
  return [x * Math.cos(turn) - y * Math.sin(turn), x * Math.sin(turn) + y * Math.cos(turn)];
}

export function boundsOf(plots: Drawn[]) {
  if (plots.length === 0) return { west: 0, east: 0, south: 0, north: 0 };
  const west = Math.min(...plots.map((plot) => plot.place.x_m - reach(plot).x));
  const east = Math.max(...plots.map((plot) => plot.place.x_m + reach(plot).x));
  const south = Math.min(...plots.map((plot) => plot.place.y_m - reach(plot).y));
  const north = Math.max(...plots.map((plot) => plot.place.y_m + reach(plot).y));
  return { west, east, south, north };
}

export const toCentimetre = (value: number) => Math.round(value * 100) / 100;
