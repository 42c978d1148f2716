import { useEffect, useState } from "react";

/** State that survives a reload or a lost connection, until `clear` is called. */
export function useDraft<T extends object>(key: string, initial: T) {
  const place = `ulmatic.draft.2.${key}`;
  const [value, set] = useState<T>(() => {
    try {
      const stored = localStorage.getItem(place);
      return stored ? { ...initial, ...(JSON.parse(stored) as T) } : initial;
    } catch {
      return initial;
    }
  });
  const [changed, setChanged] = useState(() => localStorage.getItem(place) !== null);
  useEffect(() => {
    if (changed) localStorage.setItem(place, JSON.stringify(value));
  }, [changed, place, value]);
  return {
    value,
    changed,
    change: (next: Partial<T>) => {
      setChanged(true);
      set((before) => ({ ...before, ...next }));
    },
    clear: (to?: T) => {
      localStorage.removeItem(place);
      setChanged(false);
      if (to) set(to);
    },
  };
}
