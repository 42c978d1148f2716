import type { PracticeChoices } from "@/api/schema.gen";
import { t } from "@/texts/recipe";
import { inUnits } from "@/ui/precision";
import { useUnits } from "@/ui/units";
import { usePractices } from "./practice";

type Chosen = Partial<Record<string, string | null>>;

interface Props {
  /** What is chosen here; empty leaves it to the wider one. */
  chosen: Chosen;
  /** What holds where nothing is chosen here, the widest first. */
  wider: Chosen[];
  change: (next: PracticeChoices) => void;
  /** Where the wider choice comes from, in words. */
  from: string;
  disabled?: boolean;
}

/** Every question with its schools: what each says, what speaks against it, and what it changes. */
export function PracticeChoice({ chosen, wider, change, from, disabled = false }: Props) {
  const units = useUnits();
  const practices = usePractices();
  if (!practices.data) return null;
  const { questions, shipped } = practices.data;
  const inherited = Object.assign({}, shipped, ...wider.map(known)) as Chosen;
  return (
    <div className="divide-y divide-base-300">
      {questions.map(({ field, asks, schools, reason }) => {
        const answer = chosen[field];
        const set = (value: string | null) =>
          change({ ...(known(chosen) as PracticeChoices), [field]: value } as PracticeChoices);
        return (
          <fieldset key={field} className="py-4" disabled={disabled}>
            <legend className="float-left mb-1 w-full text-lg font-bold">{asks}</legend>
            <div className="clear-both grid gap-2 md:grid-cols-3">
              {schools.map((school) => {
                const holds = (answer ?? inherited[field]) === school.value;
                return (
                  <label
                    key={school.value}
                    className={`flex cursor-pointer flex-col gap-1 border-2 bg-base-100 p-3 ${holds ? "border-primary" : "border-base-300"}`}
                  >
                    <span className="flex items-center gap-2 font-semibold">
                      <input
                        type="radio"
                        className="radio radio-sm"
                        name={`practice-${field}`}
                        checked={holds}
                        onChange={() => set(school.value)}
                      />
                      {school.name}
                    </span>
                    <span className="text-sm">{inUnits(school.argument, units)}</span>
                    <span className="text-sm text-base-content/75">
                      {t("against", { counter: inUnits(school.counter, units) })}
                    </span>
                    <span className="mt-auto pt-1 text-sm font-semibold">{inUnits(school.changes, units)}</span>
                  </label>
                );
              })}
            </div>
            <p className="mt-2 text-sm text-base-content/75">
              {answer ? (
                <>
                  {t("chosenHere")}{" "}
                  <button type="button" className="link" onClick={() => set(null)}>
                    {t("use", { from })}
                  </button>
                </>
              ) : (
                t("from", { from, reason })
              )}
            </p>
          </fieldset>
        );
      })}
    </div>
  );
}

/** The questions that were answered. */
export const known = (choices: object): Record<string, string> =>
  Object.fromEntries(Object.entries(choices).filter(([, value]) => value)) as Record<string, string>;
