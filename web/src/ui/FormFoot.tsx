import { t } from "@/texts/ui";
import { Button } from "@/ui/Button";
import { Sentence } from "./Sentence";

interface Props {
  sentence: string | undefined;
  busy: boolean;
  save: string;
  close: () => void;
}

/** What is wrong with a form as a whole, and its two buttons. */
export function FormFoot({ sentence, busy, save, close }: Props) {
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
