import { type ReactNode, Suspense, useState } from "react";
import { lazily } from "@/ui/lazily";

export interface MenuEntry {
  key: string;
  label: string;
  href?: string;
  press?: () => void;
  /** Beside the label. */
  note?: string;
  current?: boolean;
}

export interface MenuProps {
  label: string;
  groups: MenuEntry[][];
  children: ReactNode;
  className?: string;
}

const OpenMenu = lazily(() => import("./OpenMenu"), "OpenMenu");

/** A button that opens a list of pages and acts; the list is fetched when it is first wanted. */
export function Menu(props: MenuProps) {
  const [wanted, setWanted] = useState(false);
  const button = (
    <button
      type="button"
      className={props.className ?? "btn btn-ghost press"}
      aria-haspopup="menu"
      aria-expanded={false}
      onClick={() => setWanted(true)}
    >
      <span className="sr-only">{props.label}</span>
      {props.children}
    </button>
  );
  return wanted ? (
    <Suspense fallback={button}>
      <OpenMenu {...props} />
    </Suspense>
  ) : (
    button
  );
}
