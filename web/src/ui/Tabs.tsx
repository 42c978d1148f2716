import { type KeyboardEvent, type ReactNode, useId } from "react";

interface Props<Key extends string> {
  label: string;
  tabs: { key: Key; label: ReactNode; panel: ReactNode; kept?: boolean }[];
  chosen: Key;
  choose: (key: Key) => void;
}

const STEPS: Partial<Record<string, number>> = { ArrowLeft: -1, ArrowRight: 1 };

/**
 * Tabs of which the arrow keys choose, with their panels; what is `kept` stays there while another is looked at.
 *
 * Each panel has something to press, so that it needs no place of its own among what the Tab key reaches.
 */
export function Tabs<Key extends string>({ label, tabs, chosen, choose }: Props<Key>) {
  const id = useId();
  const step = (event: KeyboardEvent<HTMLElement>) => {
    const by = STEPS[event.key];
    const place = tabs.findIndex((tab) => tab.key === chosen) + (by ?? 0);
    const next = tabs[(place + tabs.length) % tabs.length];
    if (by === undefined || !next) return;
    event.preventDefault();
    choose(next.key);
    document.getElementById(`${id}-${next.key}`)?.focus();
  };
  return (
    <>
      <div role="tablist" aria-label={label} className="-mt-2 flex border-b border-base-300">
        {tabs.map((tab) => (
          <div
            key={tab.key}
            id={`${id}-${tab.key}`}
            role="tab"
            tabIndex={tab.key === chosen ? 0 : -1}
            aria-selected={tab.key === chosen}
            aria-controls={`${id}-${tab.key}-panel`}
            onClick={() => choose(tab.key)}
            onKeyDown={step}
            className={`press flex grow cursor-pointer items-center justify-center border-b-3 ${tab.key === chosen ? "border-primary font-semibold" : "border-transparent"}`}
          >
            {tab.label}
          </div>
        ))}
      </div>
      {tabs.map((tab) =>
        tab.key === chosen || tab.kept ? (
          <div
            key={tab.key}
            id={`${id}-${tab.key}-panel`}
            role="tabpanel"
            aria-labelledby={`${id}-${tab.key}`}
            hidden={tab.key !== chosen}
            className="space-y-3 pt-3"
          >
            {tab.panel}
          </div>
        ) : null,
      )}
    </>
  );
}
