import { t } from "@/texts/ui";
import { Button } from "@/ui/Button";
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
        <Button type="submit" primary className="grow" disabled={busy}>
          {busy ? t("saving") : save}
        </Button>
        <Button onClick={close}>{t("close")}</Button>
      </div>
    </>
  );
}
