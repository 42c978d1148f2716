import { describe, expect, it } from "vitest";
import { type Change, STALE } from "@/api/stale";

const begins = (key: readonly unknown[], prefix: readonly unknown[]) => prefix.every((part, at) => key[at] === part);
const stale = (change: Change, key: readonly unknown[]) =>
  STALE[change]("w1", "s1").some((prefix) => begins(key, prefix));

describe("what a change makes out of date", () => {
  it("is the plan of the site that was changed, wherever it is shown", () => {
    for (const key of [
      ["site", "w1", "s1"],
      ["sites", "w1"],
      ["supply", "w1", "s1", "order", undefined],
      ["seasons", "w1", "s1", 5],
      ["seasons", "w1", "all"],
      ["log", "w1", "s1"],
    ])
      expect(stale("plan", key), String(key)).toBe(true);
  });

  it("is no other site, and nothing that does not follow", () => {
    for (const key of [
      ["site", "w1", "s2"],
      ["seasons", "w1", "s2", 5],
      ["suppliers", "w1"],
      ["materials", "w1"],
      ["session"],
      ["practices"],
    ])
      expect(stale("plan", key), String(key)).toBe(false);
  });

  it("is every site of the workspace where what they share was changed", () => {
    for (const change of ["suppliers", "materials", "practice", "parameters"] as const) {
      expect(stale(change, ["site", "w1", "s2"])).toBe(true);
      expect(stale(change, ["site", "w2", "s2"])).toBe(false);
      expect(stale(change, [change, "w1"])).toBe(true);
    }
  });
});
