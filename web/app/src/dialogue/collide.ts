/** Which of the waiting edits would overwrite what somebody else changed meanwhile. */
import type { Schemas } from "../../../api";
import type { Dialogue } from "../outline/names";
import { armWords, index, sectionName, summary, words } from "../outline/names";

type Edit = Schemas["Edit"];

/** Ids that an edit would overwrite; putting something in overwrites nothing. */
export function overwrites(edit: Edit): string[] {
  switch (edit.op) {
    case "change_turn":
      return [edit.turn.id];
    case "change_arm":
      return [edit.arm.id];
    case "put_field":
      return [edit.field.id];
    case "move_turn":
    case "remove_turn":
    case "move_arm":
    case "remove_arm":
    case "change_section":
    case "move_section":
    case "remove_section":
    case "remove_field":
      return [edit.id];
    case "insert_turn":
    case "insert_arm":
    case "insert_section":
      return [];
    case "set_phrase":
      return [edit.key];
    case "set_media":
      return [edit.hash];
    case "set_title":
      return ["title"];
    case "set_opening":
      return ["opening"];
    case "set_brief":
      return ["brief"];
    case "set_accepted":
      return ["accepted"];
    case "set_outcomes":
      return ["outcomes"];
    case "set_scorecards":
      return ["scoring"];
    case "set_routing":
      return ["routing"];
    case "set_tables":
      return ["tables"];
    case "set_any_time":
      return ["any-time"];
    case "set_settings":
      return ["settings"];
    case "set_all":
      return ["everything"];
  }
}

/** True where an edit and what was touched meanwhile have nothing in common. */
export function apart(edit: Edit, touched: Set<string>): boolean {
  if (touched.has("everything")) return false;
  if (edit.op === "set_all") return touched.size === 0;
  return overwrites(edit).every((id) => !touched.has(id));
}

/** What stands for an edit's subject in a dialogue, in words; nothing where it is gone. */
export function theirs(dialogue: Dialogue, edit: Edit): string {
  const { turns, arms } = index(dialogue);
  const [id = ""] = overwrites(edit);
  const turn = turns.get(id);
  if (turn) return summary(dialogue, turn);
  const arm = arms.get(id);
  if (arm) return `Arm “${armWords(dialogue, arm.turn, arm.arm, {})}”`;
  const section = dialogue.sections.find((known) => known.id === id);
  if (section) return `Section ${sectionName(dialogue, id)}`;
  const field = dialogue.fields?.find((known) => known.id === id);
  if (field) return `Field “${field.label}”`;
  if (id === "title") return `Title “${dialogue.title}”`;
  if (id === "opening") return `Greeting “${words(dialogue.opening.say, dialogue.language)}”`;
  return ["brief", "outcomes", "scoring", "routing", "tables", "any-time", "settings", "everything"].includes(id)
    ? `The ${id.replace("-", " ")} as it is now`
    : "It was taken out";
}

/** What an edit would make of it, in words. */
export function mine(dialogue: Dialogue, edit: Edit): string {
  if (edit.op === "change_turn") return summary(dialogue, edit.turn);
  if (edit.op === "change_arm") {
    const known = index(dialogue).arms.get(edit.arm.id);
    return known ? `Arm “${edit.arm.label ?? armWords(dialogue, known.turn, edit.arm, {})}”` : "Your change of the arm";
  }
  if (edit.op === "change_section") return `Section “${edit.title}”`;
  if (edit.op === "put_field") return `Field “${edit.field.label}”`;
  if (edit.op === "set_title") return `Title “${edit.title}”`;
  if (edit.op === "set_opening") return `Greeting “${words(edit.opening.say, dialogue.language)}”`;
  if (edit.op.startsWith("remove")) return "Take it out";
  if (edit.op.startsWith("move")) return "Move it";
  return "Your change of it";
}
