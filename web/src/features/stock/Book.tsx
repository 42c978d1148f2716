import { FileDown, Undo2 } from "lucide-react";
import type { BookLineOut, StockSheet } from "@/api/schema.gen";
import { useStockChanges } from "@/features/supply/supply";
import { t } from "@/texts/stock";
import { Button } from "@/ui/Button";
import { day } from "@/ui/format";
import { about } from "@/ui/precision";
import { useUnits } from "@/ui/units";

const SAYS: Record<BookLineOut["kind"], (line: BookLineOut, amount: string) => string> = {
  receive: (line, amount) => t("receivedOn", { amount, pile: line.pile, to: line.to }),
  lay: (line, amount) => t("fromLaidOn", { amount, pile: line.pile, to: line.to }),
  move: (line, amount) => t("movedFromTo", { amount, pile: line.pile, to: line.to }),
  measure: (line, amount) => t("measured", { pile: line.pile, amount }),
  turn: (line) => t("turned", { pile: line.pile }),
  take_away: (line, amount) => t("removedFrom", { amount, pile: line.pile }),
};

/** Every line of the book, the last first. */
export function Book({ stock, edit }: { stock: StockSheet; edit: boolean }) {
  const units = useUnits();
  const { path, takeBack } = useStockChanges();
  if (stock.lines.length === 0) return null;
  return (
    <section data-testid="book">
      <div className="flex items-center justify-between gap-3">
        <h2 className="text-xl">{t("pileRecord")}</h2>
        <a
          className="btn btn-ghost btn-sm press"
          href={`/api/v1/workspaces/${path.workspace_id}/sites/${path.site_id}/book.csv`}
        >
          <FileDown size={16} /> {t("csv")}
        </a>
      </div>
      <ol className="divide-y divide-base-300 border-y border-base-300">
        {stock.lines.map((line) => (
          <li key={line.id} className="flex items-center gap-2 py-1.5">
            <span className="min-w-0 grow">
              {SAYS[line.kind](line, about(line.volume_m3, units))}
              <span className="block text-sm text-base-content/75">
                {day(line.on)}, {line.by}
                {line.note ? t("withNote", { note: line.note }) : ""}
              </span>
            </span>
            {line.last && edit ? (
              <Button small disabled={takeBack.isPending} onClick={() => takeBack.mutate(line.id)}>
                <Undo2 size={15} /> {t("undoEntry")}
              </Button>
            ) : null}
          </li>
        ))}
      </ol>
    </section>
  );
}
