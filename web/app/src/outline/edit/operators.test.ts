import { expect, test } from "vitest";

import type { Dialogue } from "../names";
import { fieldTypes } from "../names";
import type { Condition } from "./operators";
import {
  around,
  contexts,
  firstComparison,
  groupOf,
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
    { id: "f1", key: "pallets", label: "Pallets", type: "quantity" },
    {
      id: "f2",
      key: "temperature",
      label: "Temperature",
      type: "choice",
      options: [
        { key: "frozen", label: { en: "Frozen" } },
        { key: "chilled", label: { en: "Chilled" } },
      ],
    },
  ],
  scorecards: [{ bands: [{ id: "hot", label: "Hot" }] }],
  sections: [],
} as unknown as Dialogue;

const leaf = (what: string): Condition => ({ compare: { what, is: "is_known" } });

test("every type can be known or missing, and every operator has words", () => {
  for (const type of [...fieldTypes, "score", "clock", "weekday"] as const) {
    const operators = operatorsFor(type);
    expect(operators, type).toContain("is_known");
    expect(operators, type).toContain("is_missing");
    expect(
      operators.every((operator) => operatorWords[operator]),
      type,
    ).toBe(true);
  }
});

test("a number is compared by size, a choice by option, a list by what it holds", () => {
  expect(operatorsFor("money")[0]).toBe("at_least");
  expect(operatorsFor("choice")).toContain("is_none_of");
  expect(operatorsFor("choices")).toEqual(["contains", "is_known", "is_missing"]);
  expect(operatorsFor("yes_no")).toEqual(["is", "is_known", "is_missing"]);
});

test("score and band are compared, but not shown in a text", () => {
  expect(contexts.map(([what]) => what)).toContain("@score");
  expect(around.map(([what]) => what)).not.toContain("@band");
  expect(around.length).toBe(contexts.length - 2);
});

test("what is compared brings its values where they are listed", () => {
  expect(subject(dialogue, "temperature").listed).toEqual([
    ["frozen", "Frozen"],
    ["chilled", "Chilled"],
  ]);
  expect(subject(dialogue, "@band").listed).toEqual([["hot", "Hot"]]);
  expect(subject(dialogue, "@weekday").listed[0]).toEqual(["monday", "Monday"]);
  expect(subject(dialogue, "@local_time").type).toBe("clock");
  expect(subject(dialogue, "gone")).toMatchObject({ field: undefined, type: "text", listed: [] });
});

test("another operator keeps the values that still fit", () => {
  const least = { what: "pallets", is: "at_least" as const, to: "50" };
  expect(withOperator(least, "between", [], "quantity")).toEqual({ what: "pallets", is: "between", to: ["50", "50"] });
  const between = { what: "pallets", is: "between" as const, to: ["50", "199"] };
  expect(withOperator(between, "at_most", [], "quantity")).toEqual({ what: "pallets", is: "at_most", to: "50" });
  expect(withOperator(least, "is_missing", [], "quantity")).toEqual({ what: "pallets", is: "is_missing" });
  const one = { what: "temperature", is: "is" as const, to: "chilled" };
  expect(withOperator(one, "is_one_of", [["frozen", "Frozen"]], "choice")).toEqual({
    what: "temperature",
    is: "is_one_of",
    to: ["chilled"],
  });
});

test("a first comparison stands for what is most likely meant", () => {
  expect(firstComparison(dialogue, "pallets")).toEqual({ what: "pallets", is: "at_least", to: "1" });
  expect(firstComparison(dialogue, "temperature")).toEqual({ what: "temperature", is: "is", to: "frozen" });
  expect(firstComparison(dialogue, "@local_time")).toEqual({
    what: "@local_time",
    is: "between",
    to: ["09:00", "17:00"],
  });
});

test("a group of one is that one, and empty groups are dropped", () => {
  expect(simple(groupOf("all", [leaf("a")]))).toEqual(leaf("a"));
  expect(simple(groupOf("any", [leaf("a"), groupOf("all", []), groupOf("all", [leaf("b")])]))).toEqual(
    groupOf("any", [leaf("a"), leaf("b")]),
  );
  const empty = simple(groupOf("all", []));
  expect(isGroup(empty) && partsOf(empty)).toEqual([]);
});
