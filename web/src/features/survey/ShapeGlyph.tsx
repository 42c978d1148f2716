import type { Kind } from "./entry";

/** A shape as a small drawing, with where the tape goes. */
export function ShapeGlyph({ kind }: { kind: Kind }) {
  return (
    <svg
      viewBox="0 0 44 26"
      width={32}
      height={19}
      aria-hidden="true"
      fill="none"
      stroke="currentColor"
      strokeWidth={1.6}
    >
      {kind === "rectangle" ? <rect x="5" y="5" width="34" height="16" fill="var(--chip-2)" /> : null}
      {kind === "path" ? (
        <path d="M3 19 L20 9 L41 15" stroke="var(--chip-3)" strokeWidth={7} strokeLinejoin="round" />
      ) : null}
      {kind === "ring" ? (
        <>
          <circle cx="22" cy="13" r="7.500" stroke="var(--chip-3)" strokeWidth={6} />
          <circle cx="22" cy="13" r="1.500" fill="currentColor" />
        </>
      ) : null}
    </svg>
  );
}
