import { type Drawn, labelAt, reach, standing, type XY } from "./drawn";
import type { Marked } from "./landmarks";

const LETTER = 6.7;
const HIGH = 22;

interface Box {
  x: number;
  y: number;
  half: number;
}

/** A label that is wanted: where in metres on the plan, in how much room, in full and short. */
interface Wanted {
  id: string;
  at: XY;
  room: { x: number; y: number };
  full: string;
  short: string;
  /** Stands though there is no room on the thing itself. */
  always: boolean;
}

const meets = (a: Box, b: Box) => Math.abs(a.x - b.x) < a.half + b.half && Math.abs(a.y - b.y) < HIGH;

function ofPlot(plot: Drawn, chosen: string | undefined): Wanted {
  const [dx, dy] = labelAt(plot);
  const short = String(plot.number);
  return {
    id: plot.id,
    at: [plot.place.x_m + dx, plot.place.y_m + dy],
    room: reach(plot),
    full: `${short} ${plot.name}`,
    short,
    always: plot.id === chosen,
  };
}

/** Where a way's name stands: the middle of its longest leg. */
export function middleOfWay(points: XY[]): XY {
  let best: { long: number; at: XY } = { long: -1, at: points[0] ?? [0, 0] };
  points.slice(1).forEach(([x, y], index) => {
    const [fromX, fromY] = points[index] ?? [x, y];
    const long = Math.hypot(x - fromX, y - fromY);
    if (long > best.long) best = { long, at: [(x + fromX) / 2, (y + fromY) / 2] };
  });
  return best.at;
}

function ofMark(mark: Marked): Wanted {
  const { landmark, id, name: full } = mark;
  if (landmark.kind === "way") {
    const points = landmark.points_m as XY[];
    const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
    const room = {
      x: (Math.max(...xs) - Math.min(...xs)) / 2,
      y: (Math.max(...ys) - Math.min(...ys)) / 2,
    };
    return { id, at: middleOfWay(points), room, full, short: "", always: false };
  }
  const place: XY = [landmark.place.x_m, landmark.place.y_m];
  return { id, at: place, room: reach(standing(landmark)), full, short: "", always: true };
}

/** What stands where so that no two labels collide: number and name where there is room, the number, or nothing. */
export function labelsOf(
  plots: Drawn[],
  marks: Marked[],
  scale: number,
  chosen: string | undefined,
): Map<string, string> {
  const placed: Box[] = [];
  const labels = new Map<string, string>();
  const candidates = [
    ...plots.map((plot) => ofPlot(plot, chosen)),
    // Ways last: they are told apart by where they lead.
    ...marks.map(ofMark).sort((a, b) => Number(b.always) - Number(a.always)),
  ].sort((a, b) => Number(b.id === chosen) - Number(a.id === chosen));
  for (const { id, at, room, full, short, always } of candidates) {
    const [x, y] = [at[0] * scale, -at[1] * scale];
    const wide = full.length * LETTER + 12;
    const long = 2 * Math.max(room.x, room.y) * scale;
    // On a plot only where it leaves most of the ground to be seen; else the number stands for it.
    const fits = short
      ? 2 * room.x * scale > wide && (2 * room.y * scale > 2.5 * HIGH || long > 2.5 * wide)
      : always || long > wide + 30;
    for (const text of fits || id === chosen ? [full, short] : [short]) {
      const box = { x, y, half: (text.length * LETTER + 12) / 2 };
      if (!text || (long < 14 && !always) || placed.some((other) => meets(box, other))) continue;
      placed.push(box);
      labels.set(id, text);
      break;
    }
  }
  return labels;
}
