import { expect, test } from "vitest";

import type { DraftView } from "../dialogue/useDraft";
import { placeAbove, placeBelow } from "./places";

type Row = Parameters<typeof placeBelow>[1];

const draft = {
  dialogue: { sections: [{ id: "needs", turns: [{ id: "one" }, { id: "two" }] }, { id: "empty" }] },
} as unknown as DraftView;
const row = (more: Partial<Row>): Row => ({ kind: "turn", id: "one", section: "needs", index: 0, ...more }) as Row;

test("below a turn is the next place of its run", () => {
  expect(placeBelow(draft, row({}))).toEqual({ parent: { section: "needs" }, index: 1 });
  expect(placeBelow(draft, row({ id: "two", index: 1 }))).toEqual({ parent: { section: "needs" }, index: 2 });
  expect(placeBelow(draft, row({ arm: "a_frozen", index: 3 }))).toEqual({ parent: { arm: "a_frozen" }, index: 4 });
});

test("below an arm or a section is its first place", () => {
  expect(placeBelow(draft, row({ kind: "arm", id: "a_frozen" }))).toEqual({ parent: { arm: "a_frozen" }, index: 0 });
  expect(placeBelow(draft, row({ kind: "section", id: "needs" }))).toEqual({ parent: { section: "needs" }, index: 0 });
});

test("at the closing row a turn becomes the last of its section", () => {
  expect(placeBelow(draft, row({ kind: "then", id: "then" }))).toEqual({ parent: { section: "needs" }, index: 2 });
  expect(placeBelow(draft, row({ kind: "then", section: "empty" }))).toEqual({
    parent: { section: "empty" },
    index: 0,
  });
});

test("above a turn is its own place; above anything else there is none but below", () => {
  expect(placeAbove(draft, row({ id: "two", index: 1 }))).toEqual({ parent: { section: "needs" }, index: 1 });
  expect(placeAbove(draft, row({ kind: "arm", id: "a_frozen" }))).toEqual({ parent: { arm: "a_frozen" }, index: 0 });
});
