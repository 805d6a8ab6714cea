/** Rules on a field or an ask: which fit a type, and each in words. The server refuses what does not fit. */
import type { Schemas } from "../../../api";

export type Rule = Schemas["Rule"];
type FieldType = Schemas["FieldType"];

/** A rule as it begins, by the types it fits. */
const offers: { label: string; rule: (language: string) => Rule; fits: FieldType[] | "all" }[] = [
  { label: "must answer", rule: () => ({ rule: "required" }), fits: "all" },
  {
    label: "length",
    rule: () => ({ rule: "length", min: 2, max: 200 }),
    fits: ["text", "long_text", "company", "person_name"],
  },
  {
    label: "set form",
    rule: () => ({ rule: "pattern", regex: "^[A-Z]{2}[0-9]{4}$" }),
    fits: ["text", "long_text", "company", "email", "website"],
  },
  {
    label: "range",
    rule: () => ({ rule: "range", min: "1", max: "1000" }),
    fits: ["whole_number", "quantity", "money", "scale"],
  },
  { label: "no decimals", rule: () => ({ rule: "whole" }), fits: ["whole_number", "quantity", "money"] },
  { label: "company address", rule: () => ({ rule: "company_address" }), fits: ["email"] },
  { label: "first and last name", rule: () => ({ rule: "full_name" }), fits: ["person_name"] },
  { label: "number of a country", rule: () => ({ rule: "phone_country", countries: ["GB"] }), fits: ["phone"] },
  { label: "a number that exists", rule: () => ({ rule: "phone_valid" }), fits: ["phone"] },
  { label: "not in the past", rule: () => ({ rule: "not_past" }), fits: ["date"] },
  { label: "within some days", rule: () => ({ rule: "within_days", days: 90 }), fits: ["date"] },
  { label: "at least so many", rule: () => ({ rule: "at_least", n: 1 }), fits: ["choices", "list"] },
  { label: "at most so many", rule: () => ({ rule: "at_most", n: 3 }), fits: ["choices", "list"] },
  {
    label: "own formula",
    rule: (language) => ({ rule: "formula", formula: "value > 0", message: { [language]: "That does not work." } }),
    fits: "all",
  },
];

/** Rules that may be added to a field of a type, beside those that are there. Only formulas may stand more than once. */
export function openRules(type: FieldType, there: Rule[], language: string): { label: string; rule: Rule }[] {
  return offers
    .filter(({ fits }) => fits === "all" || fits.includes(type))
    .map(({ label, rule }) => ({ label, rule: rule(language) }))
    .filter(({ rule }) => rule.rule === "formula" || !there.some((known) => known.rule === rule.rule));
}

/** Rules that still fit once a field has another type. */
export const rulesFor = (type: FieldType, rules: Rule[]): Rule[] =>
  rules.filter((rule) =>
    offers.some(({ fits, rule: fresh }) => fresh("en").rule === rule.rule && (fits === "all" || fits.includes(type))),
  );

/** What a rule accepts, in words. */
export function ruleWords(rule: Rule): string {
  switch (rule.rule) {
    case "required":
      return "must answer";
    case "length":
      return `${rule.min ?? 1} to ${rule.max ?? "any number of"} characters`;
    case "range":
      return rule.min && rule.max
        ? `${rule.min} to ${Number(rule.max).toLocaleString("en-GB")}`
        : rule.min
          ? `at least ${rule.min}`
          : `at most ${rule.max}`;
    case "company_address":
      return "company address";
    case "full_name":
      return "first and last name";
    case "phone_valid":
      return "a number that exists";
    case "whole":
      return "no decimals";
    case "at_least":
      return `at least ${rule.n}`;
    case "at_most":
      return `at most ${rule.n}`;
    case "not_past":
      return "not in the past";
    case "within_days":
      return `within ${rule.days} days`;
    case "phone_country":
      return `a number in ${rule.countries.join(", ")}`;
    case "pattern":
      return "of a set form";
    case "formula":
      return "by a formula";
    default:
      return rule satisfies never as string;
  }
}
