import { describe, expect, it } from "vitest";
import * as precision from "@/ui/precision";

describe("figures that were worked out", () => {
  it.each([
    [34.37, "us", "45 yd³"],
    [34.37, "metric", "34 m³"],
    [2.115, "metric", "2.1 m³"],
    [0.63, "metric", "0.6 m³"],
    [0.05, "metric", "0.05 m³"],
    [1234, "metric", "1,230 m³"],
    [9.96, "metric", "10 m³"],
    [0, "metric", "0 m³"],
  ] as const)("a volume of %s m³ in %s is %s", (m3, units, text) => {
    expect(precision.about(m3, units)).toBe(text);
  });

  it.each([
    [0.06, "us", "hardly any"],
    [0, "metric", "hardly any"],
    [0.2, "metric", "0.2 m³"],
  ] as const)("what is over of %s m³ in %s is %s", (m3, units, text) => {
    expect(precision.aboutRest(m3, units)).toBe(text);
  });

  it.each([
    [5, "us", "16 ft 5 in"],
    [0.3, "us", "11¾ in"],
    [4.95, "metric", "4.95 m"],
  ] as const)("a side of %s m in %s is %s", (m, units, text) => {
    expect(precision.sideLength(m, units)).toBe(text);
  });

  it.each([
    [12_437, "metric", "12,000 kg"],
    [640, "us", "1,400 lb"],
    [86, "metric", "86 kg"],
  ] as const)("a mass of %s kg in %s is %s", (kg, units, text) => {
    expect(precision.derived(kg, "kg", units)).toBe(text);
  });

  it.each([
    [4.32, "metric", "4.3 m²"],
    [43.2, "metric", "43 m²"],
    [114.2, "us", "1,230 sq ft"],
  ] as const)("an area of %s m² in %s is %s", (m2, units, text) => {
    expect(precision.aboutArea(m2, units)).toBe(text);
  });

  it.each([
    [63, "metric", "65 mm"],
    [98.4, "us", "3¾ in"],
    [2, "metric", "0 mm"],
  ] as const)("a depth of %s mm in %s is %s", (mm, units, text) => {
    expect(precision.aboutDepth(mm, units)).toBe(text);
  });

  it("is typed as it is shown", () => {
    expect(precision.typedDepth(63, "metric")).toBe("65 mm");
    expect(precision.typedDepth(98.4, "us")).toBe("3.75 in");
  });

  it.each([
    [1050, "us", "3,400 ft"],
    [1023, "metric", "1,000 m"],
    [51.4, "metric", "51 m"],
    [51.8, "us", "170 ft"],
    [9.3, "us", "31 ft"],
    [11_700, "metric", "11.7 km"],
    [4.52, "metric", "4.5 m"],
    [1.3, "us", "4 ft 3 in"],
    [0.42, "metric", "40 cm"],
  ] as const)("%s m away in %s is %s", (metres, units, text) => {
    expect(precision.aboutDistance(metres, units)).toBe(text);
  });

  it.each([
    [1.89, "metric", "1.9 m"],
    [1.28, "us", "4 ft 2 in"],
    [0.24, "us", "9 in"],
    [1.83, "us", "6 ft"],
  ] as const)("a height of %s m in %s is %s", (metres, units, text) => {
    expect(precision.aboutHeight(metres, units)).toBe(text);
  });

  it.each([
    [0.3, "us", "12 in"],
    [0.3, "metric", "30 cm"],
    [0.05, "us", "2 in"],
    [0.146, "metric", "15 cm"],
    [1.5, "metric", "1.5 m"],
  ] as const)("a gap of %s m in %s is %s", (metres, units, text) => {
    expect(precision.aboutGap(metres, units)).toBe(text);
  });

  it("puts amounts of the core's sentences into the reader's units", () => {
    expect(precision.inUnits("Lay {75 mm}, {0.3 m} clear, {4.2 m3}.", "us")).toBe("Lay 3 in, 12 in clear, 5.5 yd³.");
    expect(precision.inUnits("Lay {75 mm}, {0.3 m} clear, {4.2 m3}.", "metric")).toBe(
      "Lay 75 mm, 30 cm clear, 4.2 m³.",
    );
    expect(precision.inUnits("{12 mm}; {84.5 money}", "us", "USD")).toBe("½ in; $84.50");
  });
});
