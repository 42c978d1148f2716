import { useSyncExternalStore } from "react";

/** Whether the server, and the database behind it, could be reached the last time they were asked. */
let down = false;
let timer: ReturnType<typeof setTimeout> | undefined;
const listeners = new Set<() => void>();

function callListeners() {
  for (const listener of listeners) listener();
}

async function askReadiness() {
  try {
    if ((await fetch("/readyz")).ok) return reached();
  } catch {
    // Still down.
  }
  timer = setTimeout(askReadiness, 2000);
}

export function unreachable() {
  if (down) return;
  down = true;
  timer = setTimeout(askReadiness, 2000);
  callListeners();
}

export function reached() {
  if (!down) return;
  down = false;
  clearTimeout(timer);
  callListeners();
}

export function useUnreachable() {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => down,
  );
}

/** Calls `listener` each time the server can be reached again. */
export function onRecovery(listener: () => void) {
  listeners.add(() => {
    if (!down) listener();
  });
}
