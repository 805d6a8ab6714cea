import { describe, expect, test } from "vitest";

import type { Dialogue } from "../outline/names";
import { apart, mine, theirs } from "./collide";

const turn = { kind: "tell" as const, id: "t1", say: [{ line: { text: { en: "Hello" } } }] };
const dialogue = {
  title: "T",
  language: "en",
  fields: [],
  outcomes: [],
  sections: [{ id: "s", title: "S", then: "carry_on", turns: [turn] }],
} as unknown as Dialogue;

describe("two authors at once", () => {
  test("do not collide on different rows, nor when something is put in", () => {
    expect(apart({ op: "change_turn", turn }, new Set(["t2"]))).toBe(true);
    expect(apart({ op: "insert_turn", at: { parent: { section: "s" }, index: 0 }, turn }, new Set(["s"]))).toBe(true);
  });

  test("collide on the same row, and on anything when all was replaced", () => {
    expect(apart({ op: "change_turn", turn }, new Set(["t1"]))).toBe(false);
    expect(apart({ op: "remove_section", id: "s" }, new Set(["s"]))).toBe(false);
    expect(apart({ op: "set_title", title: "X" }, new Set(["everything"]))).toBe(false);
    expect(apart({ op: "set_all", dialogue }, new Set(["t9"]))).toBe(false);
  });

  test("see both versions in words", () => {
    const edit = { op: "change_turn" as const, turn: { ...turn, say: [{ line: { text: { en: "Good day" } } }] } };
    expect(theirs(dialogue, edit)).toBe("Tell “Hello”");
    expect(mine(dialogue, edit)).toBe("Tell “Good day”");
    expect(theirs(dialogue, { op: "change_turn", turn: { ...turn, id: "gone" } })).toBe("It was taken out");
    expect(mine(dialogue, { op: "remove_turn", id: "t1" })).toBe("Take it out");
    expect(theirs(dialogue, { op: "change_section", id: "s", title: "Z", then: "carry_on" })).toBe("Section 1 S");
  });
});
