import { expect, test } from "vitest";

import { bandsOf, firstMapping, inParts, leadsWords, rowsOf } from "./words";

test("a field is held by one column, and empty cells say nothing", () => {
  const column = (field?: string) => ({ name: field ?? "x", words: [], field: field ?? null, outcome: false });
  const mapping = firstMapping([column("email"), column(), column("email"), column("pallets")]);
  expect(mapping).toEqual({ 0: "email", 3: "pallets" });
  expect(
    rowsOf(
      [
        { line: 2, cells: [" a@b.example ", "x", "y", " "] },
        { line: 3, cells: [] },
      ],
      mapping,
    ),
  ).toEqual([
    { line: 2, answers: { email: "a@b.example" } },
    { line: 3, answers: {} },
  ]);
});

test("rows go in parts, and bands are counted", () => {
  expect(inParts([1, 2, 3, 4, 5], 2)).toEqual([[1, 2], [3, 4], [5]]);
  expect(inParts([], 2)).toEqual([]);
  const row = (band: string | null) => ({ line: 1, band });
  expect(bandsOf([row("Warm"), row(null), row("Hot"), row("Hot")])[0]).toEqual({ band: "Hot", count: 2 });
  expect([leadsWords(1), leadsWords(12)]).toEqual(["1 lead", "12 leads"]);
});
