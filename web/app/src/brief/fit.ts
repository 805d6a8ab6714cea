/** The brief's fit as conditions, and outcomes: what changes them, without the screen. */
import type { Dialogue } from "../outline/names";
import { usualCard } from "../outline/names";
import type { Card } from "../scoring/card";
import { freshPart, newCard, newCriterion, withCriterion, withDimension, withRuleOut } from "../scoring/card";

export type Brief = NonNullable<Dialogue["brief"]>;
export type Fit = NonNullable<Brief["fits"]>[number];
export type Outcome = Dialogue["outcomes"][number];

/** A short id that none of them has. */
export function freshId(prefix: string, taken: string[]): string {
  for (let number = taken.length + 1; ; number += 1) {
    const id = `${prefix}_${number}`;
    if (!taken.includes(id)) return id;
  }
}

const same = (one: unknown, other: unknown) => JSON.stringify(one) === JSON.stringify(other);

const criteriaOf = (card: Card | undefined) =>
  (card?.dimensions ?? []).flatMap((dimension) => dimension.criteria ?? []);

/** Conditions of the brief that the scorecard does not know yet. */
export function unscored(dialogue: Dialogue): Fit[] {
  const card = usualCard(dialogue);
  const held = criteriaOf(card).flatMap((criterion) => ("when" in criterion.gives ? [criterion.gives.when.holds] : []));
  const out = (card?.rule_outs ?? []).map((rule) => rule.holds);
  return (dialogue.brief?.fits ?? []).filter((fit) => !(fit.out ? out : held).some((known) => same(known, fit.holds)));
}

/** The scorecards, the usual one with what it lacks of the brief: criteria of ten points each, and rule-outs. */
export function scored(dialogue: Dialogue): Card[] {
  const usual = usualCard(dialogue);
  let card = usual ?? newCard(dialogue, "Fit");
  const cards = () =>
    usual ? (dialogue.scorecards ?? []).map((known) => (known.id === card.id ? card : known)) : [card];
  for (const fit of unscored(dialogue)) {
    const known = { ...dialogue, scorecards: cards() };
    card = fit.out
      ? withRuleOut(card, known, freshPart(known, "o"), fit.holds)
      : withCriterion(withDimension(card, known), newCriterion(freshPart(known, "c"), fit.holds), undefined);
  }
  return cards();
}

/** What an outcome comes to, which gives its colour on the rails. */
export const outcomeClasses: [key: Outcome["class"], label: string][] = [
  ["lead", "a lead"],
  ["not_a_fit", "not a fit"],
  ["customer", "a customer already"],
  ["looking", "only looking"],
  ["unfinished", "left before the end"],
  ["other", "something else"],
];

/** True where a Close, an arm, a section or a promise ends with the outcome. */
export const ends = (dialogue: Dialogue, outcome: string): boolean => {
  const inside = (part: unknown): boolean =>
    Array.isArray(part)
      ? part.some(inside)
      : typeof part === "object" &&
        part !== null &&
        Object.entries(part).some(
          ([key, value]) => ((key === "outcome" || key === "never_filed") && value === outcome) || inside(value),
        );
  return inside([dialogue.sections, dialogue.promises, dialogue.rehearsals]);
};
