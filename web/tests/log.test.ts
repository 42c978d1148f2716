import { describe, expect, test } from "vitest";
import type { LogEntryOut } from "@/api/schema.gen";
import { depthStick, heapThermometer } from "@/features/log/field/devices";
import { quickDepths } from "@/features/log/field/FieldEntry";
import { dayByServer, dayOf } from "@/features/log/field/sending";
import { entryOf, FIELD_NAMES, KINDS, saidOf, unitOf } from "@/features/log/kinds";
import { correction, depthOf } from "@/features/log/log";

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

  test("figures are told in the units of the site, with those units", () => {
    expect(saidOf({ kind: "tree", girth_m: 0.24, canopy_m: 2.6 }, "metric")).toBe(
      "Tree measured. Trunk girth: 24 cm; Canopy, across: 2.6 m",
    );
    expect(saidOf({ kind: "pile", temperature_c: 60, turned: true }, "us")).toBe(
      "Pile checked. Temperature inside: 140 °F; Turned",
    );
    expect(saidOf({ kind: "hours", task: "weeding", hours: 2.5, person: "Ida" }, "us")).toBe(
      "Hours. Task: Weeding; Person-hours: 2.5 h; Person: Ida",
    );
  });

  test("bare numbers are read in the unit that is shown beside the field", () => {
    expect(unitOf("temperature", "us")).toBe("°F");
    expect(unitOf("temperature", "metric")).toBe("°C");
    expect(unitOf("number", "us")).toBe("");
  });
});

describe("depths of entries", () => {
  const logged = (entry: object) => ({ id: "1", on: "2026-11-27", entry }) as unknown as LogEntryOut;

  test("readings count by their mean, a profile by its chips, a laying by what is told", () => {
    expect(depthOf(logged({ kind: "measured", depth_mm: 0, readings_mm: [60, 65, 55] }))).toBe(60);
    expect(depthOf(logged({ kind: "profile", dry_mm: 20, moist_mm: 30, humus_depth_mm: 12 }))).toBe(50);
    expect(depthOf(logged({ kind: "laid", material: "arborist_leafy", volume_m3: 2 }))).toBeNull();
    expect(depthOf(logged({ kind: "worms", count: 7 }))).toBeNull();
  });

  test("a correction keeps everything but what is changed, and names what it corrects", () => {
    const first = {
      ...logged({ kind: "measured", depth_mm: 40 }),
      trees: { first: 1, last: 4 },
      note: "wet",
    };
    const corrected = correction(first, { cause: "raked" });
    expect(corrected).toMatchObject({
      corrects: "1",
      trees: { first: 1, last: 4 },
      note: "wet",
      entry: { depth_mm: 40, cause: "raked" },
    });
    expect(corrected.id).not.toBe("1");
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
