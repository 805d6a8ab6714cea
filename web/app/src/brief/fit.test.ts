import { expect, test } from "vitest";

import type { Dialogue } from "../outline/names";
import { ends, freshId, scored, unscored } from "./fit";

const holds = (what: string, to: string) => ({ compare: { what, is: "is" as const, to } });
const dialogue = (part: Partial<Dialogue>): Dialogue =>
  ({ id: "d", language: "en", outcomes: [], sections: [], fields: [], ...part }) as unknown as Dialogue;

const brief = {
  fits: [
    { id: "fit_1", holds: holds("cold", "frozen") },
    { id: "fit_2", holds: holds("cold", "not"), out: true },
  ],
};

test("conditions of the brief become criteria and rule-outs, each once", () => {
  const known = dialogue({ brief });
  expect(unscored(known).map((fit) => fit.id)).toEqual(["fit_1", "fit_2"]);
  const [card] = scored(known);
  expect(card?.dimensions?.[0]?.criteria?.map((criterion) => criterion.gives)).toEqual([
    { when: { holds: holds("cold", "frozen"), points: 10 } },
  ]);
  expect(card?.rule_outs?.map((rule) => rule.holds)).toEqual([holds("cold", "not")]);
  const after = dialogue({ brief, scorecards: card ? [card] : [] });
  expect(unscored(after)).toEqual([]);
  expect(scored(after)).toEqual([card]);
});

test("they go into the card that leads are filed by, with a dimension where it has none", () => {
  const card = (id: string) => ({ id, title: id, bands: [] });
  const known = dialogue({ brief, scorecards: [card("one"), card("two")], default_scorecard: "two" });
  const [one, two] = scored(known);
  expect(one).toEqual(card("one"));
  expect(two?.dimensions?.flatMap((dimension) => dimension.criteria ?? [])).toHaveLength(1);
  expect(two?.rule_outs).toHaveLength(1);
  expect(unscored({ ...known, scorecards: one && two ? [one, two] : [] })).toEqual([]);
});

test("an outcome that something ends with is told from one that nothing does", () => {
  const close = { kind: "close", id: "t", outcome: "lead" };
  const known = dialogue({
    sections: [{ id: "s", title: "S", turns: [close], then: { close: { outcome: "late" } } }],
  } as unknown as Partial<Dialogue>);
  expect(["lead", "late", "none"].map((id) => ends(known, id))).toEqual([true, true, false]);
});

test("a fresh id is nobody else's", () => {
  expect(freshId("fit", [])).toBe("fit_1");
  expect(freshId("fit", ["fit_2", "x"])).toBe("fit_3");
});
