import { createContext, type ReactNode, Suspense, useCallback, useContext, useState } from "react";
import type { Figure, Mark, Term, UnitSystem } from "@/api/schema.gen";
import { t } from "@/texts/ui";
import { lazily } from "@/ui/lazily";
import { other, valueText } from "./format";
import { derived } from "./precision";
import { Units, useUnits } from "./units";

const Sheet = lazily(() => import("./Sheet"), "Sheet");

const Open = createContext<(figure: Figure, units: UnitSystem) => void>(() => {});

/** Holds the sheet in which any figure below it opens its working. */
export function WorkingSheet({ children }: { children: ReactNode }) {
  const [asked, set] = useState<{ figure: Figure; units: UnitSystem } | null>(null);
  const open = useCallback((figure: Figure, units: UnitSystem) => set({ figure, units }), []);
  return (
    <Open value={open}>
      {children}
      {asked ? (
        <Suspense>
          <Units value={asked.units}>
            <Sheet
              above={t("calculation")}
              title={asked.figure.name}
              label={t("calculationOf", { name: asked.figure.name })}
              close={() => set(null)}
            >
              <Worked figure={asked.figure} />
            </Sheet>
          </Units>
        </Suspense>
      ) : null}
    </Open>
  );
}

/** Opens a figure's working. */
export const useWorkingSheet = () => useContext(Open);

interface ValueProps {
  figure: Figure;
  children?: ReactNode;
  className?: string;
}

/** A figure's value; pressed, it opens its working. */
export function Value({ figure, children, className = "" }: ValueProps) {
  const open = useContext(Open);
  const units = useUnits();
  const text = children ?? derived(figure.value, figure.unit, units);
  return (
    <button
      type="button"
      className={`asks text-left ${className}`}
      onClick={() => open(figure, units)}
      title={t("showTheCalculationOf", { name: figure.name.toLowerCase() })}
      aria-label={t("showTheCalculation", {
        name: figure.name,
        value: typeof text === "string" ? text : derived(figure.value, figure.unit, units),
      })}
    >
      {text}
    </button>
  );
}

/** “low to high”, where a figure has a range that can be told apart. */
export function rangeOf(figure: Figure, units: UnitSystem) {
  if (figure.low == null || figure.high == null) return null;
  const low = valueText(figure.low, figure.unit, units);
  const high = valueText(figure.high, figure.unit, units);
  // “44.3 to 50.4 m³”: the unit once, where it stands behind both numbers.
  const unit = /\s\D+$/.exec(high)?.[0];
  return low === high ? null : t("to", { low: unit && low.endsWith(unit) ? low.slice(0, -unit.length) : low, high });
}

function Worked({ figure }: { figure: Figure }) {
  const units = useUnits();
  const range = rangeOf(figure, units);
  const second = valueText(figure.value, figure.unit, other(units));
  const first = valueText(figure.value, figure.unit, units);
  const working = figure.working;
  return (
    <div className="space-y-4">
      <p>
        <span className="display text-3xl">{first}</span>
        {second !== first ? <span className="ml-3 text-base-content/70">{second}</span> : null}
        {range ? (
          <span className="block text-sm text-base-content/75">
            {range}
            {figure.unit === "m3" ? t("dependingOnSettling") : ""}.
          </span>
        ) : null}
      </p>
      {working && working.terms.length > 0 ? (
        <>
          {working.terms.length <= 8 ? (
            <div className="space-y-1 rounded-box bg-base-200 p-3 text-lg leading-relaxed">
              <p className="italic">
                <Formula
                  pieces={working.formula}
                  terms={working.terms}
                  render={(term) => <FormulaSymbol name={term.symbol} />}
                />
              </p>
              <p>
                {"= "}
                <Formula
                  pieces={working.formula}
                  terms={working.terms}
                  render={(term) => (
                    <span className="whitespace-nowrap">{valueText(term.figure.value, term.figure.unit, units)}</span>
                  )}
                />
              </p>
            </div>
          ) : null}
          {working.note ? <p>{working.note}</p> : null}
          <ul className="divide-y divide-base-300 border-y border-base-300">
            {working.terms.map((term) => (
              <TermRow key={term.symbol} term={term} symbols={working.terms.length <= 8} />
            ))}
          </ul>
        </>
      ) : null}
      <Sourced figure={figure} />
    </div>
  );
}

interface FormulaProps {
  pieces: string[];
  terms: Term[];
  render: (term: Term) => ReactNode;
}

function Formula({ pieces, terms, render }: FormulaProps) {
  const bySymbol = new Map(terms.map((term) => [term.symbol, term]));
  return pieces.map((piece, index) => {
    const term = bySymbol.get(piece);
    // biome-ignore lint/suspicious/noArrayIndexKey: a formula's pieces never change places
    return <span key={index}>{term ? render(term) : piece}</span>;
  });
}

function FormulaSymbol({ name }: { name: string }) {
  const [, letter, index] = /^([a-z]+?)(\d+|t)?$/i.exec(name) ?? [];
  return index && letter ? (
    <>
      {letter}
      <sub>{index}</sub>
    </>
  ) : (
    name
  );
}

function TermRow({ term, symbols }: { term: Term; symbols: boolean }) {
  const units = useUnits();
  const { figure } = term;
  const range = rangeOf(figure, units);
  return (
    <li className="py-2">
      <div className="flex items-baseline gap-3">
        {symbols ? (
          <span className="w-10 shrink-0 text-lg italic">
            <FormulaSymbol name={term.symbol} />
          </span>
        ) : null}
        <span className="grow">{figure.name}</span>
        <span className="text-right font-semibold">
          {valueText(figure.value, figure.unit, units)}
          {range ? <span className="block text-sm font-normal text-base-content/70">{range}</span> : null}
        </span>
      </div>
      {figure.working ? (
        <details className="mt-1 pl-3 sm:pl-10">
          <summary className="cursor-pointer text-sm text-primary">{t("itsOwnCalculation")}</summary>
          <div className="border-l-2 border-base-300 pt-2 pl-3">
            <Worked figure={figure} />
          </div>
        </details>
      ) : symbols && figure.source.mark !== "computed" ? (
        <div className="pl-3 sm:pl-13">
          <Sourced figure={figure} />
        </div>
      ) : null}
    </li>
  );
}

const MARKS: Record<Mark, string> = {
  published: t("published"),
  "from memory": t("fromMemory"),
  "common practice": t("commonPractice"),
  definition: t("definition"),
  entered: "Entered",
  computed: t("computed"),
};

/** The words of a source, without what its mark says already. */
function sourceText({ mark, text }: Figure["source"]) {
  if (mark === "entered" && text === "You entered this.") return "";
  const rest = text.replace(/^Common practice, no published source[:.]?\s*/, "");
  return mark === "common practice" && rest !== text ? t("noPublishedSource", { rest: sentence(rest) }) : text;
}

const sentence = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

export function Sourced({ figure }: { figure: Figure }) {
  return (
    <p className="text-sm text-base-content/75">
      <strong className="font-semibold">{MARKS[figure.source.mark]}.</strong> {sourceText(figure.source)}
    </p>
  );
}
