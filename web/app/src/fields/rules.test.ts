import { describe, expect, it } from "vitest";

import type { Rule } from "./rules";
import { openRules, ruleWords, rulesFor } from "./rules";

const labels = (type: Parameters<typeof openRules>[0], there: Rule[] = []) =>
  openRules(type, there, "en").map(({ label }) => label);

describe("rules of a field", () => {
  it("offers what fits the type", () => {
    expect(labels("email")).toEqual(["must answer", "set form", "company address", "own formula"]);
    expect(labels("date")).toEqual(["must answer", "not in the past", "within some days", "own formula"]);
    expect(labels("consent")).toEqual(["must answer", "own formula"]);
  });

  it("offers no rule twice but a formula", () => {
    const there = openRules("date", [], "en").map(({ rule }) => rule);
    expect(labels("date", there)).toEqual(["own formula"]);
  });

  it("drops what does not fit another type", () => {
    const rules: Rule[] = [{ rule: "required" }, { rule: "company_address" }];
    expect(rulesFor("phone", rules)).toEqual([{ rule: "required" }]);
  });

  it("says every rule in words", () => {
    for (const type of ["text", "money", "phone", "email", "date", "choices", "person_name"] as const) {
      for (const { rule } of openRules(type, [], "de")) expect(ruleWords(rule)).toMatch(/^[a-z0-9]/);
    }
    expect(ruleWords({ rule: "range", min: "5", max: "20000" })).toBe("5 to 20,000");
    expect(ruleWords({ rule: "range", max: "9" })).toBe("at most 9");
  });
});
