import { type Drawn, labelAt, reach } from "./drawn";

const LETTER = 6.7;
const HIGH = 22;

interface Box {
  x: number;
  y: number;
  half: number;
}

const meets = (a: Box, b: Box) => Math.abs(a.x - b.x) < a.half + b.half && Math.abs(a.y - b.y) < HIGH;

/** What stands on each plot so that no two labels collide: number and name where there is room, the number, or nothing. */
export function labelsOf(plots: Drawn[], scale: number, chosen: string | undefined): Map<string, string> {
  const placed: Box[] = [];
  const labels = new Map<string, string>();
  const first = [...plots].sort((a, b) => Number(b.id === chosen) - Number(a.id === chosen));
  for (const plot of first) {
    const [dx, dy] = labelAt(plot);
    const [x, y] = [(plot.place.x_m + dx) * scale, -(plot.place.y_m + dy) * scale];
    const room = reach(plot);
    const full = `${plot.number} ${plot.name}`;
    const wide = full.length * LETTER + 12;
    const fits = 2 * room.x * scale > wide && 2 * room.y * scale > HIGH + 4;
    for (const text of fits || plot.id === chosen ? [full, String(plot.number)] : [String(plot.number)]) {
      const box = { x, y, half: (text.length * LETTER + 12) / 2 };
      const small = 2 * Math.max(room.x, room.y) * scale < 14;
      if ((small && plot.id !== chosen) || placed.some((other) => meets(box, other))) continue;
      placed.push(box);
      labels.set(plot.id, text);
      break;
    }
  }
  return labels;
}
