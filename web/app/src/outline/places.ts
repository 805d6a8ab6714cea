/** Where a new turn goes. */
import type { Schemas } from "../../../api";
import type { DraftView } from "../dialogue/useDraft";

type Row = Schemas["Row"];
type Place = Schemas["Place"];

/** Right below a turn; first in an arm or section; last in a section for its closing row. */
export function placeBelow(draft: DraftView, row: Row): Place {
  if (row.kind === "arm") return { parent: { arm: row.id }, index: 0 };
  if (row.kind === "section") return { parent: { section: row.section }, index: 0 };
  if (row.kind === "then") {
    const section = draft.dialogue.sections.find((known) => known.id === row.section);
    return { parent: { section: row.section }, index: section?.turns?.length ?? 0 };
  }
  return { parent: row.arm ? { arm: row.arm } : { section: row.section }, index: row.index + 1 };
}

/** Right above a row of the same run. */
export function placeAbove(draft: DraftView, row: Row): Place {
  const below = placeBelow(draft, row);
  return row.kind === "turn" ? { ...below, index: row.index } : below;
}
