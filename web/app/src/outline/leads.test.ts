import { expect, test } from "vitest";

import type { Schemas } from "../../../api";
import type { DraftView } from "../dialogue/useDraft";
import { leadsTo } from "./leads";

type Row = Schemas["Row"];
const row = (kind: Row["kind"], id: string, section = "a"): Row => ({ kind, id, section, depth: 0, index: 0 });
const draft = {
  arrivals: [{ section: "b", from: "arm:x", says: "Not cold" }],
  dialogue: {
    sections: [
      {
        id: "a",
        title: "A",
        then: "carry_on",
        turns: [
          { kind: "visit", id: "v", section: "b" },
          { kind: "fork", id: "f", arms: [{ id: "x", when: "otherwise", turns: [], then: { go_to: "b" } }] },
          { kind: "ask", id: "q", say: { text: {} }, field: "p", way_out: { go_to: "b" } },
        ],
      },
      { id: "b", title: "B", then: { close: { outcome: "lead" } }, turns: [] },
    ],
  },
} as unknown as DraftView;

test("a row leads where its go-to, Visit or way out says, and a section back to who comes there", () => {
  for (const from of [row("turn", "v"), row("arm", "x"), row("turn", "q"), row("then", "a")])
    expect(leadsTo(draft, from), from.id).toBe("section:b");
  expect(leadsTo(draft, row("section", "b", "b"))).toBe("arm:x");
});

test("a row that leads nowhere says so", () => {
  expect(leadsTo(draft, row("turn", "f"))).toBeNull();
  expect(leadsTo(draft, row("then", "b", "b"))).toBeNull();
  expect(leadsTo(draft, undefined)).toBeNull();
});
