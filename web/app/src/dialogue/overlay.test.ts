import { describe, expect, test } from "vitest";

import type { Dialogue } from "../outline/names";
import { overlay } from "./overlay";

const tell = (id: string, words: string) => ({ kind: "tell" as const, id, say: [{ line: { text: { en: words } } }] });
const dialogue = {
  title: "T",
  fields: [{ id: "f1", key: "a", label: "A", type: "text" }],
  sections: [
    {
      id: "s",
      title: "S",
      then: "carry_on",
      turns: [
        tell("t1", "one"),
        {
          kind: "fork",
          id: "t2",
          arms: [{ id: "a1", when: "otherwise", turns: [tell("t3", "three")], then: "rejoin" }],
        },
      ],
    },
  ],
} as unknown as Dialogue;

describe("what is waiting to be saved", () => {
  test("replaces turns, arms and sections by id and keeps what stands inside", () => {
    const shown = overlay(dialogue, [
      { op: "change_turn", turn: tell("t3", "changed") },
      { op: "change_arm", arm: { id: "a1", label: "Named", when: "otherwise", turns: [], then: "rejoin" } },
      { op: "change_section", id: "s", title: "New", then: "return" },
    ]);
    const [section] = shown.sections;
    expect(section).toMatchObject({ title: "New", then: "return" });
    expect(section?.turns?.[1]).toMatchObject({
      arms: [{ label: "Named", turns: [{ id: "t3", say: [{ line: { text: { en: "changed" } } }] }] }],
    });
    expect(dialogue.sections[0]?.title, "the kept draft is not touched").toBe("S");
  });

  test("adds or replaces fields, and changes what the dialogue has once", () => {
    const shown = overlay(dialogue, [
      { op: "put_field", field: { id: "f1", key: "a", label: "Renamed", type: "text", record: "lead" } },
      { op: "put_field", field: { id: "f2", key: "b", label: "B", type: "text", record: "lead" } },
      { op: "set_title", title: "Other" },
      { op: "set_scorecards", scorecards: [{ id: "c", title: "Fit", bands: [] }], default: "c" },
      { op: "set_routing", routing: { otherwise: "north" } },
    ]);
    expect(shown.fields?.map((field) => field.label)).toEqual(["Renamed", "B"]);
    expect(shown.title).toBe("Other");
    expect(shown.default_scorecard).toBe("c");
    expect(shown.routing?.otherwise).toBe("north");
  });

  test("leaves what moves or is new to the server", () => {
    expect(overlay(dialogue, [{ op: "remove_turn", id: "t1" }])).toBe(dialogue);
    expect(overlay(dialogue, [])).toBe(dialogue);
  });
});
