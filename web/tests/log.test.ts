import { describe, expect, test } from "vitest";
import type { EntryFieldOut, Kinds, LogEntryOut, LogKindOut } from "@/api/schema.gen";
import { depthStick, pileThermometer } from "@/features/log/field/devices";
import { quickDepths } from "@/features/log/field/FieldEntry";
import { dayByServer, dayOf } from "@/features/log/field/sending";
import { entryOf, offered, startsOf, unitOf, wordsOf } from "@/features/log/kinds";
import { correction, depthOf } from "@/features/log/log";

const field = (name: string, type: string, label: string, more: Partial<EntryFieldOut> = {}): EntryFieldOut => ({
  name,
  type,
  label,
  label_spread: null,
  hint: null,
  choices: [],
  either: false,
  needed: false,
  start: null,
  ...more,
});
const kind = (key: string, label: string, fields: EntryFieldOut[], more: Partial<LogKindOut> = {}): LogKindOut => ({
  kind: key,
  label,
  hint: null,
  subject: "plot",
  form_place: null,
  account_place: null,
  followed: false,
  fields,
  ...more,
});
const MEASURED = kind("measured", "Depth measured", [field("depth_mm", "depth", "Depth", { needed: true })], {
  form_place: 10,
});
const LAID = kind("laid", "Mulch laid", [
  field("depth_mm", "depth", "Depth", { either: true }),
  field("volume_m3", "volume", "Volume", { either: true }),
]);
const PROBED = kind(
  "probed",
  "Probed",
  [
    field("feel", "choice", "It feels", { choices: [{ value: "damp", label: "Damp" }] }),
    field("girth_m", "girth", "Girth"),
    field("heat_c", "temperature", "Heat"),
    field("turned", "flag", "Turned", { start: true }),
    field("hours", "hours", "Person-hours"),
    field("share", "share", "Share", { start: 0.1 }),
  ],
  { form_place: 5 },
);
const KINDS: Kinds = { log: [MEASURED, LAID, PROBED], tasks: [] };

describe("entries by their kinds, as the server describes them", () => {
  test("what was left empty is not said, unless it is needed; numbers are numbers, flags are flags", () => {
    expect(entryOf(PROBED, { probed_feel: " ", probed_hours: "2,5", other_feel: "damp" })).toEqual({
      kind: "probed",
      turned: false,
      hours: 2.5,
    });
    expect(entryOf(PROBED, { probed_turned: "yes", probed_heat_c: "55" })).toEqual({
      kind: "probed",
      turned: true,
      heat_c: "55",
    });
    expect(entryOf(MEASURED, {})).toEqual({ kind: "measured", depth_mm: "" });
  });

  test("a number that is none is left to the server", () => {
    expect(entryOf(PROBED, { probed_hours: "two" })).toMatchObject({ hours: "two" });
  });

  test("of two fields of which one is typed, the chosen one is said", () => {
    const texts = { laid_depth_mm: "50 mm", laid_volume_m3: "2 m3" };
    expect(entryOf(LAID, texts, "volume_m3")).toEqual({ kind: "laid", volume_m3: "2 m3" });
  });

  test("a form offers what has a place in it, in that order, and begins as its fields do", () => {
    expect(offered(KINDS, "form_place").map((other) => other.kind)).toEqual(["probed", "measured"]);
    expect(startsOf([PROBED], "metric")).toMatchObject({
      probed_turned: "yes",
      probed_share: "10 %",
      probed_feel: "",
    });
  });

  test("an entry is told with the labels of its fields, in the units of the reader", () => {
    const entry = {
      kind: "probed",
      feel: "damp",
      girth_m: 0.24,
      heat_c: 60,
      turned: true,
      hours: 2.5,
    } as unknown as LogEntryOut["entry"];
    expect(wordsOf(entry, KINDS, "us")).toEqual({
      label: "Probed",
      parts: ["It feels: Damp", "Girth: 9½ in", "Heat: 140 °F", "Turned", "Person-hours: 2.5 h"],
    });
    expect(wordsOf({ kind: "watered_in" }, KINDS, "us")).toEqual({ label: "watered_in", parts: [] });
  });

  test("bare numbers are read in the unit that is shown beside the field", () => {
    expect(unitOf("temperature", "us")).toBe("°F");
    expect(unitOf("temperature", "metric")).toBe("°C");
    expect(unitOf("on_ground", "metric")).toBe("g/m²");
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
    await expect(pileThermometer(() => 0.2).read()).resolves.toBe(-127);
  });
});
