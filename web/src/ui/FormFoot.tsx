import type { Problem } from "@/api/client";
import { t } from "@/texts/ui";

/** What is wrong with a form as a whole, and its two buttons. */
export function FormFoot({
  problem,
  busy,
  save,
  close,
}: {
  problem: Problem | null;
  busy: boolean;
  save: string;
  close: () => void;
}) {
  return (
    <>
      {problem && problem.errors.length === 0 && !problem.outage ? (
        <p className="text-error" role="alert">
          {problem.message}
        </p>
      ) : null}
      <div className="flex gap-2">
        <button type="submit" className="btn btn-primary press grow" disabled={busy}>
          {busy ? t("saving") : save}
        </button>
        <button type="button" className="btn press" onClick={close}>
          {t("close")}
        </button>
      </div>
    </>
  );
}
