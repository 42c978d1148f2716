import type { LogEntryOut, ReadingQuestion } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { t } from "@/texts/log";
import { Button } from "@/ui/Button";
import { day, depth } from "@/ui/format";
import { aboutDepth } from "@/ui/precision";
import { useUnits } from "@/ui/units";
import { correction, useLearning, useLogChanges } from "./log";

const CAUSES = { raked: t("raked"), topped_up: t("toppedUp"), washed_away: t("washedAway") };

/** Readings that are unlikely, each with what may have happened: until that is said they teach nothing. */
export function Questions({ log, plotOf }: { log: LogEntryOut[]; plotOf: (id: string | null) => string }) {
  const learning = useLearning();
  const questions = learning.data?.questions ?? [];
  if (questions.length === 0) return null;
  return (
    <ul className="mb-4 space-y-3" data-testid="questions">
      {questions.map((question) => {
        const logged = log.find((entry) => entry.id === question.entry_id);
        return logged ? (
          <Asked key={question.entry_id} question={question} logged={logged} name={plotOf(question.plot_id)} />
        ) : null;
      })}
    </ul>
  );
}

function Asked({ question, logged, name }: { question: ReadingQuestion; logged: LogEntryOut; name: string }) {
  const units = useUnits();
  const may = useMay();
  const { add } = useLogChanges();
  const answer = (change: object) => add.mutate(correction(logged, change));
  return (
    <li className="border-l-4 border-warning bg-base-100 p-3">
      <p>
        <strong>{name}</strong>, {day(question.on)}:{" "}
        {t("unlikelyReading", {
          depth: depth(question.depth_mm, units),
          expected: aboutDepth(question.expected_mm, units),
        })}
      </p>
      {may.edit ? (
        <div className="mt-2 flex flex-wrap gap-2">
          {Object.entries(CAUSES).map(([cause, label]) => (
            <Button key={cause} small disabled={add.isPending} onClick={() => answer({ cause })}>
              {label}
            </Button>
          ))}
          <Button small disabled={add.isPending} onClick={() => answer({ confirmed: true })}>
            {t("theReadingIsRight")}
          </Button>
        </div>
      ) : null}
    </li>
  );
}
