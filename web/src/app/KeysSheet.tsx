import { t } from "@/texts/app";
import { Sheet } from "@/ui/Sheet";

const KEYS: [string, string][] = [
  ["?", t("showTheseKeys")],
  ["n", t("measureANewPlot")],
  ["j   k", t("nextPlotPreviousPlot")],
  [t("arrows"), t("moveTheChosenPlotOnThe")],
  ["[   ]", t("turnTheChosenPlotOnThe")],
  ["u", t("undoTheLastDeletion")],
  [t("enter"), t("saveTheFormYouAreIn")],
  [t("esc"), t("closeWhatIsOpen")],
];

export function KeysSheet({ close }: { close: () => void }) {
  return (
    <Sheet title={t("keys")} close={close} middle>
      <table className="table">
        <tbody>
          {KEYS.map(([key, does]) => (
            <tr key={key}>
              <td className="whitespace-nowrap">
                {key.split("   ").map((stroke) => (
                  <kbd key={stroke} className="kbd mr-1">
                    {stroke}
                  </kbd>
                ))}
              </td>
              <td>{does}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Sheet>
  );
}
