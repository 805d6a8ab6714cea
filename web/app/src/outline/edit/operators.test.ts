import { describe, expect, test } from "vitest";

import type { Dialogue } from "../names";
import type { Condition } from "./operators";
import { firstComparison, operatorsFor, simple, subject, withOperator } from "./operators";

const dialogue = {
  language: "en",
  fields: [
    { id: "f1", key: "pallets", label: "Pallets", type: "whole_number" },
    { id: "f2", key: "kind", label: "Kind", type: "choice", options: [{ key: "a", label: { en: "A" } }] },
    { id: "f3", key: "dock", label: "Dock", type: "yes_no" },
  ],
} as unknown as Dialogue;

describe("conditions", () => {
  test("offer only operators that fit the type", () => {
    expect(operatorsFor("choice")).not.toContain("at_least");
    expect(operatorsFor("whole_number")).not.toContain("contains");
    expect(operatorsFor("yes_no")).toEqual(["is", "is_known", "is_missing"]);
  });

  test("begin with what an author most likely means", () => {
    expect(firstComparison(dialogue, "kind")).toEqual({ what: "kind", is: "is", to: "a" });
    expect(firstComparison(dialogue, "dock")).toEqual({ what: "dock", is: "is", to: "yes" });
    expect(firstComparison(dialogue, "pallets")).toEqual({ what: "pallets", is: "at_least", to: "1" });
    expect(firstComparison(dialogue, "@page")).toEqual({ what: "@page", is: "is", to: "" });
  });

  test("keep values from one operator to the next", () => {
    const of = { what: "pallets", is: "at_least" as const, to: "200" };
    expect(withOperator(of, "between", [], "whole_number")).toEqual({
      what: "pallets",
      is: "between",
      to: ["200", "200"],
    });
    expect(withOperator(of, "is_missing", [], "whole_number")).toEqual({ what: "pallets", is: "is_missing" });
  });

  test("compare the prospect's clock with times and days", () => {
    const hours = { what: "@local_time", is: "between", to: ["09:00", "17:00"] };
    expect(firstComparison(dialogue, "@local_time")).toEqual(hours);
    expect(operatorsFor("clock")).not.toContain("contains");
    expect(firstComparison(dialogue, "@weekday")).toEqual({ what: "@weekday", is: "is_one_of", to: ["monday"] });
    expect(subject(dialogue, "@weekday").listed).toHaveLength(7);
  });

  test("drop empty groups and brackets around one", () => {
    const one: Condition = { compare: { what: "dock", is: "is", to: "yes" } };
    expect(simple({ all: [{ any: [one] }] })).toEqual(one);
    expect(simple({ all: [one, { any: [] }, one] })).toEqual({ all: [one, one] });
  });
});
