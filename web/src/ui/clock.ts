/** The clock of the workspace that is looked at: it may stand on a day of its own. */
let aheadMs = 0;

export function turnClock(aheadS: number) {
  aheadMs = aheadS * 1000;
}

export function now(): Date {
  return new Date(Date.now() + aheadMs);
}

/** The day it is where the browser is. */
export function today(): string {
  const moment = now();
  return new Date(moment.getTime() - moment.getTimezoneOffset() * 60_000).toISOString().slice(0, 10);
}
