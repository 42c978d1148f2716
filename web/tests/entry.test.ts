import { describe, expect, it } from "vitest";
import type { LandmarkOut } from "@/api/schema.gen";
import { emptyMeasured, measuredEmpty, measuredEntry } from "@/features/stock/measured";
import { emptySupplier, supplierEntry } from "@/features/supply/sources";
import { emptyEntry, plotEntry, spelled } from "@/features/survey/entry";
import { emptyLandmark, landmarkEntry, textsOf } from "@/features/survey/landmarks";

describe("a kept value as it would be typed", () => {
  it.each([
    ["wanted_mm", 76.2, "us", "3 in"],
    ["wanted_mm", 75, "metric", "75 mm"],
    ["length_m", 3.048, "us", "10 ft"],
    ["length_m", 3.048, "metric", "3.0480 m"],
    ["length_m", 0.305, "metric", "0.305 m"],
    ["legs_m", [2, 3.5], "metric", "2 m + 3.5 m"],
    ["offsets_m", [1, 2], "metric", "1 m, 2 m"],
    ["points_deg", [[10.5, 50.25]], "metric", "10.5, 50.25"],
    [
      "points_m",
      [
        [1, 2],
        [3, 4],
      ],
      "metric",
      "1 m, 2 m\n3 m, 4 m",
    ],
    ["laid_share", 0.25, "metric", "25 %"],
    ["part", 1, "us", "100 %"],
    ["compacted", true, "us", "yes"],
    ["gap_m", null, "us", ""],
  ] as const)("%s %s in %s is %s", (key, value, units, text) => {
    expect(spelled(key, value, units)).toBe(text);
  });
});

describe("a plot as it is sent", () => {
  it("sends texts as they were typed and leaves out what is empty", () => {
    const entry = { ...emptyEntry("us"), name: "Bed", existing_mm: " ", wanted_mm: "3 in" };
    entry.shape = { ...entry.shape, length_m: "12'6\"", width_m: "4 ft", trunk_m: "kept for later" };
    entry.found = { sun: "", compacted: "yes", walk_m: "30 ft" };
    const body = plotEntry(entry, "us") as unknown as Record<string, unknown>;
    expect(body.existing_mm).toBe("0");
    expect(body.wanted_mm).toBe("3 in");
    expect(body.shape).toEqual({ kind: "rectangle", length_m: "12'6\"", width_m: "4 ft" });
    expect(body.found).toEqual({ compacted: true, walk_m: "30 ft" });
    expect(body.slope).toBeNull();
    expect(body.readings_mm).toEqual([]);
  });

  it("sends lists of what is accepted, yes and no, and rows kept bare without their keys", () => {
    const entry = emptyEntry("metric");
    entry.recipe = { accepts: "straw, bark_shredded", cardboard: "no", dug_in: "yes", material: "" };
    entry.holds = [{ key: "0", name: "Garlic", rows: "2", length_m: "4 m", width_m: "20 cm", for_good: true }];
    expect(plotEntry(entry, "metric").recipe).toEqual({
      accepts: ["straw", "bark_shredded"],
      cardboard: false,
      dug_in: true,
      practice: {},
      hold_backs: [{ name: "Garlic", rows: "2", length_m: "4 m", width_m: "20 cm", for_good: true }],
    });
  });
});

describe("landmarks, suppliers and loads as they are sent", () => {
  it("sends a way with its points and a tip with its place", () => {
    const way = { ...emptyLandmark("way", "metric"), name: "Track", points_m: "0, 0\n5, 5", climb_m: " " };
    expect(landmarkEntry(way, "metric").landmark).toMatchObject({ points_m: "0, 0\n5, 5", climb_m: "0" });
    const tip = { ...emptyLandmark("tip", "metric"), name: "Yard", x_m: "3", y_m: "4", turn_deg: "12,5" };
    const { landmark } = landmarkEntry(tip, "metric");
    expect(landmark).toMatchObject({ place: { x_m: "3", y_m: "4", turn_deg: 12.5 } });
    expect(landmark).not.toHaveProperty("to_wall_m");
  });

  it("reads a landmark back as it was typed, if in the same units", () => {
    const out = {
      id: "1",
      name: "Yard",
      landmark: {
        kind: "tip",
        place: { x_m: 1, y_m: 2, turn_deg: 0 },
        length_m: 6.096,
        width_m: 3.048,
        surface: "soft",
        to_wall_m: null,
      },
      typed: { units: "us", landmark: { length_m: "20'" } },
    } as unknown as LandmarkOut;
    expect(textsOf(out, "us")).toMatchObject({
      length_m: "20'",
      width_m: "10 ft",
      to_wall_m: "",
      surface: "soft",
    });
    expect(textsOf(out, "metric").length_m).toBe("6.0960 m");
  });

  it("leaves out what a supplier need not say", () => {
    const supplier = emptySupplier("metric", "EUR");
    supplier.kind = "merchant";
    supplier.currency = " eur ";
    supplier.texts = { truck_m3: "10 m3", per_m3: "34", minimum_m3: " ", lead_days: "7" };
    const entry = supplierEntry(supplier, "metric");
    expect(entry.currency).toBe("EUR");
    expect(entry.source).toMatchObject({ kind: "merchant", truck_m3: "10 m3", per_m3: "34" });
    expect(entry.source).not.toHaveProperty("minimum_m3");
  });

  it("sends only the measures of the way in which a load was measured", () => {
    const barrows = { ...emptyMeasured("barrows", "us"), barrows: "40", width_m: "3 m" };
    expect(measuredEmpty(emptyMeasured("barrows", "us"))).toBe(true);
    expect(measuredEmpty(barrows)).toBe(false);
    expect(measuredEntry(barrows)).toEqual({ kind: "barrows", barrows: 40, barrow_m3: "6 cu ft" });
  });
});
