import { describe, expect, test } from "vitest";
import { depthStick, heapThermometer } from "@/features/log/field/devices";
import { quickDepths } from "@/features/log/field/FieldEntry";
import { dayByServer, dayOf } from "@/features/log/field/sending";
import { entryOf, FIELD_NAMES, KINDS, saidOf, treesOf } from "@/features/log/kinds";

describe("entries by their kinds", () => {
  test("what was left empty is not said, numbers are numbers, flags are flags", () => {
    expect(entryOf("worms", { count: "7", holes: " ", feel: "dry" })).toEqual({ kind: "worms", count: 7 });
    expect(entryOf("observed", { weeds: "", cover: "10 %" })).toEqual({
      kind: "observed",
      weeds: false,
      cover: "10 %",
    });
    expect(entryOf("pile", { turned: "yes", temperature_c: "55" })).toEqual({
      kind: "pile",
      turned: true,
      temperature_c: "55",
    });
  });

  test("a number that is none is left to the server", () => {
    expect(entryOf("hours", { hours: "two" })).toEqual({ kind: "hours", hours: "two" });
    expect(entryOf("hours", { hours: "2,5" })).toEqual({ kind: "hours", hours: 2.5 });
  });

  test("every kind has a label, and its fields have names of their own", () => {
    for (const kind of Object.values(KINDS)) {
      const names = kind.fields.map(({ name }) => name);
      expect(new Set(names).size).toBe(names.length);
      expect(kind.label).not.toBe("");
    }
    expect(new Set(FIELD_NAMES).size).toBe(FIELD_NAMES.length);
  });

  test("an entry is told with the labels of its fields", () => {
    expect(saidOf({ kind: "moisture", days_without_rain: 9, feel: "damp" }, "metric")).toBe(
      "Moisture. Days without rain: 9; The soil feels: Damp",
    );
    expect(saidOf({ kind: "watered_in" }, "us")).toBe("Watered in");
  });

  test("trees are numbers from and to", () => {
    expect(treesOf("7")).toEqual({ first: 7, last: 7 });
    expect(treesOf(" 1 – 40 ")).toEqual({ first: 1, last: 40 });
    expect(treesOf("")).toBeNull();
    expect(treesOf("some")?.last).toBeGreaterThan(10_000);
  });
});

describe("field mode", () => {
  const noon = Date.parse("2026-11-27T12:00:00");
  const day = 24 * 3_600_000;

  test("a clock that is days off is put right, one that is minutes off is left alone", () => {
    const typed = { on: dayOf(noon + 3 * day), typedAt: noon + 3 * day };
    expect(dayByServer(typed, -3 * day)).toBe(dayOf(noon));
    expect(dayByServer({ on: dayOf(noon), typedAt: noon }, 90_000)).toBe(dayOf(noon));
  });

  test("a day that was chosen is not moved", () => {
    expect(dayByServer({ on: "2026-11-01", typedAt: noon }, -3 * day)).toBe("2026-11-01");
  });

  test("depths near the forecast are offered, never below nothing", () => {
    expect(quickDepths(57, false)).toEqual(["35", "40", "45", "50", "55", "60", "65", "70"]);
    expect(quickDepths(3, false)[0]).toBe("0");
    expect(quickDepths(63.5, true)).toContain("2.5");
  });

  test("the simulated instruments answer, fail and exaggerate", async () => {
    await expect(depthStick(60, () => 0.05).read()).rejects.toThrow("does not answer");
    await expect(depthStick(60, () => 0.2).read()).resolves.toBe(999);
    await expect(depthStick(60, () => 0.5).read()).resolves.toBe(60);
    await expect(heapThermometer(() => 0.2).read()).resolves.toBe(-127);
  });
});
