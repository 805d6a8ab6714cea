import { expect, test } from "vitest";

import { keyOf, newArm, newField, newKinds, newTurn, withType } from "./make";
import type { Dialogue, Field } from "./names";
import { fieldTypes } from "./names";

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

test("a field with another type keeps what fits it and nothing else", () => {
  const field: Field = {
    id: "f",
    key: "load",
    label: "Load",
    type: "quantity",
    unit: "pallets",
    record: "lead",
    note: "At their busiest",
    rules: [{ rule: "required" }, { rule: "range", min: "1", max: "9" }],
  };
  expect(withType(field, "whole_number", "en")).toMatchObject({ unit: "pallets", rules: field.rules });
  const email = withType(field, "email", "en");
  expect(email).toMatchObject({ record: "contact", personal: true, rules: [{ rule: "required" }], note: field.note });
  expect(email).not.toHaveProperty("unit");
  expect(withType(field, "scale", "en").options).toHaveLength(5);
  const choice = withType(field, "choice", "de");
  expect(choice.options?.map((option) => Object.keys(option.label))).toEqual([["de"], ["de"]]);
  expect(withType(choice, "choices", "de").options).toEqual(choice.options);
  expect(withType(choice, "text", "de")).not.toHaveProperty("options");
  const news = {
    ...withType(field, "consent", "en"),
    permits: { purpose: "marketing" as const, channels: ["mail" as const] },
  };
  expect(withType(news, "consent", "en").permits).toEqual(news.permits);
  expect(withType(news, "yes_no", "en")).not.toHaveProperty("permits");
});

test("every type of field can be made", () => {
  expect(new Set(fieldTypes).size).toBe(20);
  for (const type of fieldTypes) expect(newField(dialogue, "New", type, []).type).toBe(type);
});
