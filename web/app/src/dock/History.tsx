import { useQuery } from "@tanstack/react-query";

import type { Schemas } from "../../../api";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { historyQuery } from "../lib/query";
import { ago } from "../lib/time";
import { nameOf } from "../outline/names";

const verbs: Record<Schemas["Edit"]["op"], string> = {
  insert_turn: "put in",
  change_turn: "changed",
  move_turn: "moved",
  remove_turn: "took out",
  insert_arm: "put in an arm of",
  change_arm: "changed",
  move_arm: "moved",
  remove_arm: "took out an arm",
  insert_section: "put in",
  change_section: "changed",
  move_section: "moved",
  remove_section: "took out a section",
  put_field: "changed",
  remove_field: "took out a field",
  set_title: "changed the title",
  set_opening: "changed the opening",
  set_brief: "changed the brief",
  set_accepted: "accepted findings",
  set_outcomes: "changed the outcomes",
  set_scorecards: "changed the scoring",
  set_routing: "changed the routing",
  set_tables: "changed the tables",
  set_any_time: "changed what happens any time",
  set_phrase: "changed a phrase",
  set_settings: "changed the pace and limits",
  set_media: "added a picture or document",
  set_all: "brought back a release",
};

/** Who changed this draft, newest first. */
export function History() {
  const { draft, dialogue } = useShownDraft();
  const { data, isPending } = useQuery(historyQuery(dialogue, draft.revision));
  if (isPending) return <p className="p-4 text-soft">Reading the history</p>;
  if (!data || data.length === 0)
    return <p className="p-4 text-soft">No change yet. Every change is listed here with who made it.</p>;
  return (
    <ol>
      {data.map((row) => (
        <li key={row.revision} className="border-b border-line px-4 py-2">
          <p className="text-xs text-soft">
            {row.person}, {ago(row.at)}
          </p>
          {row.edits.map((edit, place) => (
            // oxlint-disable-next-line react/no-array-index-key -- edits of one change have no other name
            <p key={place} className="text-sm">
              {verbs[edit.op]} {target(edit, draft.dialogue)}
            </p>
          ))}
        </li>
      ))}
    </ol>
  );
}

function target(edit: Schemas["Edit"], dialogue: Schemas["Dialogue"]): string {
  if (edit.op === "insert_arm") return nameOf(dialogue, edit.turn);
  if ("turn" in edit && typeof edit.turn === "object") return nameOf(dialogue, edit.turn.id);
  if ("arm" in edit) return nameOf(dialogue, edit.arm.id);
  if ("section" in edit) return `section “${edit.section.title}”`;
  if ("field" in edit) return `field “${edit.field.label}”`;
  if (edit.op === "set_title") return `to “${edit.title}”`;
  if ("id" in edit && !edit.op.startsWith("remove")) return nameOf(dialogue, edit.id);
  return "";
}
