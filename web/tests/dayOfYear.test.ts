import { describe, expect, it } from "vitest";
import { dayOfYearText, numberOf, readDayOfYear, textOfNumber } from "@/features/schedule/dayOfYear";

describe("a day of the year", () => {
  it.each(["15 Apr", "Apr 15", "15 April", "april 15", "15. apr.", "04-15", "4-15", " 15apr "])(
    "is read from %s",
    (text) => {
      expect(readDayOfYear(text)).toEqual({ month: 4, day: 15 });
    },
  );

  it.each(["15", "Apr", "31 Apr", "15 Foo", "13-01", "0 May", "15 4", "15 Ju", "29 Feb"])("is not %s", (text) => {
    expect(readDayOfYear(text)).toBeUndefined();
  });

  it("is none where nothing was typed", () => {
    expect(readDayOfYear("  ")).toBeNull();
  });

  it("is read as it was written, on every day", () => {
    for (let number = 1; number <= 365; number += 1) {
      const date = readDayOfYear(textOfNumber(number));
      expect(date && numberOf(date)).toBe(number);
      expect(date && dayOfYearText(date)).toBe(textOfNumber(number));
    }
  });
});
