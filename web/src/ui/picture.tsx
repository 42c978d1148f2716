import type { ScaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import { type SVGProps, useLayoutEffect, useRef, useState } from "react";

/** What all pictures along an axis share: their size on the screen, lines across at round values, and paths. */

export type Scale = ScaleLinear<number, number>;

/** The size of a box on the screen, known before it is painted and as it changes. */
export function useSize() {
  const box = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  useLayoutEffect(() => {
    const element = box.current;
    if (!element) return;
    const measure = () => setSize({ width: element.clientWidth, height: element.clientHeight });
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return { box, ...size };
}

type Values = Float32Array | number[];

/** A line through values at equal steps: the first at `from`, each `every` of the axis after the one before. */
export function linePath(values: Values, x: Scale, y: Scale, from = 0, every = 1): string {
  const path = line<number>()
    .x((_, at) => x(from + at * every))
    .y((value) => y(value));
  return path(Array.from(values)) ?? "";
}

/** The area between two lines through values at equal steps. */
export function bandPath(low: Values, high: Values, x: Scale, y: Scale, every = 1): string {
  const [, last = 0] = x.domain();
  const path = area<number>()
    .x((_, at) => x(Math.min(last, at * every)))
    .y0((_, at) => y(low[at] ?? 0))
    .y1((value) => y(value));
  return path(Array.from(high)) ?? "";
}

interface Props {
  y: Scale;
  ticks: number[];
  left: number;
  right: number;
  words: (tick: number) => string;
  /** The colour of the line at zero. */
  base?: string;
}

/** Lines across a picture at round values, with what they stand for. */
export function Grid({ y, ticks, left, right, words, base = "var(--color-base-300)" }: Props) {
  return ticks.map((tick) => (
    <g key={tick}>
      <path
        d={`M${left} ${y(tick)}H${right}`}
        stroke={tick === 0 ? base : "var(--color-base-300)"}
        strokeWidth={tick === 0 ? 1.8 : 0.7}
      />
      <Words x={left - 6} y={y(tick) + 4} anchor="end">
        {words(tick)}
      </Words>
    </g>
  ));
}

interface WordsProps extends Omit<SVGProps<SVGTextElement>, "ref"> {
  size?: number;
  anchor?: "start" | "middle" | "end" | undefined;
}

/** Words in a picture, in the colour of text. */
export function Words({ size = 12.5, anchor, ...rest }: WordsProps) {
  return <text fontSize={size} textAnchor={anchor} fill="var(--color-base-content)" {...rest} />;
}
