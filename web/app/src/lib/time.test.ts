import { expect, test } from "vitest";

import { ago } from "./time";

test("a time says how long ago it was, then its day, then its date", () => {
  const now = new Date("2026-11-23T12:00:00Z");
  const before = (minutes: number) => ago(new Date(now.getTime() - minutes * 60_000).toISOString(), now);
  expect(before(0)).toBe("just now");
  expect(before(59)).toBe("59 min ago");
  expect(before(60)).toBe("1 h ago");
  expect(before(23 * 60 + 59)).toBe("23 h ago");
  expect(before(2 * 24 * 60)).toMatch(/^Sat \d\d:\d\d$/);
  expect(before(30 * 24 * 60)).toBe("24 Oct 2026");
});
