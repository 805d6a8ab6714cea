import { describe, expect, test } from "vitest";

import type { Dialogue } from "../names";
import { fieldTypes } from "../names";
import type { Condition } from "./operators";
import {
  around,
  contexts,
  firstComparison,
  isGroup,
  operatorWords,
  operatorsFor,
  partsOf,
  simple,
  subject,
  withOperator,
} from "./operators";

const dialogue = {
  language: "en",
  fields: [
    { id: "f1", key: "pallets", label: "Pallets", type: "whole_number" },
    { id: "f2", key: "kind", label: "Kind", type: "choice", options: [{ key: "a", label: { en: "A" } }] },
    { id: "f3", key: "dock", label: "Dock", type: "yes_no" },
  ],
  scorecards: [{ bands: [{ id: "hot", label: "Hot" }] }],
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

  test("can ask of every type whether it is known, in words", () => {
    for (const type of [...fieldTypes, "score", "clock", "weekday"] as const) {
      const operators = operatorsFor(type);
      expect(operators, type).toEqual(expect.arrayContaining(["is_known", "is_missing"]));
      expect(
        operators.every((operator) => operatorWords[operator]),
        type,
      ).toBe(true);
    }
  });

  test("compare score, band and whether it is settled, which no text shows", () => {
    expect(contexts.map(([what]) => what)).toContain("@score");
    expect(around.map(([what]) => what)).not.toContain("@band");
    expect(around).toHaveLength(contexts.length - 3);
  });

  test("bring the values of what is compared, where they are listed", () => {
    expect(subject(dialogue, "kind").listed).toEqual([["a", "A"]]);
    expect(subject(dialogue, "@band").listed).toEqual([["hot", "Hot"]]);
    expect(subject(dialogue, "@settled")).toMatchObject({
      type: "yes_no",
      listed: [
        ["yes", "Yes"],
        ["no", "No"],
      ],
    });
    expect(subject(dialogue, "gone")).toMatchObject({ field: undefined, type: "text", listed: [] });
  });

  test("keep one of two values, and make a list of one", () => {
    const between = { what: "pallets", is: "between" as const, to: ["50", "199"] };
    expect(withOperator(between, "at_most", [], "whole_number")).toEqual({ what: "pallets", is: "at_most", to: "50" });
    const one = { what: "kind", is: "is" as const, to: "b" };
    expect(withOperator(one, "is_one_of", [["a", "A"]], "choice")).toEqual({
      what: "kind",
      is: "is_one_of",
      to: ["b"],
    });
  });

  test("leave an empty group empty", () => {
    const empty = simple({ all: [] });
    expect(isGroup(empty) && partsOf(empty)).toEqual([]);
  });
});
