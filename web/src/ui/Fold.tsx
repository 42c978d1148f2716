import type { ReactNode } from "react";

interface Props {
  title: string;
  /** What stands in it, in a word or two. */
  note?: ReactNode;
  testId?: string;
  className?: string;
  children: ReactNode;
}

/** A part that is opened when it is wanted, and says what it holds. */
export function Fold({ title, note, testId, className = "", children }: Props) {
  return (
    <details data-testid={testId}>
      <summary className={`press flex cursor-pointer items-center justify-between gap-3 font-semibold ${className}`}>
        <span className="shrink-0">{title}</span>
        <span className="min-w-0 truncate text-sm font-normal text-base-content/75">{note}</span>
      </summary>
      {children}
    </details>
  );
}
