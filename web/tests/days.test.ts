import { describe, expect, it } from "vitest";
import type { Occasion } from "@/api/schema.gen";
import { amountOf } from "@/features/work/amounts";
import { dayAfter, mondayOf, moved, on, spanOf, turned } from "@/features/work/days";
import { seedWords } from "@/features/work/seed";
import { valueText } from "@/ui/format";
import { inUnits } from "@/ui/precision";
import { typedNumber, typedNumberOrNone } from "@/ui/typedNumber";

const PLOT = "6f1f5b5e-0000-4000-8000-000000000001";

function occasion(first: string, until = first): Occasion {
  return { key: `${first} ${until}`, kind: "work", on: first, until, words: "Rose bed", fixed: false };
}

describe("days", () => {
  it("go over months, years and the change of the clock", () => {
    expect(dayAfter("2026-12-31", 1)).toBe("2027-01-01");
    expect(dayAfter("2028-02-28", 1)).toBe("2028-02-29");
    expect(dayAfter("2026-03-28", 2)).toBe("2026-03-30");
    expect(dayAfter("2026-10-25", -1)).toBe("2026-10-24");
  });

  it.each([
    ["2026-11-27", "2026-11-23"],
    ["2026-11-23", "2026-11-23"],
    ["2026-11-29", "2026-11-23"],
    ["2027-01-01", "2026-12-28"],
  ])("the Monday of %s is %s", (day, monday) => {
    expect(mondayOf(day)).toBe(monday);
  });

  it("a month shows all its days in whole weeks, a week seven days, the agenda begins with its day", () => {
    expect(spanOf("month", "2026-11-27")).toEqual(["2026-10-26", "2026-12-06"]);
    expect(spanOf("month", "2027-02-28")).toEqual(["2027-02-01", "2027-02-28"]);
    expect(turned("month", "2026-12-31", 1)).toBe("2027-01-01");
    expect(turned("month", "2027-03-31", -1)).toBe("2027-02-01");
    expect(spanOf("week", "2026-11-27")).toEqual(["2026-11-23", "2026-11-29"]);
    expect(spanOf("agenda", "2026-11-27")[0]).toBe("2026-11-27");
  });

  it.each(["month", "week", "agenda"] as const)("turning the %s leaves no day out", (view) => {
    const [, last] = spanOf(view, "2026-11-27");
    const [next] = spanOf(view, turned(view, "2026-11-27", 1));
    expect(next <= dayAfter(last, 1)).toBe(true);
    expect(spanOf(view, turned(view, turned(view, "2026-11-27", 1), -1))).toEqual(spanOf(view, "2026-11-27"));
  });

  it("what lasts falls on each of its days", () => {
    const season = occasion("2026-11-01", "2026-11-30");
    expect(on([season], "2026-11-15")).toEqual([season]);
    expect(on([season], "2026-12-01")).toEqual([]);
  });
});

describe("moving work", () => {
  it("names each task by plot and kind, and its own by their id", () => {
    const own = "6f1f5b5e-0000-4000-8000-00000000000a";
    const work = {
      ...occasion("2026-11-27"),
      tasks: [`${PLOT} chips`, `${PLOT} ${own}`],
      season: "autumn 2026",
    };
    expect(moved(work, "2026-12-01")).toEqual([
      { season: "autumn 2026", plot_id: PLOT, task: "chips", own: null, on: "2026-12-01" },
      { season: "autumn 2026", plot_id: PLOT, task: "own", own, on: "2026-12-01" },
    ]);
    expect(moved(work, null).every((change) => change.on === null)).toBe(true);
  });
});

describe("amounts of work", () => {
  it.each([
    [0.0005, "metric", "0.5 g"],
    [0.016, "metric", "16 g"],
    [2.4, "metric", "2.4 kg"],
    [0.024, "us", "0.8 oz"],
    [2.268, "us", "5.0 lb"],
  ] as const)("%f kg of seed in %s is %s", (kg, units, words) => {
    expect(seedWords(kg, units)).toBe(words);
  });

  it("hours under one are told in minutes", () => {
    expect(valueText(0.03, "h", "metric")).toBe("2 min");
    expect(valueText(0.001, "h", "metric")).toBe("1 min");
    expect(valueText(0.5, "h", "us")).toBe("30 min");
    expect(valueText(1, "h", "metric")).toBe("1 h");
    expect(valueText(0, "h", "metric")).toBe("0 h");
  });

  it("a task of one's own has hours alone", () => {
    expect(amountOf({ amount: 2, unit: "h" }, "metric")).toBe("");
    expect(amountOf({ amount: 12, unit: "trees" }, "metric")).toBe("12");
  });

  it("water and temperatures of the core are told in the reader's units", () => {
    expect(inUnits("{0.018 m3_water} at {-4 degC}", "metric")).toBe("18 L at -4 °C");
    expect(inUnits("{0.018 m3_water}", "us")).toBe("4.8 gal");
    expect(inUnits("{33 degC}", "us")).toContain("91");
  });
});

describe("plain numbers", () => {
  it("go as numbers where they are some, and as typed where not", () => {
    expect(typedNumber("2,5")).toBe(2.5);
    expect(typedNumber("half")).toBe("half");
    expect(typedNumberOrNone(" ")).toBeNull();
    expect(typedNumberOrNone("0")).toBe(0);
  });
});
