import type { toast } from "sonner";
import { t } from "@/texts/ui";

interface Offer {
  text: string;
  undo: () => void;
}

const OFFERED_MS = 20_000;
let last: (Offer & { id: string | number }) | undefined;
let show: typeof toast | undefined;
let waiting: Offer[] = [];
let mount: () => void = () => {};

function offerUndo(offer: Offer) {
  if (!show) {
    waiting.push(offer);
    mount();
    return;
  }
  const forget = () => {
    if (last?.id === id) last = undefined;
  };
  const id = show(offer.text, {
    duration: OFFERED_MS,
    action: { label: t("undo"), onClick: offer.undo },
    onDismiss: forget,
    onAutoClose: forget,
  });
  last = { ...offer, id };
}

/** Has messages put on the page when the first is to be shown: until then their code is not fetched. */
export function onFirstOffer(act: () => void) {
  mount = act;
}

/** Told by the messages once they stand on the page; null when they are gone. */
export function messagesReady(shows: typeof toast | null) {
  show = shows ?? undefined;
  const offers = waiting;
  waiting = [];
  if (shows) offers.forEach(offerUndo);
}

/** Offers to take back the last destructive act, by a press or the key u. */
export const useUndo = () => offerUndo;

/** Takes back what was offered last, where something is. */
export function undoLast() {
  if (!last) return;
  const { id, undo } = last;
  last = undefined;
  show?.dismiss(id);
  undo();
}
