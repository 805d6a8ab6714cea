import { expect, test } from "vitest";

import type { DraftView } from "../dialogue/useDraft";
import { placeAbove, placeBelow } from "./places";

const draft = {
  dialogue: { sections: [{ id: "s", title: "S", turns: [{ id: "one" }, { id: "two" }], then: "carry_on" }] },
} as unknown as DraftView;

const row = (kind: string, more: object = {}) =>
  ({ kind, id: "x", section: "s", index: 1, arm: null, ...more }) as unknown as Parameters<typeof placeBelow>[1];

test("below a turn is behind it, in its arm or its section", () => {
  expect(placeBelow(draft, row("turn"))).toEqual({ parent: { section: "s" }, index: 2 });
  expect(placeBelow(draft, row("turn", { arm: "a" }))).toEqual({ parent: { arm: "a" }, index: 2 });
});

test("below an arm or a section is first in it, below the closing row is last", () => {
  expect(placeBelow(draft, row("arm", { id: "a" }))).toEqual({ parent: { arm: "a" }, index: 0 });
  expect(placeBelow(draft, row("section"))).toEqual({ parent: { section: "s" }, index: 0 });
  expect(placeBelow(draft, row("then"))).toEqual({ parent: { section: "s" }, index: 2 });
});

test("above a turn is where it stands; other rows have nothing above them in their run", () => {
  expect(placeAbove(draft, row("turn"))).toEqual({ parent: { section: "s" }, index: 1 });
  expect(placeAbove(draft, row("arm", { id: "a" }))).toEqual({ parent: { arm: "a" }, index: 0 });
});
