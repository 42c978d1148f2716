import { describe, expect, it } from "vitest";
import { browserOf } from "@/features/accounts/AccountParts";

describe("a device", () => {
  it.each([
    ["Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 Chrome/140.0 Safari/537.36", "Chrome on Linux"],
    ["Mozilla/5.0 (Windows NT 10.0) Chrome/140.0 Safari/537.36 Edg/140.0", "Edge on Windows"],
    ["Mozilla/5.0 (Android 15; Mobile) Firefox/140.0", "Firefox on Android"],
    ["python-httpx", "Other program"],
    ["", "Other program"],
  ])("is named as a person would: %s", (device, name) => {
    expect(browserOf(device)).toBe(name);
  });
});
