import { describe, expect, it } from "vitest";
import type { LogEntryOut } from "@/api/schema.gen";
import { depthOf, hasDepth } from "@/features/log/log";

const logged = (entry: object) => ({ entry }) as LogEntryOut;

describe("what an entry says of depth", () => {
  it("is the mean of the readings where there are some", () => {
    expect(depthOf(logged({ kind: "measured", readings_mm: [40, 50, 60] }))).toBe(50);
    expect(depthOf(logged({ kind: "measured", readings_mm: [], depth_mm: 35 }))).toBe(35);
    expect(depthOf(logged({ kind: "measured" }))).toBe(0);
  });

  it("is not known where a volume was laid, and is none of other entries", () => {
    expect(depthOf(logged({ kind: "laid", depth_mm: 60 }))).toBe(60);
    expect(depthOf(logged({ kind: "laid", volume_m3: 2 }))).toBeNull();
    expect(depthOf(logged({ kind: "fed" }))).toBeNull();
  });

  it("tells measurements and layings from the rest of the log", () => {
    const kinds = ["measured", "laid", "dug_in", "removed", "fed", "spread", "grown", "observed"];
    expect(kinds.filter((kind) => hasDepth(logged({ kind })))).toEqual(["measured", "laid"]);
  });
});
