import { useEffect, useRef, useState } from "react";
import { t } from "@/texts/app";

const KEYS: [string, string][] = [
  ["?", t("showTheseKeys")],
  ["n", t("measureANewPlot")],
  ["j   k", t("nextPlotPlotBefore")],
  ["arrows", t("moveTheChosenPlotOnThe")],
  ["[   ]", t("turnTheChosenPlotOnThe")],
  ["u", t("undoWhatWasJustDeleted")],
  ["Enter", t("saveTheFormYouAreIn")],
  [t("esc"), t("closeWhatIsOpen")],
];

const writing = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

/** A control with `data-key="n"` is pressed by the key n, unless something is being written or a dialog is open. */
export function Keys() {
  const dialog = useRef<HTMLDialogElement>(null);
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (writing(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      if (document.querySelector("dialog[open]")) return;
      if (event.key === "?") {
        setOpen(true);
        return;
      }
      if (!/^[a-z]$/.test(event.key)) return;
      const control = document.querySelector<HTMLElement>(`[data-key="${event.key}"]`);
      if (control) {
        event.preventDefault();
        control.click();
      }
    };
    addEventListener("keydown", press);
    return () => removeEventListener("keydown", press);
  }, []);
  useEffect(() => {
    if (open) dialog.current?.showModal();
  }, [open]);
  return (
    <>
      <button
        type="button"
        className="btn btn-ghost btn-square press hidden sm:inline-flex"
        aria-label={t("keys")}
        title={t("keys2")}
        onClick={() => setOpen(true)}
      >
        <span className="display text-lg">?</span>
      </button>
      {open ? (
        <dialog ref={dialog} className="modal" onClose={() => setOpen(false)} aria-label={t("keys")}>
          <div className="modal-box">
            <h2 className="mb-3 text-xl">{t("keys")}</h2>
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
            <form method="dialog" className="modal-action">
              <button type="submit" className="btn press">
                {t("close")}
              </button>
            </form>
          </div>
        </dialog>
      ) : null}
    </>
  );
}
