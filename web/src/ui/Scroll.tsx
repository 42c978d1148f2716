import type { ReactNode } from "react";

/** A drawing that keeps its size where there is no room for it, and is moved by finger or keys. */
export function Scroll({ label, children }: { label: string; children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by keys
    <section className="overflow-x-auto" aria-label={label} tabIndex={0}>
      {children}
    </section>
  );
}
