import { t } from "@/texts/log";
import { Button } from "@/ui/Button";
import { day } from "@/ui/format";
import { kindOf } from "../kinds";
import { keptKinds } from "./seen";
import { dropWaiting, keepWaiting, type Waiting } from "./store";

/** What waits to be sent; what the server refused stands with its sentence, and is never thrown away by itself. */
export function WaitingList({ waiting, changed }: { waiting: Waiting[]; changed: () => void }) {
  const words = (entry: Waiting["entry"]) =>
    String(entry.depth_mm ?? entry.readings_mm ?? kindOf(keptKinds(), entry.kind)?.label ?? entry.kind);
  const sendAgain = async ({ problem: _, ...entry }: Waiting) => {
    await keepWaiting(entry);
    changed();
  };
  const drop = async (id: string) => {
    await dropWaiting(id);
    changed();
  };
  return (
    <ul className="mb-3 divide-y divide-base-300 border-y border-base-300" data-testid="waiting-list">
      {waiting.map((entry) => (
        <li key={entry.id} className="py-2">
          <strong>{entry.name}</strong>, {day(entry.on)}: {words(entry.entry)}
          {entry.photos.length > 0 ? `, ${t("photosAdded", { count: entry.photos.length })}` : ""}
          {entry.problem ? (
            <>
              <p className="text-error" role="alert">
                {entry.problem}
              </p>
              <Button small onClick={() => void sendAgain(entry)}>
                {t("tryAgain")}
              </Button>{" "}
              <Button small onClick={() => void drop(entry.id)}>
                {t("deleteIt")}
              </Button>
            </>
          ) : null}
        </li>
      ))}
    </ul>
  );
}
