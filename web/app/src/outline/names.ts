/** Finding parts of a dialogue, and naming them for people. */
import type { Schemas } from "../../../api";

export type Dialogue = Schemas["Dialogue"];
export type Turn = Schemas["Turn"];
export type Arm = Schemas["Arm"];
export type Section = Schemas["Section"];
export type Field = Schemas["Field"];
export type Text = Record<string, string>;
export type Ask = Extract<Turn, { kind: "ask" }>;
export type Kind = Turn["kind"];

export const kindLabels: Record<Kind, string> = {
  tell: "Tell",
  ask: "Ask",
  ask_together: "Ask together",
  open_ask: "Open ask",
  fork: "Fork",
  work_out: "Work out",
  read_back: "Read back",
  take_questions: "Take questions",
  consult: "Consult",
  offer_times: "Offer times",
  file_lead: "File lead",
  bring_in_rep: "Bring in a rep",
  visit: "Visit",
  close: "Close",
};

export const typeLabels: Record<Schemas["FieldType"], string> = {
  text: "text",
  long_text: "long text",
  person_name: "person’s name",
  company: "company",
  email: "e-mail",
  phone: "phone",
  website: "website",
  whole_number: "whole number",
  quantity: "quantity",
  money: "money",
  date: "date",
  yes_no: "yes or no",
  choice: "one of several",
  choices: "several of several",
  scale: "scale",
  place: "place",
  address: "address",
  list: "list",
  country: "country",
  consent: "consent",
};

/** Types of fields, the common ones first. */
export const fieldTypes: Schemas["FieldType"][] = [
  "choice",
  "choices",
  "yes_no",
  "whole_number",
  "quantity",
  "money",
  "date",
  "text",
  "long_text",
  "person_name",
  "company",
  "email",
  "phone",
  "website",
  "country",
  "place",
  "address",
  "list",
  "scale",
  "consent",
];

/** True where an answer is one of listed options. */
export const hasOptions = (type: Schemas["FieldType"]): boolean =>
  type === "choice" || type === "choices" || type === "scale";

/** The arms of a turn; none for kinds without. */
export const armsOf = (turn: Turn): Arm[] => ("arms" in turn && turn.arms) || [];

/** Every turn and arm by id. */
export function index(dialogue: Dialogue) {
  const turns = new Map<string, Turn>();
  const arms = new Map<string, { arm: Arm; turn: Turn }>();
  const walk = (list: Turn[]) => {
    for (const turn of list) {
      turns.set(turn.id, turn);
      for (const arm of armsOf(turn)) {
        arms.set(arm.id, { arm, turn });
        walk(arm.turns ?? []);
      }
    }
  };
  for (const section of dialogue.sections) walk(section.turns ?? []);
  return { turns, arms };
}

/** A text in the dialogue's language. */
export const words = (text: Text | null | undefined, language: string): string =>
  text?.[language] ?? Object.values(text ?? {})[0] ?? "";

/** A section as "2 The load". */
export function sectionName(dialogue: Dialogue, id: string): string {
  const place = dialogue.sections.findIndex((section) => section.id === id);
  return place < 0 ? `a section that is gone (${id})` : `${place + 1} ${dialogue.sections[place]?.title}`;
}

export const fieldOf = (dialogue: Dialogue, key: string): Field | undefined =>
  dialogue.fields?.find((field) => field.key === key);

/** What somebody changed, by its id, in words. */
export function nameOf(dialogue: Dialogue, id: string): string {
  const section = dialogue.sections.find((known) => known.id === id);
  if (section) return `section “${section.title}”`;
  const { turns, arms } = index(dialogue);
  const turn = turns.get(id);
  if (turn) return summary(dialogue, turn);
  const arm = arms.get(id);
  if (arm) return `an arm of ${summary(dialogue, arm.turn)}`;
  const field = dialogue.fields?.find((known) => known.id === id);
  return field
    ? `field “${field.label}”`
    : id.startsWith("t_") || id.startsWith("a_")
      ? "something that is new or gone"
      : id;
}

/** A turn in a few words. */
export function summary(dialogue: Dialogue, turn: Turn): string {
  const text = firstWords(dialogue, turn);
  return `${kindLabels[turn.kind]}${text ? ` “${text.length > 40 ? `${text.slice(0, 39)}…` : text}”` : ""}`;
}

function firstWords(dialogue: Dialogue, turn: Turn): string {
  if (turn.kind === "tell") {
    const line = turn.say.find((part) => "line" in part);
    return line && "line" in line ? words(line.line.text, dialogue.language) : "";
  }
  if ("say" in turn && turn.say && !Array.isArray(turn.say)) return words(turn.say.text, dialogue.language);
  return "";
}

/** What makes the conversation take an arm, in words. */
export function armWords(dialogue: Dialogue, turn: Turn, arm: Arm, said: Record<string, string>): string {
  const when = arm.when;
  if (typeof when === "string") {
    return {
      otherwise: "otherwise",
      ruled_out: "Ruled out",
      lacks: "Lacks what a lead must carry",
      way_out: "way out",
      answered: "answered",
      refused: "refused",
      no_answer: "no answer",
      booked: "booked",
      joined: "joined",
    }[when];
  }
  if ("holds" in when) return said[arm.id] ?? "a condition";
  if ("band" in when) {
    const bands = dialogue.scorecards?.flatMap((card) => card.bands) ?? [];
    return when.band.map((id) => bands.find((band) => band.id === id)?.label ?? id).join(" or ");
  }
  const field = turn.kind === "ask" ? fieldOf(dialogue, turn.field) : undefined;
  return when.options.map((key) => optionLabel(dialogue, field, key)).join(" or ");
}

/** An option's label by its key. */
export function optionLabel(dialogue: Dialogue, field: Field | undefined, key: string): string {
  if (field?.type === "yes_no" || field?.type === "consent") return key === "yes" ? "Yes" : "No";
  const option = field?.options?.find((known) => known.key === key);
  return option ? words(option.label, dialogue.language) : key;
}

/** What a field's answer can be, as key and label; nothing where it is open. */
export function optionChoices(dialogue: Dialogue, field: Field | undefined): [key: string, label: string][] {
  if (field?.type === "yes_no" || field?.type === "consent")
    return [
      ["yes", "Yes"],
      ["no", "No"],
    ];
  return (field?.options ?? []).map((option) => [option.key, words(option.label, dialogue.language)]);
}

/** The scorecard that leads are filed by where none is named. */
export const usualCard = (dialogue: Dialogue) =>
  dialogue.scorecards?.find((card) => card.id === dialogue.default_scorecard) ?? dialogue.scorecards?.[0];

/** Points that a scorecard gives for one option of a field, where it does so by a plain condition. */
export function optionPoints(dialogue: Dialogue, key: string, option: string): number {
  let points = 0;
  for (const criterion of usualCard(dialogue)?.dimensions?.flatMap((dimension) => dimension.criteria ?? []) ?? []) {
    if ("when" in criterion.gives) {
      const { holds, points: given } = criterion.gives.when;
      if ("compare" in holds && holds.compare.what === key && holds.compare.is === "is" && holds.compare.to === option)
        points += given;
    }
  }
  return points;
}

/** The reason of the first rule-out that one option meets by a plain condition. */
export function optionRulesOut(dialogue: Dialogue, key: string, option: string): string | undefined {
  for (const out of usualCard(dialogue)?.rule_outs ?? []) {
    if (
      "compare" in out.holds &&
      out.holds.compare.what === key &&
      out.holds.compare.is === "is" &&
      out.holds.compare.to === option
    ) {
      return words(out.reason, dialogue.language);
    }
  }
  return undefined;
}
