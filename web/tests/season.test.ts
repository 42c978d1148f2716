import { describe, expect, it } from "vitest";
import type { OrderFigures, SeasonFigures } from "@/api/schema.gen";
import { amountOf, costOf, linesWith, mainLine } from "@/features/site/season";
import { YARD3 } from "@/ui/format";

function line(figures: Partial<OrderFigures>): OrderFigures {
  return {
    booked_loads: 0,
    booked_m3: 0,
    cost: null,
    exact: false,
    key: "crew",
    kind: "arborist",
    loads: 2,
    material: "Arborist chips, leafy",
    material_key: "arborist_leafy",
    source: "Crew",
    stage: null,
    volume_m3: 20,
    ...figures,
  };
}

const season = (...order: OrderFigures[]) => ({ order }) as SeasonFigures;

describe("the order of a season as a choice", () => {
  it("changes whole loads before bulk, and the largest of them", () => {
    const bulk = line({ key: "bulk", exact: true, volume_m3: 90 });
    const small = line({ key: "small", volume_m3: 5 });
    const large = line({ key: "large", volume_m3: 20 });
    expect(mainLine([bulk, small, large])?.key).toBe("large");
    expect(mainLine([bulk])?.key).toBe("bulk");
    expect(mainLine([])).toBeUndefined();
  });

  it("is the season's total: what is booked counts in it", () => {
    expect(linesWith(season(line({ loads: 2, booked_loads: 1 })), "crew", 1, "metric")).toEqual([
      { source: "crew", loads: 4, volume_m3: null },
    ]);
  });

  it("takes a m³ or a cubic yard more of what comes in any amount", () => {
    const bulk = season(line({ key: "bulk", exact: true, volume_m3: 4, booked_m3: 1, loads: 1 }));
    expect(linesWith(bulk, "bulk", 1, "metric")[0]?.volume_m3).toBe(6);
    expect(linesWith(bulk, "bulk", -1, "us")[0]?.volume_m3).toBeCloseTo(5 - YARD3, 9);
    expect(linesWith(bulk, "bulk", 1, "metric")[0]?.loads).toBe(1);
  });

  it("never goes below nothing, and leaves the others as they are", () => {
    const lines = linesWith(season(line({ loads: 0 }), line({ key: "other", loads: 3 })), "crew", -1, "us");
    expect(lines.map(({ loads }) => loads)).toEqual([0, 3]);
  });

  it("tells a price, that there is none, or that nobody knows it", () => {
    expect(costOf({ cost: "148.00", currency: "EUR" })).toContain("148");
    expect(costOf({ cost: "0", currency: "EUR" })).toBe("free");
    expect(costOf({ cost: null, currency: "EUR" })).toBe("price unknown");
  });

  it("says amounts in the words of the trade", () => {
    expect(amountOf(line({ loads: 1 }), "metric")).toBe("1 load");
    expect(amountOf(line({ loads: 12, kind: "bags" }), "metric")).toBe("12 bags");
    expect(amountOf(line({ exact: true, volume_m3: 2.2 }), "metric")).toBe("2.2 m³");
  });
});
