import { describe, expect, it } from "vitest";
import * as format from "@/ui/format";

describe("figures at the edge of the browser", () => {
  it.each([
    [76.2, "us", "3 in"],
    [98.4, "us", "3⅞ in"],
    [3.2, "us", "⅛ in"],
    [0, "us", "0 in"],
    [75, "metric", "75 mm"],
  ] as const)("a depth of %s mm in %s is %s", (mm, units, text) => {
    expect(format.depth(mm, units)).toBe(text);
  });

  it.each([
    [3.81, "us", "12 ft 6 in"],
    [0.1016, "us", "4 in"],
    [3.048, "us", "10 ft"],
    [51.8, "us", "169 ft 11 in"],
    [0.15, "metric", "15 cm"],
    [12.5, "metric", "12.5 m"],
    [4000, "metric", "4 km"],
    [16093.44, "us", "10 mi"],
  ] as const)("a length of %s m in %s is %s", (metres, units, text) => {
    expect(format.length(metres, units)).toBe(text);
  });

  it("keeps three figures of a volume in workings", () => {
    expect(format.volume(0.7645549, "us")).toBe("1 yd³");
    expect(format.volume(123.456, "metric")).toBe("123 m³");
    expect(format.volume(1.23456, "metric")).toBe("1.23 m³");
  });

  it("says temperature and rain in the reader's units", () => {
    expect(format.temperature(10, "us")).toBe("50 °F");
    expect(format.temperature(-6.666666667, "us")).toBe("20 °F");
    expect(format.rain(25.4, "us")).toBe("1 in");
    expect(format.rain(88, "metric")).toBe("88 mm");
  });

  it("says nitrogen as labels do", () => {
    expect(format.onGround(format.LB_PER_1000, "us")).toBe("1 lb/1,000 sq ft");
    expect(format.onGround(4.88, "metric")).toBe("4.9 g/m²");
  });

  it("shows shares as percent and other bare numbers as they are", () => {
    expect(format.valueText(0.22, "1", "metric")).toBe("22 %");
    expect(format.valueText(1, "trips", "us")).toBe("1 trip");
    expect(format.valueText(100, "ratio", "us")).toBe("100 : 1");
    expect(format.valueText(0.65, "factor", "us")).toBe("× 0.65");
  });

  it("names the other system", () => {
    expect(format.other("us")).toBe("metric");
    expect(format.other("metric")).toBe("us");
  });
});
