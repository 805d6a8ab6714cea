import { expect, test } from "vitest";

import { understoodWords } from "./understoodWords";

test("a typed line says its field, whether it is new, and its arms", () => {
  const field = { label: "Pallets", type: "whole_number" as const, made: true };
  const turn = { kind: "Ask", says: "", fields: [field], arms: [] as string[] };
  expect(understoodWords(turn)).toBe("keeps Pallets, whole number, a new field");
  expect(understoodWords({ ...turn, fields: [{ ...field, made: false }], arms: ["Frozen"] })).toBe(
    "keeps Pallets, whole number; an arm for Frozen",
  );
  expect(understoodWords({ ...turn, fields: [], arms: ["A", "B", "C"] })).toBe("arms for A, B and C");
  expect(understoodWords({ ...turn, fields: [] })).toBe("");
});
