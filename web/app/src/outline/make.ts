/** New turns, arms, sections and fields, with fresh ids. */
import type { Schemas } from "../../../api";
import { rulesFor } from "../fields/rules";
import { scaleEnds, scaleOptions } from "../fields/scale";
import type { Arm, Dialogue, Field, Kind, Section, Text, Turn } from "./names";
import { index, optionChoices, usualCard } from "./names";

/** A short id that nothing in the dialogue has: a prefix and five random letters or digits. */
export function freshId(dialogue: Dialogue, prefix: string): string {
  const { turns, arms } = index(dialogue);
  for (;;) {
    const random = crypto.getRandomValues(new Uint32Array(1))[0] ?? 0;
    const id = `${prefix}_${random.toString(36).padStart(7, "0").slice(0, 7)}`;
    const taken =
      turns.has(id) ||
      arms.has(id) ||
      dialogue.sections.some((section) => section.id === id) ||
      dialogue.fields?.some((field) => field.id === id);
    if (!taken) return id;
  }
}

/** Kinds in the order an author reaches for them; those that a later version runs stand last. */
export const newKinds: { kind: Kind; says: string; later?: true }[] = [
  { kind: "ask", says: "a question, one field" },
  { kind: "tell", says: "says something" },
  { kind: "fork", says: "arms on conditions" },
  { kind: "work_out", says: "fills fields from formulas" },
  { kind: "file_lead", says: "scores and files the lead" },
  { kind: "visit", says: "runs a section and comes back" },
  { kind: "close", says: "ends the conversation" },
  { kind: "ask_together", says: "several fields on one small form" },
  { kind: "open_ask", says: "reads several fields out of a free reply" },
  { kind: "read_back", says: "shows what was kept and lets them correct it" },
  { kind: "take_questions", says: "answers their questions from the facts", later: true },
  { kind: "consult", says: "asks an outside system and waits a little", later: true },
  { kind: "offer_times", says: "shows free times and books one", later: true },
  { kind: "bring_in_rep", says: "passes the conversation to a person", later: true },
];

const text = (dialogue: Dialogue, words: string): Text => ({ [dialogue.language]: words });

/** A turn of a kind, ready to be filled in. */
export function newTurn(dialogue: Dialogue, kind: Kind): Turn {
  const id = freshId(dialogue, "t");
  const field = dialogue.fields?.[0]?.key ?? "";
  switch (kind) {
    case "ask":
      return { kind, id, say: { text: text(dialogue, "New question?") }, field, tries: 3, way_out: "go_on" };
    case "fork":
      return { kind, id, arms: [{ id: freshId(dialogue, "a"), when: "otherwise", turns: [], then: "rejoin" }] };
    case "work_out":
      return { kind, id, fills: [] };
    case "file_lead":
      return { kind, id };
    case "visit":
      return { kind, id, section: dialogue.sections[0]?.id ?? "" };
    case "close":
      return { kind, id, outcome: dialogue.outcomes[0]?.id ?? "", say: { text: text(dialogue, "Thank you.") } };
    case "ask_together":
      return {
        kind,
        id,
        say: { text: text(dialogue, "A few details, please.") },
        fields: [],
        tries: 3,
        way_out: "go_on",
      };
    case "open_ask":
      return { kind, id, say: { text: text(dialogue, "Tell us about it.") }, fields: [], missing: "one_by_one" };
    case "read_back":
      return { kind, id, say: { text: text(dialogue, "Is this right?") }, fields: [] };
    case "take_questions":
      return {
        kind,
        id,
        say: { text: text(dialogue, "What would you like to know?") },
        no_answer: text(dialogue, "Somebody will come back to you on that."),
        done: text(dialogue, "No more questions"),
      };
    case "consult":
      return {
        kind,
        id,
        say: { text: text(dialogue, "One moment, please.") },
        destination: "",
        send: [],
        wait_seconds: 5,
      };
    case "offer_times":
      return { kind, id, say: { text: text(dialogue, "When would suit you?") }, minutes: 30, days_ahead: 14 };
    case "bring_in_rep":
      return { kind, id, say: { text: text(dialogue, "We look for somebody who is free.") }, wait_seconds: 60 };
    default:
      return { kind: "tell", id, say: [{ line: { text: text(dialogue, "New line") } }] };
  }
}

