/** The dialogue as it will be once the waiting changes are kept: what was typed never jumps back while it is sent. */
import type { Schemas } from "../../../api";
import type { Arm, Dialogue, Turn } from "../outline/names";

type Edit = Schemas["Edit"];

/** Puts edits that replace one thing by id over a dialogue; edits that add or move wait for the server. */
export function overlay(dialogue: Dialogue, edits: Edit[]): Dialogue {
  const turns = new Map<string, Turn>();
  const arms = new Map<string, Arm>();
  let out = dialogue;
  for (const edit of edits) {
    if (edit.op === "change_turn") turns.set(edit.turn.id, edit.turn);
    if (edit.op === "change_arm") arms.set(edit.arm.id, edit.arm);
    if (edit.op === "change_section") {
      const sections = out.sections.map((section) =>
        section.id === edit.id ? { ...section, title: edit.title, then: edit.then } : section,
      );
      out = { ...out, sections };
    }
    if (edit.op === "put_field") {
      const fields = out.fields ?? [];
      const known = fields.some((field) => field.id === edit.field.id);
      out = {
        ...out,
        fields: known
          ? fields.map((field) => (field.id === edit.field.id ? edit.field : field))
          : [...fields, edit.field],
      };
    }
    if (edit.op === "set_title") out = { ...out, title: edit.title };
    if (edit.op === "set_opening") out = { ...out, opening: edit.opening };
    if (edit.op === "set_brief") out = { ...out, brief: edit.brief };
    if (edit.op === "set_accepted") out = { ...out, accepted: edit.accepted };
    if (edit.op === "set_tables") out = { ...out, tables: edit.tables };
    if (edit.op === "set_any_time") out = { ...out, side_talk: edit.side_talk, offers: edit.offers };
    if (edit.op === "set_settings") out = { ...out, settings: edit.settings };
    if (edit.op === "set_routing") out = { ...out, routing: edit.routing };
    if (edit.op === "set_scorecards") out = { ...out, scorecards: edit.scorecards, default_scorecard: edit.default };
    if (edit.op === "set_outcomes") out = { ...out, outcomes: edit.outcomes };
  }
  if (turns.size === 0 && arms.size === 0) return out;
  const overTurns = (list: Turn[]): Turn[] =>
    list.map((turn) => {
      const base = turns.get(turn.id) ?? turn;
      if (!("arms" in turn) || !turn.arms) return base;
      return { ...base, arms: turn.arms.map(overArm) } as Turn;
    });
  const overArm = (arm: Arm): Arm => ({ ...(arms.get(arm.id) ?? arm), turns: overTurns(arm.turns ?? []) });
  return { ...out, sections: out.sections.map((section) => ({ ...section, turns: overTurns(section.turns ?? []) })) };
}
