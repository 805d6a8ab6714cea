/** Words of the screen on which one says what goes where. */
import type { Schemas } from "../../../../api";

export type From = Schemas["MapFrom"];
export type Fact = Schemas["LeadFact"];
export type Rule = Schemas["MapRule"];
export type Holds = Schemas["Holds"];

export const objectWords: Record<Holds, string> = { company: "Company", contact: "Contact", lead: "Lead" };

export const factWords: Record<Fact, string> = {
  name: "Name",
  given_name: "Given name",
  family_name: "Family name",
  email: "E-mail address",
  phone: "Phone",
  company: "Company",
  domain: "Company’s domain",
  wants: "What they want, in a line",
  points: "Points",
  band: "Band",
  status: "Status",
  reason: "Reason",
  amount: "Amount won",
  currency: "Currency of the amount",
  owner: "Owner",
  queue: "Queue",
  dialogue: "Dialogue",
  filed_at: "When it was filed",
  link: "Link to the lead",
  transcript: "What was said",
  page: "Page",
  first_page: "First page of the visit",
  referrer: "Where they came from",
  campaign: "Campaign",
  unfinished: "Left before the end",
};

export const facts = Object.keys(factWords) as Fact[];

export const kindWords: Record<Schemas["PropertyKind"], string> = {
  text: "text",
  long_text: "lines of text",
  number: "number",
  boolean: "yes or no",
  date: "day",
  moment: "moment",
  option: "one of its options",
  options: "some of its options",
  person: "somebody there",
};

/** A source as the value of a select, and back. */
export function toValue(from: From | undefined): string {
  if (!from) return "";
  if ("field" in from) return `field:${from.field}`;
  if ("fact" in from) return `fact:${from.fact}`;
  return "text";
}

export function fromValue(value: string, before: From | undefined): From | null {
  if (value === "") return null;
  if (value === "text") return { text: before && "text" in before ? before.text : "" };
  const [kind, rest] = [value.slice(0, value.indexOf(":")), value.slice(value.indexOf(":") + 1)];
  return kind === "field" ? { field: rest } : { fact: rest as Fact };
}

const listed = (items: string[]) =>
  items.length < 2 ? (items[0] ?? "") : `${items.slice(0, -1).join(", ")} and ${items[items.length - 1]}`;

/** What is wrong with a property, in a sentence, and whether records fail for it. `nameOf` says how people here call one of ours. */
export function faultWords(
  what: Schemas["MappingFaultKind"],
  nameOf: (key: string) => string = (key) => key,
): { says: string; stops: boolean } {
  if (what === "nothing_written") return { says: "It is required there, and nothing is written to it.", stops: true };
  if (what === "no_property") return { says: "There is no such property any more.", stops: true };
  if (what === "other_kind") return { says: "This cannot be written as what it takes.", stops: true };
  if (what === "twice") return { says: "Two rules write it; the later one counts.", stops: false };
  if ("can_be_missing" in what) {
    return {
      says: `It is required there, and leads of ${listed(what.can_be_missing)} can come without. They would be refused.`,
      stops: true,
    };
  }
  if ("no_field" in what) return { says: `No dialogue has the field “${what.no_field}”.`, stops: true };
  if ("no_options" in what) {
    return { says: `No counterpart there: ${listed(what.no_options.map(nameOf))}. These are left out.`, stops: false };
  }
  return {
    says: `Nobody there is ${listed(what.no_people.map(nameOf))}. Their leads have no owner there.`,
    stops: false,
  };
}

/** What a lead would carry, in words: of options and people as one sees them there. */
export function carriedWords(
  carried: Schemas["Carried"] | undefined,
  theirs: (value: string) => string = (value) => value,
  nameOf: (key: string) => string = (key) => key,
): { says: string; lost: boolean } {
  if (carried === undefined) return { says: "", lost: false };
  if (carried === "missing") return { says: "left out: the lead has none", lost: false };
  if ("value" in carried) {
    const value: unknown = carried.value;
    if (Array.isArray(value)) return { says: value.map((each) => theirs(String(each))).join(", "), lost: false };
    if (value === true) return { says: "yes", lost: false };
    if (value === false) return { says: "no", lost: false };
    return { says: theirs(String(value)), lost: false };
  }
  const lost = carried.lost;
  if (lost === "other_kind") return { says: "left out: it cannot be written as this", lost: true };
  if ("no_option" in lost) return { says: `left out: “${nameOf(lost.no_option)}” has no counterpart`, lost: true };
  return { says: `left out: ${lost.no_person} is nobody there`, lost: true };
}

/** Rules with one put in the place of the one of the same property, or taken out. */
export function withRule(rules: Rule[], holds: Holds, property: string, rule: Rule | null): Rule[] {
  const at = rules.findIndex((each) => each.object === holds && each.property === property);
  const rest = rules.filter((each) => each.object !== holds || each.property !== property);
  if (!rule) return rest;
  return at < 0 ? [...rest, rule] : rules.map((each, index) => (index === at ? rule : each));
}

/** A name for one more column that no column has yet. */
export function freshColumn(rules: Rule[], wish: string): string {
  const taken = new Set(rules.map((rule) => rule.property));
  if (!taken.has(wish)) return wish;
  for (let number = 2; ; number += 1) if (!taken.has(`${wish} ${number}`)) return `${wish} ${number}`;
}