/** What can come of kinds whose arms hang on what an outside system or a person does. */
export const armSorts: Partial<Record<Kind, ("answered" | "refused" | "no_answer" | "booked" | "joined")[]>> = {
  consult: ["answered", "refused", "no_answer"],
  offer_times: ["booked", "no_answer"],
  bring_in_rep: ["joined", "no_answer"],
};

/** An arm for a turn: for an option that has none yet, else on the first thing that fits the kind. */
export function newArm(dialogue: Dialogue, turn: Turn): Arm | null {
  const arm = (when: Schemas["When"]): Arm => ({ id: freshId(dialogue, "a"), when, turns: [], then: "rejoin" });
  const arms = "arms" in turn ? (turn.arms ?? []) : [];
  const compare: Schemas["When"] = {
    holds: { compare: { what: dialogue.fields?.[0]?.key ?? "@score", is: "is_known" } },
  };
  if (turn.kind === "ask") {
    const field = dialogue.fields?.find((known) => known.key === turn.field);
    const keys = optionChoices(dialogue, field).map(([key]) => key);
    const covered = new Set(
      arms.flatMap((known) => (typeof known.when === "object" && "options" in known.when ? known.when.options : [])),
    );
    const open = keys.find((key) => !covered.has(key));
    return arm(
      open
        ? { options: [open] }
        : keys.length > 0
          ? "otherwise"
          : { holds: { compare: { what: turn.field, is: "is_known" } } },
    );
  }
  if (turn.kind === "file_lead") {
    const covered = new Set(
      arms.flatMap((known) => (typeof known.when === "object" && "band" in known.when ? known.when.band : [])),
    );
    const card = dialogue.scorecards?.find((known) => known.id === turn.scorecard) ?? usualCard(dialogue);
    const band = card?.bands.find((known) => !covered.has(known.id));
    return arm(band ? { band: [band.id] } : "ruled_out");
  }
  if (turn.kind === "fork") return arm(compare);
  const open = (armSorts[turn.kind] ?? []).find((when) => !arms.some((known) => known.when === when));
  return open ? arm(open) : null;
}

/** A section with nothing in it. */
export function newSection(dialogue: Dialogue): Section {
  return { id: freshId(dialogue, "s"), title: "New section", turns: [], then: "carry_on" };
}

/** A field's key made from its label, with a number where that is taken. */
export function keyOf(label: string, taken: string[]): string {
  const base =
    label
      .normalize("NFKD")
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "_")
      .replace(/^[^a-z]+|_+$/g, "")
      .slice(0, 30) || "field";
  let key = base;
  for (let n = 2; taken.includes(key); n += 1) key = `${base}_${n}`;
  return key;
}

/** A field to keep an answer in. */
export function newField(dialogue: Dialogue, label: string, type: Schemas["FieldType"], catalogue: Field[]): Field {
  const taken = [...(dialogue.fields ?? []), ...catalogue].map((field) => field.key);
  return withType(
    { id: freshId(dialogue, "fld"), key: keyOf(label, taken), label, type, record: "lead" },
    type,
    dialogue.language,
  );
}

/** A field as another type: options come, stay or go as the type has them, rules stay where they fit, and it goes on the
 * record where the type belongs. */
export function withType(field: Field, type: Schemas["FieldType"], language: string): Field {
  const contact = type === "person_name" || type === "email" || type === "phone" || type === "address";
  const { options: _, unit, currency, permits, ...rest } = field;
  const out: Field = {
    ...rest,
    type,
    personal: contact,
    record: contact ? "contact" : type === "company" || type === "website" ? "company" : "lead",
    rules: rulesFor(type, field.rules ?? []),
  };
  if (unit && (type === "quantity" || type === "whole_number")) out.unit = unit;
  if (currency && type === "money") out.currency = currency;
  if (permits && type === "consent") out.permits = permits;
  if (type === "choice" || type === "choices") {
    const known = field.type === "choice" || field.type === "choices" ? (field.options ?? []) : [];
    out.options =
      known.length > 0
        ? known
        : ["First option", "Second option"].map((words, place) => ({
            key: `option_${place + 1}`,
            label: { [language]: words },
          }));
  }
  if (type === "scale")
    out.options = scaleOptions({ ...out, options: [] }, language, scaleEnds({ ...out, options: [] }, language));
  return out;
}
