import { expect, test } from "vitest";

import type { Rule } from "./words";
import { carriedWords, faultWords, freshColumn, fromValue, toValue, withRule } from "./words";

const rule = (property: string): Rule => ({ object: "lead", property, from: { fact: "name" } });

test("a source survives its way through a select, also a field with a colon in its key", () => {
  for (const from of [{ field: "pallets" }, { field: "a:b" }, { fact: "owner" as const }, { text: "Website" }]) {
    expect(fromValue(toValue(from), from)).toEqual(from);
  }
  expect(fromValue("", undefined)).toBeNull();
  expect(fromValue("text", { fact: "name" })).toEqual({ text: "" });
});

test("a rule takes the place of the one before, and its order stays", () => {
  const rules = [rule("a"), rule("b"), rule("c")];
  const changed = withRule(rules, "lead", "b", { ...rule("b"), write: "if_empty" });
  expect(changed.map((each) => each.property)).toEqual(["a", "b", "c"]);
  expect(changed[1]?.write).toBe("if_empty");
  expect(withRule(rules, "lead", "b", null).map((each) => each.property)).toEqual(["a", "c"]);
  expect(withRule(rules, "contact", "b", { ...rule("b"), object: "contact" })).toHaveLength(4);
});

test("what is left out says why, and an empty list of columns gets names that differ", () => {
  expect(carriedWords({ value: ["a", 2] }).says).toBe("a, 2");
  expect(carriedWords({ value: false }).says).toBe("no");
  expect(carriedWords({ lost: { no_option: "Cold" } })).toEqual({
    says: "left out: “Cold” has no counterpart",
    lost: true,
  });
  expect(faultWords({ can_be_missing: ["Haulage", "Storage"] }).says).toContain("leads of Haulage and Storage");
  expect(faultWords({ no_options: ["Hot", "Warm", "Cold"] })).toEqual({
    says: "No counterpart there: Hot, Warm and Cold. These are left out.",
    stops: false,
  });
  expect(freshColumn([rule("Name"), rule("Name 2")], "Name")).toBe("Name 3");
});
