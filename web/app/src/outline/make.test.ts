import { expect, test } from "vitest";

import { keyOf, newArm, newField, newKinds, newTurn } from "./make";
import type { Dialogue } from "./names";

const dialogue = {
  language: "en",
  outcomes: [{ id: "lead", label: "A lead", class: "lead" }],
  fields: [
    {
      id: "f",
      key: "cold",
      label: "Cold",
      type: "choice",
      options: [
        { key: "a", label: { en: "A" } },
        { key: "b", label: { en: "B" } },
      ],
      record: "lead",
    },
  ],
  sections: [{ id: "s", title: "S", turns: [], then: "carry_on" }],
} as unknown as Dialogue;

test("a field's key is made of its label and never taken twice", () => {
  expect(keyOf("Weekly estimate", [])).toBe("weekly_estimate");
  expect(keyOf("Größe (m²)", ["grosse"])).toBe("gro_e_m2");
  expect(keyOf("42", [])).toBe("field");
  expect(keyOf("Cold", ["cold", "cold_2"])).toBe("cold_3");
});

test("a new arm of an ask is for the first option without one", () => {
  const ask = newTurn(dialogue, "ask");
  expect(newArm(dialogue, ask)?.when).toEqual({ options: ["a"] });
  const covered = { ...ask, arms: [{ id: "x", when: { options: ["a", "b"] }, then: "rejoin" as const }] } as typeof ask;
  expect(newArm(dialogue, covered)?.when).toBe("otherwise");
  expect(newArm(dialogue, newTurn(dialogue, "tell"))).toBeNull();
});

test("a new choice has two options with keys of their own", () => {
  expect(newField(dialogue, "Size", "choice", []).options?.map((option) => option.key)).toEqual([
    "option_1",
    "option_2",
  ]);
});

test("every kind can be made, and what hangs on the outside gets its own sorts of arm", () => {
  const dialogue = { language: "en", fields: [], outcomes: [{ id: "o" }], sections: [{ id: "s", turns: [] }] } as never;
  for (const { kind } of newKinds) expect(newTurn(dialogue, kind).kind).toBe(kind);
  const offer = newTurn(dialogue, "offer_times");
  expect(newArm(dialogue, offer)?.when).toBe("booked");
  const arms = [newArm(dialogue, offer), { id: "x", when: "no_answer" as const, turns: [] }];
  expect(newArm(dialogue, { ...offer, arms } as never)).toBeNull();
});
