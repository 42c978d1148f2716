import { toast } from "sonner";
import { t } from "@/texts/ui";

interface Offer {
  text: string;
  undo: () => void;
}

const OFFERED_MS = 20_000;
let last: (Offer & { id: string | number }) | undefined;

function offerUndo(offer: Offer) {
  const forget = () => {
    if (last?.id === id) last = undefined;
  };
  const id = toast(offer.text, {
    duration: OFFERED_MS,
    action: { label: t("undo"), onClick: offer.undo },
    onDismiss: forget,
    onAutoClose: forget,
  });
  last = { ...offer, id };
}

/** Offers to take back the last destructive act, by a press or the key u. */
export const useUndo = () => offerUndo;

/** Takes back what was offered last, where something is. */
export function undoLast() {
  if (!last) return;
  const { id, undo } = last;
  last = undefined;
  toast.dismiss(id);
  undo();
}
