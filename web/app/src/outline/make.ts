/** New turns, arms, sections and fields, with fresh ids. */
import type { Schemas } from "../../../api";
import type { Arm, Dialogue, Field, Kind, Section, Text, Turn } from "./names";
import { index } from "./names";

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

/** Kinds that this version runs, in the order an author reaches for them. */
export const newKinds: { kind: Kind; says: string }[] = [
  { kind: "ask", says: "a question, one field" },
  { kind: "tell", says: "says something" },
  { kind: "fork", says: "arms on conditions" },
  { kind: "work_out", says: "fills fields from formulas" },
  { kind: "file_lead", says: "scores and files the lead" },
  { kind: "visit", says: "runs a section and comes back" },
  { kind: "close", says: "ends the conversation" },
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
    default:
      return { kind: "tell", id, say: [{ line: { text: text(dialogue, "New line") } }] };
  }
}

/** An arm for a turn: for an option that has none yet, else on the first thing that fits the kind. */
export function newArm(dialogue: Dialogue, turn: Turn): Arm | null {
  const arm = (when: Schemas["When"]): Arm => ({ id: freshId(dialogue, "a"), when, turns: [], then: "rejoin" });
  const arms = "arms" in turn ? (turn.arms ?? []) : [];
  const compare: Schemas["When"] = {
    holds: { compare: { what: dialogue.fields?.[0]?.key ?? "@score", is: "is_known" } },
  };
  if (turn.kind === "ask") {
    const field = dialogue.fields?.find((known) => known.key === turn.field);
    const keys = field?.type === "yes_no" ? ["yes", "no"] : (field?.options ?? []).map((option) => option.key);
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
    const band = dialogue.scorecards?.[0]?.bands.find((known) => !covered.has(known.id));
    return arm(band ? { band: [band.id] } : "ruled_out");
  }
  return turn.kind === "fork" ? arm(compare) : null;
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
  const field: Field = { id: freshId(dialogue, "fld"), key: keyOf(label, taken), label, type, record: "lead" };
  if (type === "choice") {
    field.options = [
      { key: "yes", label: text(dialogue, "First option") },
      { key: "no", label: text(dialogue, "Second option") },
    ].map((option, place) => ({ ...option, key: `option_${place + 1}` }));
  }
  return field;
}
