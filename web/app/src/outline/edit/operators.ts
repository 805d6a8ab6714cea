/** Ways to compare, by what is compared. */
import type { Schemas } from "../../../../api";
import type { Dialogue, Field } from "../names";
import { fieldOf, optionChoices } from "../names";

export type Condition = Schemas["Condition"];
export type Comparison = Schemas["Comparison"];
export type Operator = Comparison["is"];

export const operatorWords: Record<Operator, string> = {
  is: "is",
  is_not: "is not",
  is_one_of: "is one of",
  is_none_of: "is none of",
  at_least: "at least",
  at_most: "at most",
  more_than: "more than",
  less_than: "less than",
  between: "from … to",
  contains: "contains",
  within_days: "within … days",
  is_missing: "is missing",
  is_known: "is known",
};

const weekdays = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];

/** What may be compared beside fields. */
export const contexts: [what: string, label: string][] = [
  ["@score", "Score"],
  ["@band", "Band"],
  ["@settled", "Settled"],
  ["@page", "Page"],
  ["@referrer", "Referrer"],
  ["@campaign", "Campaign"],
  ["@campaign_source", "Campaign source"],
  ["@campaign_medium", "Campaign medium"],
  ["@campaign_term", "Campaign term"],
  ["@campaign_content", "Campaign content"],
  ["@language", "Language"],
  ["@device", "Device"],
  ["@country", "Country"],
  ["@time_zone", "Time zone"],
  ["@returning", "Returning"],
  ["@local_time", "Local time"],
  ["@weekday", "Weekday"],
];

/** What is known without asking, and may be shown in a text as well. */
export const around = contexts.filter(([what]) => !["@score", "@band", "@settled"].includes(what));

/** What decides which comparisons make sense: a field's type, or what is known without asking. */
export type Subject = Field["type"] | "score" | "clock" | "weekday";

/** Operators that make sense for a type, as the core has them. */
export function operatorsFor(type: Subject): Operator[] {
  const always: Operator[] = ["is_known", "is_missing"];
  switch (type) {
    case "whole_number":
    case "quantity":
    case "money":
    case "scale":
    case "score":
      return ["at_least", "at_most", "more_than", "less_than", "between", "is", "is_not", ...always];
    case "date":
      return ["is", "at_least", "at_most", "between", "within_days", ...always];
    case "choice":
      return ["is", "is_not", "is_one_of", "is_none_of", ...always];
    case "clock":
      return ["between", "at_least", "at_most", "more_than", "less_than", ...always];
    case "weekday":
      return ["is_one_of", "is_none_of", "is", "is_not", ...always];
    case "choices":
    case "list":
      return ["contains", ...always];
    case "yes_no":
    case "consent":
      return ["is", ...always];
    default:
      return ["is", "is_not", "contains", ...always];
  }
}

/** What is compared: its type, and the values it can have where they are listed. */
export function subject(dialogue: Dialogue, what: string) {
  const field = fieldOf(dialogue, what);
  const known: Record<string, Subject> = {
    "@score": "score",
    "@settled": "yes_no",
    "@local_time": "clock",
    "@weekday": "weekday",
  };
  const type: Subject = field?.type ?? known[what] ?? "text";
  const listed: [string, string][] = field
    ? optionChoices(dialogue, field)
    : what === "@band"
      ? (dialogue.scorecards ?? []).flatMap((card) => card.bands).map((band) => [band.id, band.label])
      : what === "@settled"
        ? [
            ["yes", "Yes"],
            ["no", "No"],
          ]
        : what === "@device"
          ? ["phone", "tablet", "computer"].map((key) => [key, key])
          : what === "@returning"
            ? [["yes", "yes"]]
            : what === "@weekday"
              ? weekdays.map((day) => [day.toLowerCase(), day])
              : [];
  return { field, type, listed };
}

/** A comparison with another operator; values are kept where they still fit. */
export function withOperator(
  comparison: Comparison,
  is: Operator,
  listed: [string, string][],
  type: string,
): Comparison {
  const values = Array.isArray(comparison.to) ? comparison.to : comparison.to ? [comparison.to] : [];
  const [low = "", high = ""] = values;
  const { what } = comparison;
  if (is === "is_known" || is === "is_missing") return { what, is };
  const [usual, later] = type === "clock" ? ["09:00", "17:00"] : ["1", "10"];
  if (is === "between") return { what, is, to: [low || usual, high || low || later] };
  const first = low || listed[0]?.[0] || (type === "text" ? "" : usual);
  if (is === "is_one_of" || is === "is_none_of") return { what, is, to: values.length > 0 ? values : [first] };
  return { what, is, to: first };
}

/** The first comparison for something: the one an author most likely means. */
export function firstComparison(dialogue: Dialogue, what: string): Comparison {
  const { type, listed } = subject(dialogue, what);
  const [first = "is_known"] = operatorsFor(type);
  return withOperator({ what, is: "is_known" }, first, listed, type);
}

export type Group = { all: Condition[] } | { any: Condition[] };

export const isGroup = (condition: Condition): condition is Group => "all" in condition || "any" in condition;
export const partsOf = (group: Group): Condition[] => ("all" in group ? group.all : group.any);
export const groupOf = (joined: "all" | "any", parts: Condition[]): Condition =>
  joined === "all" ? { all: parts } : { any: parts };

/** A group of one is that one; empty groups are dropped. */
export function simple(condition: Condition): Condition {
  if (!isGroup(condition)) return condition;
  const parts = partsOf(condition)
    .map(simple)
    .filter((part) => !isGroup(part) || partsOf(part).length > 0);
  const [only] = parts;
  if (parts.length === 1 && only) return only;
  return groupOf("all" in condition ? "all" : "any", parts);
}
