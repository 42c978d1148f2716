import type { ReactNode } from "react";

/** A figure under its name, in a list of such. */
export function Fact({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div>
      <dt className="text-sm text-base-content/75">{label}</dt>
      <dd className="font-semibold">{children}</dd>
    </div>
  );
}
