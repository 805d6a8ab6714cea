import { expect, test } from "vitest";

import type { Rule } from "./rules";
import { openRules, ruleWords, rulesFor } from "./rules";

const labels = (type: Parameters<typeof openRules>[0], there: Rule[] = []) =>
  openRules(type, there, "en").map(({ label }) => label);

test("a field is offered the rules that fit its type", () => {
  expect(labels("email")).toEqual(["must answer", "set form", "company address", "own formula"]);
  expect(labels("phone")).toEqual(["must answer", "number of a country", "a number that exists", "own formula"]);
  expect(labels("date")).toEqual(["must answer", "not in the past", "within some days", "own formula"]);
  expect(labels("choices")).toEqual(["must answer", "at least so many", "at most so many", "own formula"]);
  expect(labels("yes_no")).toEqual(["must answer", "own formula"]);
  expect(labels("consent")).toEqual(["must answer", "own formula"]);
});

test("a rule that is there is offered no second time, but another formula is", () => {
  const there: Rule[] = [
    { rule: "required" },
    { rule: "formula", formula: "value > 10", message: { en: "More, please." } },
  ];
  expect(labels("whole_number", there)).toEqual(["range", "no decimals", "own formula"]);
});

test("a formula begins with a message in the dialogue's own language", () => {
  const fresh = openRules("text", [], "de").find(({ rule }) => rule.rule === "formula");
  expect(fresh?.rule).toMatchObject({ message: { de: expect.any(String) } });
});

test("of another type only the rules that fit it stay", () => {
  const rules: Rule[] = [
    { rule: "required" },
    { rule: "range", min: "10", max: null },
    { rule: "whole" },
    { rule: "length", min: 2, max: 80 },
  ];
  expect(rulesFor("whole_number", rules).map(({ rule }) => rule)).toEqual(["required", "range", "whole"]);
  expect(rulesFor("text", rules).map(({ rule }) => rule)).toEqual(["required", "length"]);
  expect(rulesFor("consent", rules).map(({ rule }) => rule)).toEqual(["required"]);
  expect(rulesFor("phone", [{ rule: "required" }, { rule: "company_address" }])).toEqual([{ rule: "required" }]);
});

test("whatever is offered can be put into words", () => {
  for (const type of ["text", "money", "phone", "email", "date", "choices", "person_name"] as const) {
    for (const { rule } of openRules(type, [], "de")) expect(ruleWords(rule)).toMatch(/^[a-z0-9]/);
  }
});

test("every rule is put into words that say what it accepts", () => {
  const said: [Rule, string][] = [
    [{ rule: "range", min: "10", max: "2000" }, "10 to 2,000"],
    [{ rule: "range", min: "10", max: null }, "at least 10"],
    [{ rule: "range", min: null, max: "50" }, "at most 50"],
    [{ rule: "length", min: null, max: 80 }, "1 to 80 characters"],
    [{ rule: "length", min: 2, max: null }, "2 to any number of characters"],
    [{ rule: "phone_country", countries: ["GB", "IE"] }, "a number in GB, IE"],
    [{ rule: "within_days", days: 90 }, "within 90 days"],
    [{ rule: "at_least", n: 2 }, "at least 2"],
    [{ rule: "at_most", n: 3 }, "at most 3"],
    [{ rule: "not_past" }, "not in the past"],
  ];
  for (const [rule, words] of said) expect(ruleWords(rule)).toBe(words);
  const bare: Rule["rule"][] = ["required", "whole", "company_address", "full_name", "phone_valid"];
  const words = bare.map((rule) => ruleWords({ rule } as Rule));
  expect(new Set(words).size).toBe(bare.length);
  expect(words.every((word) => word.length > 5)).toBe(true);
});
