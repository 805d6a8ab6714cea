/** Where a row leads. */
import type { Schemas } from "../../../api";
import type { DraftView } from "../dialogue/useDraft";
import { index } from "./names";

type Row = Schemas["Row"];

/** The section that a row leads to, as its title's row. */
export function leadsTo(draft: DraftView, row: Row | undefined): string | null {
  if (!row) return null;
  const { turns, arms } = index(draft.dialogue);
  const section = draft.dialogue.sections.find((known) => known.id === row.section);
  if (row.kind === "section") {
    const from = draft.arrivals.find((arrival) => arrival.section === row.id && arrival.from !== "any-time");
    return from?.from ?? null;
  }
  const then = row.kind === "then" ? section?.then : row.kind === "arm" ? arms.get(row.id)?.arm.then : undefined;
  if (then && typeof then === "object" && "go_to" in then) return `section:${then.go_to}`;
  if (then === "carry_on") {
    const next = draft.dialogue.sections[draft.dialogue.sections.findIndex((known) => known.id === row.section) + 1];
    return next ? `section:${next.id}` : null;
  }
  const turn = row.kind === "turn" ? turns.get(row.id) : undefined;
  if (turn?.kind === "visit") return `section:${turn.section}`;
  if (turn?.kind === "ask" && typeof turn.way_out === "object" && "go_to" in turn.way_out)
    return `section:${turn.way_out.go_to}`;
  return null;
}
