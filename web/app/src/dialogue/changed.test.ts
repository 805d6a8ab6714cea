import { describe, expect, test } from "vitest";

import type { Schemas } from "../../../api";
import { changed } from "./changed";

type Draft = Schemas["DraftView"];

const section = (id: string, title = id) => ({ id, title, turns: [], then: "carry_on" });
const row = (id: string) => ({ kind: "section", id, section: id, depth: 0, index: 0 });
const before = {
  revision: 3,
  changed_at: "2026-11-01T00:00:00Z",
  changed_by: "Ana",
  changes: 1,
  slug: "s",
  dialogue: { title: "T", routing: { otherwise: "q" }, sections: [section("a"), section("b"), section("c")] },
  rows: [row("a"), row("b"), row("c")],
  rails: { lanes: 1, rows: [["a"], ["b"], ["c"]] },
} as unknown as Draft;
const same = { at: 3, drop: 0, rows: [], rails: [], lanes: 1 };
const change = (dialogue: object, outline: object = same) =>
  ({ revision: 4, changed_at: "2026-11-02T00:00:00Z", changes: 2, dialogue, outline }) as unknown as Schemas["Edited"];

describe("a draft after a change", () => {
  test("has the new parts, loses those that are null, and keeps the others", () => {
    const after = changed(before, change({ parts: { title: "New", routing: null, tables: [] } }), "Bo");
    expect(after.dialogue).toEqual({ title: "New", tables: [], sections: before.dialogue.sections });
    expect(after.dialogue.sections).toBe(before.dialogue.sections);
    expect([after.revision, after.changed_by, after.changes, after.slug]).toEqual([4, "Bo", 2, "s"]);
    expect(after.rows).toBe(before.rows);
  });

  test("has its sections in their new order, with the new ones and without those that are gone", () => {
    const after = changed(
      before,
      change({ order: ["c", "d", "a"], sections: [section("a", "A"), section("d")] }),
      null,
    );
    expect(after.dialogue.sections.map(({ id, title }) => `${id} ${title}`)).toEqual(["c c", "d d", "a A"]);
    expect(after.dialogue.sections[0]).toBe(before.dialogue.sections[2]);
  });

  test("has new rows and rails where old ones gave way", () => {
    const outline = { at: 1, drop: 1, rows: [row("x"), row("y")], rails: [["x"], ["y"]], lanes: 2 };
    const after = changed(before, change({}, outline), null);
    expect(after.rows.map(({ id }) => id)).toEqual(["a", "x", "y", "c"]);
    expect(after.rails).toEqual({ lanes: 2, rows: [["a"], ["x"], ["y"], ["c"]] });
  });
});
