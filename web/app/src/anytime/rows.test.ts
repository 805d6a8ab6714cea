import { expect, test } from "vitest";

import { readRows } from "./rows";

test("copied rows come with tabs, with commas where there is no tab, without empty lines, and bounded", () => {
  expect(readRows("a\tb, c\r\n\r\n d \t4.10")).toEqual([
    ["a", "b, c"],
    ["d", "4.10"],
  ]);
  expect(readRows("a,b\nc,d\n")).toEqual([
    ["a", "b"],
    ["c", "d"],
  ]);
  expect(readRows("")).toEqual([]);
  expect(readRows("x".repeat(900))[0]?.[0]).toHaveLength(500);
});
