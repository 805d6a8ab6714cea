import { expect, test } from "vitest";

import { readRows } from "./rows";

test("rows of a spreadsheet come with tabs, rows of a text with commas", () => {
  expect(readRows("Leeds\tNorth\nHull\tNorth")).toEqual([
    ["Leeds", "North"],
    ["Hull", "North"],
  ]);
  expect(readRows("Leeds, North\r\nHull , North\r\n")).toEqual([
    ["Leeds", "North"],
    ["Hull", "North"],
  ]);
});

test("a comma inside a cell stays where tabs part the cells", () => {
  expect(readRows("Leeds, LS1\tNorth")).toEqual([["Leeds, LS1", "North"]]);
});

test("empty lines are left out, empty cells are kept, and a cell is bounded", () => {
  expect(readRows("\n  \na\t\tb\n")).toEqual([["a", "", "b"]]);
  expect(readRows("")).toEqual([]);
  expect(readRows(`${"x".repeat(600)}\ty`)[0]?.[0]).toHaveLength(500);
});
