import { t } from "@/texts/log";

/** Simulated instruments: they stand in for a depth stick and a pile thermometer, and misbehave as those do. */

export interface Instrument {
  name: string;
  /** What it reads, in mm or °C; rejects where it does not answer. */
  read: () => Promise<number>;
}

const SILENT = 0.15;
const ABSURD = 0.08;
const ANSWERS_MS = 400;

function instrument(name: string, middle: number, spread: number, absurd: number, chance = Math.random): Instrument {
  return {
    name,
    read: () =>
      new Promise((answer, fail) => {
        setTimeout(() => {
          const luck = chance();
          if (luck < SILENT) fail(new Error(t("theInstrumentDoesNotAnswer")));
          else if (luck < SILENT + ABSURD) answer(absurd);
          else answer(Math.max(0, Math.round(middle + (chance() - 0.5) * 2 * spread)));
        }, ANSWERS_MS);
      }),
  };
}

/** A simulated depth stick over mulch of about this depth, in mm. */
export const depthStick = (depth_mm: number, chance?: () => number) =>
  instrument(t("depthStick"), depth_mm, 10, 999, chance);

/** A simulated thermometer in a pile, °C. */
export const pileThermometer = (chance?: () => number) => instrument(t("pileThermometer"), 48, 14, -127, chance);
