import { describe, expect, test } from "vitest";

import type { Schemas } from "../../../api";
import { between, foldsAround, shownRows } from "./folding";

type Row = Schemas["Row"];
const row = (kind: Row["kind"], id: string, more: Partial<Row> = {}): Row => ({
  kind,
  id,
  section: "s",
  depth: 0,
  index: 0,
  ...more,
});
const mark = (lane: number, shape: Schemas["Shape"], other?: number): Schemas["Mark"] => ({
  lane,
  shape,
  class: "rejoins",
  ...(other === undefined ? {} : { other }),
});

const rows: Row[] = [
  row("section", "s"),
  row("turn", "t1"),
  row("arm", "a1", { turn: "t1" }),
  row("turn", "t2", { arm: "a1", depth: 1 }),
  row("arm", "a2", { turn: "t2", arm: "a1", depth: 1 }),
  row("turn", "t3", { arm: "a2", depth: 2 }),
  row("arm", "b1", { turn: "t1" }),
  row("then", "s"),
  row("section", "r", { section: "r" }),
];
const rails = [
  [mark(0, "start")],
  [mark(0, "pass")],
  [mark(0, "pass"), mark(1, "part", 0)],
  [mark(0, "pass"), mark(1, "pass")],
  [mark(0, "pass"), mark(1, "pass"), mark(2, "part", 1)],
  [mark(0, "pass"), mark(1, "join", 0), mark(2, "leave")],
  [mark(0, "pass"), mark(0, "tick")],
  [mark(0, "pass")],
  [mark(0, "start")],
];

describe("folding", () => {
  test("without folds every row is shown with its rails", () => {
    expect(shownRows(rows, rails, new Set()).map(({ key }) => key)).toHaveLength(rows.length);
  });

  test("a folded arm hides what is nested in it, and its lane becomes a tick", () => {
    const shown = shownRows(rows, rails, new Set(["arm:a1"]));
    expect(shown.map(({ key }) => key)).toEqual(["section:s", "turn:t1", "arm:a1", "arm:b1", "then:s", "section:r"]);
    expect(shown[2]?.hides).toBe(3);
    expect(shown[2]?.marks).toContainEqual({ lane: 0, shape: "tick", class: "rejoins" });
  });

  test("a folded arm that leads elsewhere keeps its arrow", () => {
    const shown = shownRows(rows, rails, new Set(["arm:a2"]));
    expect(shown[4]?.marks).toContainEqual({ lane: 1, shape: "leave", class: "rejoins" });
  });

  test("a folded section hides all of its rows and no others", () => {
    const shown = shownRows(rows, rails, new Set(["section:s"]));
    expect(shown.map(({ key }) => key)).toEqual(["section:s", "section:r"]);
  });

  test("going to a row opens every fold around it", () => {
    expect(foldsAround(rows, "turn:t3")).toEqual(["section:s", "arm:a2", "arm:a1"]);
    expect(foldsAround(rows, "section:r")).toEqual([]);
  });

  test("a range is picked in either direction", () => {
    expect(between(["a", "b", "c", "d"], "c", "a")).toEqual(["a", "b", "c"]);
    expect(between(["a"], "x", "a")).toEqual(["a"]);
  });
});
