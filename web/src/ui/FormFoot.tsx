import { t } from "@/texts/ui";
import { Sentence } from "./Sentence";

/** What is wrong with a form as a whole, and its two buttons. */
export function FormFoot({
  sentence,
  busy,
  save,
  close,
}: {
  sentence: string | undefined;
  busy: boolean;
  save: string;
  close: () => void;
}) {
  return (
    <>
      <Sentence text={sentence} />
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
