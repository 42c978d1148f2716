import { Ban, CircleHelp, Eye, PencilLine } from "lucide-react";
import type { Advice, Fix } from "@/api/schema.gen";
import { t } from "@/texts/recipe";
import { Button } from "@/ui/Button";
import { Fold } from "@/ui/Fold";
import { inUnits } from "@/ui/precision";
import { useUnits } from "@/ui/units";

const WEIGHTS = {
  stop: { Icon: Ban, word: t("doNot"), edge: "border-error" },
  act: { Icon: PencilLine, word: t("change"), edge: "border-warning" },
  watch: { Icon: Eye, word: t("watch"), edge: "border-info" },
  note: { Icon: CircleHelp, word: t("note"), edge: "border-base-300" },
} as const;

/** What speaks against a recipe, the gravest first, each with its reason and what to do. */
export function AdviceList({ advice, fix }: { advice: readonly Advice[]; fix?: (fix: Fix) => void }) {
  const grave = advice.filter((advice) => advice.severity !== "note");
  const notes = advice.filter((advice) => advice.severity === "note");
  return (
    <div className="space-y-2" data-testid="advice">
      {grave.map((advice) => (
        <Item key={advice.rule} advice={advice} {...(fix ? { fix } : {})} />
      ))}
      {grave.length === 0 ? <p className="text-base-content/75">{t("noCautionsForThisRecipe")}</p> : null}
      {notes.length > 0 ? (
        <Fold title={t("notes2", { count: notes.length })}>
          <div className="space-y-2">
            {notes.map((note) => (
              <Item key={note.rule} advice={note} />
            ))}
          </div>
        </Fold>
      ) : null}
    </div>
  );
}

function Item({ advice, fix }: { advice: Advice; fix?: (fix: Fix) => void }) {
  const units = useUnits();
  const { Icon, word, edge } = WEIGHTS[advice.severity];
  const say = (text: string) => inUnits(text, units);
  return (
    <article className={`border-l-4 ${edge} bg-base-100 py-1 pl-3`} data-rule={advice.rule}>
      <h3 className="flex items-baseline gap-2 font-semibold">
        <Icon size={15} className="translate-y-0.5 shrink-0" aria-hidden />
        <span>
          <span className="sr-only">{word}: </span>
          {say(advice.says)}
        </span>
      </h3>
      <p className="text-sm">
        {say(advice.because)} {say(advice.change)}
      </p>
      <p className="text-xs text-base-content/70">
        {advice.school ? `${t("school", { school: advice.school })} ` : ""}
        {advice.source.text}
      </p>
      {fix && advice.fix ? (
        <Button small className="my-1" onClick={() => fix(advice.fix as Fix)}>
          {say(advice.fix.label)}
        </Button>
      ) : null}
    </article>
  );
}
