import type { ReactNode } from "react";
import { t } from "@/texts/survey";
import { type Kind, SHAPES } from "./shapes";

const GROUND = { fill: "var(--chip-1)", stroke: "var(--soil-line)", strokeWidth: 1.6 };
const LINE = { fill: "none", stroke: "var(--color-primary)", strokeWidth: 1.4, strokeDasharray: "2.5 2" };

const trunk = (x: number, y: number) => <circle cx={x} cy={y} r={1.6} fill="var(--trunk)" />;
const ring = (x: number, y: number, r: number) => (
  <>
    <circle cx={x} cy={y} r={r} {...GROUND} />
    {trunk(x, y)}
  </>
);

/** Each shape with what is measured of it, in a box of 48 by 32. */
const DRAWINGS: Record<Kind, ReactNode> = {
  rectangle: (
    <>
      <rect x={5} y={8} width={38} height={18} {...GROUND} />
      <path d="M5 4H43M2 8V26" {...LINE} />
    </>
  ),
  triangle: <path d="M6 27L42 27L15 5Z" {...GROUND} />,
  ellipse: (
    <>
      <ellipse cx={24} cy={16} rx={18} ry={12} {...GROUND} />
      <path d="M6 16H42" {...LINE} />
    </>
  ),
  offsets: (
    <>
      <path d="M4 27C10 6 18 14 25 8S38 6 44 27Z" {...GROUND} />
      <path d="M14 27V12M24 27V9M34 27V7" {...LINE} />
    </>
  ),
  polygon: (
    <>
      <path d="M6 25L11 7L29 4L43 15L33 28Z" {...GROUND} />
      <g fill="var(--color-primary)">
        <circle cx={6} cy={25} r={2} />
        <circle cx={11} cy={7} r={2} />
        <circle cx={29} cy={4} r={2} />
        <circle cx={43} cy={15} r={2} />
        <circle cx={33} cy={28} r={2} />
      </g>
    </>
  ),
  path: (
    <>
      <path d="M4 24H24L40 8" fill="none" stroke="var(--soil-line)" strokeWidth={10} />
      <path d="M4 24H24L40 8" fill="none" stroke="var(--chip-1)" strokeWidth={7} />
      <path d="M4 24H24L40 8" {...LINE} />
    </>
  ),
  ring: ring(24, 16, 12),
  ring_row: (
    <>
      {ring(10, 16, 6.5)}
      {ring(24, 16, 6.5)}
      {ring(38, 16, 6.5)}
    </>
  ),
  ring_block: (
    <>
      {[8, 24].map((y) => (
        <g key={y}>
          {ring(11, y, 5)}
          {ring(24, y, 5)}
          {ring(37, y, 5)}
        </g>
      ))}
    </>
  ),
  strip: (
    <>
      <rect x={3} y={10} width={42} height={12} {...GROUND} />
      {trunk(11, 16)}
      {trunk(24, 16)}
      {trunk(37, 16)}
    </>
  ),
  walked: (
    <>
      <path d="M8 24C2 14 12 4 22 6S45 8 41 18S16 33 8 24Z" {...GROUND} />
      <path d="M11 23C6 14 14 7 22 9S41 11 38 17S17 29 11 23" {...LINE} />
    </>
  ),
};

/** The shapes that ground can be measured as, each as a small drawing. */
export function ShapeChoice({ value, change }: { value: Kind; change: (kind: Kind) => void }) {
  return (
    <fieldset>
      <legend className="mb-1 text-sm font-semibold">
        {t("shape")}:{" "}
        <span className="font-normal">
          {t("shapeAndMeasure", { shape: SHAPES[value].label, measured: SHAPES[value].when })}
        </span>
      </legend>
      <div className="grid grid-cols-6 gap-1">
        {(Object.keys(SHAPES) as Kind[]).map((kind) => (
          <label
            key={kind}
            title={SHAPES[kind].label}
            className={`flex min-h-12 cursor-pointer flex-col items-center justify-between border-2 bg-base-100 pt-0.5 pb-0.5 text-center text-[0.6875rem] leading-tight has-focus-visible:outline-3 has-focus-visible:outline-accent ${kind === value ? "border-primary font-semibold" : "border-base-300 hover:border-base-content/40"}`}
          >
            <input
              type="radio"
              name="shape"
              className="sr-only"
              aria-label={SHAPES[kind].label}
              checked={kind === value}
              onChange={() => change(kind)}
            />
            <svg viewBox="0 0 48 32" className="h-7 w-10" aria-hidden>
              {DRAWINGS[kind]}
            </svg>
            <span aria-hidden>{SHAPES[kind].short}</span>
          </label>
        ))}
      </div>
    </fieldset>
  );
}
