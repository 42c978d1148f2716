import { useEffect, useState } from "react";
import { tinykeys } from "tinykeys";
import { undoLast } from "@/ui/undo";

/** Not while something is written, and not behind a dialog. */
const free = (event: KeyboardEvent) =>
  !(
    (event.target instanceof HTMLElement &&
      (event.target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName))) ||
    document.querySelector("[role=dialog]")
  );

/** A control with `data-key="n"` is pressed by the key n. */
function press(event: KeyboardEvent) {
  const control = document.querySelector<HTMLElement>(`[data-key="${event.key}"]`);
  if (!control) return;
  event.preventDefault();
  control.click();
}

/** The keys of every page, and the list of them. */
export function useKeys() {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const when = (act: (event: KeyboardEvent) => void) => (event: KeyboardEvent) => {
      if (free(event)) act(event);
    };
    return tinykeys(window, {
      "Shift+?": when(() => setOpen(true)),
      "?": when(() => setOpen(true)),
      n: when(press),
      j: when(press),
      k: when(press),
      u: when(undoLast),
    });
  }, []);
  return { open, show: () => setOpen(true), close: () => setOpen(false) };
}
