import { expect, test } from "vitest";

import { minutesWords, ofWords, weekWords } from "./words";

test("working time is told in hours and minutes", () => {
  expect([null, 0, 4.6, 59, 60, 200].map(minutesWords)).toEqual([
    "none yet",
    "0 min",
    "5 min",
    "59 min",
    "1 h",
    "3 h 20 min",
  ]);
});

test("a share says of how many, and a week its Monday", () => {
  expect([ofWords(8, 10), ofWords(0, 0)]).toEqual(["8 of 10", "none"]);
  expect(weekWords("2026-11-23")).toBe("23 Nov");
});
