import { createContext, type ReactNode, useCallback, useContext, useEffect, useState } from "react";
import { t } from "@/texts/ui";

interface Offer {
  text: string;
  undo: () => void;
}

const Offering = createContext<(offer: Offer) => void>(() => {});
export const useUndo = () => useContext(Offering);

/** Offers to take back the last destructive act, by a press or the key u. */
export function UndoOffer({ children }: { children: ReactNode }) {
  const [offer, set] = useState<Offer | null>(null);
  const make = useCallback((next: Offer) => set(next), []);
  useEffect(() => {
    if (!offer) return;
    const timer = setTimeout(() => set(null), 20_000);
    return () => clearTimeout(timer);
  }, [offer]);
  const take = () => {
    offer?.undo();
    set(null);
  };
  return (
    <Offering value={make}>
      {children}
      <div className="toast toast-center z-30 w-full max-w-md" role="status">
        {offer ? (
          <div className="alert flex justify-between border-2 border-base-content bg-base-100 shadow-lg">
            <span>{offer.text}</span>
            <button type="button" className="btn btn-primary press" onClick={take} data-key="u">
              {t("undo")}
            </button>
          </div>
        ) : null}
      </div>
    </Offering>
  );
}
