import { expect, test } from "vitest";

import { ago, clock, clockThere, due, isLate, readIn, stamp } from "./time";

const now = new Date(2026, 10, 23, 14, 5, 0);
const before = (minutes: number) => new Date(now.getTime() - minutes * 60_000).toISOString();

test("what is near is told by how long ago, what is far by its day", () => {
  expect(ago(before(0.5), now)).toBe("just now");
  expect(ago(before(1), now)).toBe("1 min ago");
  expect(ago(before(59.9), now)).toBe("59 min ago");
  expect(ago(before(60), now)).toBe("1 h ago");
  expect(ago(before(24 * 60 - 1), now)).toBe("23 h ago");
  expect(ago(before(24 * 60), now)).toBe("Sun 14:05");
  expect(ago(before(7 * 24 * 60 - 1), now)).toMatch(/^Mon /);
  expect(ago(before(7 * 24 * 60), now)).toBe("16 Nov 2026");
});

test("a clock that runs ahead of ours is now, not in the future", () => {
  expect(ago(new Date(now.getTime() + 90_000).toISOString(), now)).toBe("just now");
});

test("a time of day has two digits each, a stamp its day before", () => {
  const early = new Date(2026, 10, 3, 7, 4).toISOString();
  expect(clock(early)).toBe("07:04");
  expect(stamp(early)).toBe("3 Nov 07:04");
});

test("what is due is told by how late it is, or when", () => {
  expect(due(before(8), now)).toBe("8 min late");
  expect(due(before(0), now)).toBe("1 min late");
  expect(due(before(60), now)).toBe("1 h late");
  expect(due(before(24 * 60), now)).toBe("1 day late");
  expect(due(before(49 * 60), now)).toBe("2 days late");
  expect(due(before(-12), now)).toBe("in 12 min");
  expect(due(before(-25.5), now)).toBe("in 26 min");
  expect(due(before(-120), now)).toBe("16:05");
  expect(due(before(-20 * 60), now)).toBe("tomorrow 10:05");
  expect(due(before(-3 * 24 * 60), now)).toBe("Thu 14:05");
  expect(due(before(-30 * 24 * 60), now)).toBe("23 Dec 14:05");
});

test("a reader's own zone tells moments and days, also over midnight and a change of the clocks", () => {
  readIn("Asia/Tokyo");
  expect(clock("2026-11-24T16:05:00Z")).toBe("01:05");
  expect(stamp("2026-11-24T16:05:00Z")).toBe("25 Nov 01:05");
  expect(due("2026-11-24T16:05:00Z", new Date("2026-11-24T14:00:00Z"))).toBe("tomorrow 01:05");
  readIn("Europe/Berlin");
  expect(due("2026-10-25T12:00:00Z", new Date("2026-10-24T10:00:00Z"))).toBe("tomorrow 13:00");
  readIn(null);
});

test("what is due is late from its moment on", () => {
  expect([isLate(before(1), now), isLate(before(0), now), isLate(before(-1), now)]).toEqual([true, true, false]);
});

test("a clock elsewhere is told where it shows something else", () => {
  readIn("Europe/London");
  const noon = new Date("2026-11-23T12:00:00Z");
  expect(clockThere("America/Los_Angeles", noon)).toBe("04:00");
  expect(clockThere("Asia/Kathmandu", noon)).toBe("17:45");
  expect(clockThere("Europe/Lisbon", noon)).toBeNull();
  expect(clockThere("Nowhere/Nothing", noon)).toBeNull();
  expect(clockThere(null, noon)).toBeNull();
  readIn(null);
});
