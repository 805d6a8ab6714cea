/** Where a turn, arm or section goes when it is moved by keyboard, and where a new turn goes. */
import type { Schemas } from "../../../api";
import type { DraftView, Edit } from "../dialogue/useDraft";
import type { Turn } from "./names";
import { armsOf, index } from "./names";

type Row = Schemas["Row"];
type Place = Schemas["Place"];

/** The run of turns that a row's turn stands in. */
function runOf(draft: DraftView, row: Row): { parent: Place["parent"]; turns: Turn[] } {
  if (row.arm) {
    const arm = index(draft.dialogue).arms.get(row.arm)?.arm;
    return { parent: { arm: row.arm }, turns: arm?.turns ?? [] };
  }
  const section = draft.dialogue.sections.find((known) => known.id === row.section);
  return { parent: { section: row.section }, turns: section?.turns ?? [] };
}

/** Right below a turn; first in an arm or section; last in a section for its closing row. */
export function placeBelow(draft: DraftView, row: Row): Place {
  if (row.kind === "arm") return { parent: { arm: row.id }, index: 0 };
  if (row.kind === "section") return { parent: { section: row.section }, index: 0 };
  if (row.kind === "then") return { parent: { section: row.section }, index: 100_000 };
  return { parent: runOf(draft, row).parent, index: row.index + 1 };
}

/** The edit that moves a row, or nothing where it cannot go there. */
export function moveEdit(draft: DraftView, row: Row, how: "up" | "down" | "in" | "out"): Edit | null {
  const by = how === "up" ? -1 : 1;
  if (row.kind === "section" && (how === "up" || how === "down")) {
    const to = row.index + by;
    return to < 0 || to >= draft.dialogue.sections.length ? null : { op: "move_section", id: row.id, index: to };
  }
  const { turns: allTurns, arms } = index(draft.dialogue);
  if (row.kind === "arm" && (how === "up" || how === "down")) {
    const siblings = armsOf(allTurns.get(row.turn ?? "") ?? { kind: "visit", id: "", section: "" });
    const to = row.index + by;
    return to < 0 || to >= siblings.length ? null : { op: "move_arm", id: row.id, index: to };
  }
  if (row.kind !== "turn") return null;
  const { parent, turns } = runOf(draft, row);
  if (how === "up" || how === "down") {
    const to = row.index + by;
    if (to >= 0 && to < turns.length) return { op: "move_turn", id: row.id, to: { parent, index: to } };
    return pastTheEnd(draft, row, how);
  }
  if (how === "in") {
    // Into the last arm of the turn above, at its end.
    const above = turns[row.index - 1];
    const arm = above && armsOf(above).at(-1);
    return arm
      ? { op: "move_turn", id: row.id, to: { parent: { arm: arm.id }, index: (arm.turns ?? []).length } }
      : null;
  }
  if (!row.arm) return null;
  const owner = arms.get(row.arm)?.turn;
  const ownerRow = draft.rows.find((known) => known.kind === "turn" && known.id === owner?.id);
  return ownerRow
    ? { op: "move_turn", id: row.id, to: { parent: runOf(draft, ownerRow).parent, index: ownerRow.index + 1 } }
    : null;
}

/** At the end of its run a turn goes on into the next arm or section. */
function pastTheEnd(draft: DraftView, row: Row, how: "up" | "down"): Edit | null {
  const { arms, turns } = index(draft.dialogue);
  if (row.arm) {
    const owner = arms.get(row.arm)?.turn;
    const siblings = owner ? armsOf(owner) : [];
    const at = siblings.findIndex((arm) => arm.id === row.arm);
    const next = siblings[at + (how === "up" ? -1 : 1)];
    if (next)
      return {
        op: "move_turn",
        id: row.id,
        to: { parent: { arm: next.id }, index: how === "up" ? (next.turns ?? []).length : 0 },
      };
    const ownerRow = draft.rows.find((known) => known.kind === "turn" && known.id === turns.get(owner?.id ?? "")?.id);
    return ownerRow
      ? {
          op: "move_turn",
          id: row.id,
          to: { parent: runOf(draft, ownerRow).parent, index: ownerRow.index + (how === "up" ? 0 : 1) },
        }
      : null;
  }
  const sections = draft.dialogue.sections;
  const at = sections.findIndex((section) => section.id === row.section);
  const next = sections[at + (how === "up" ? -1 : 1)];
  return next
    ? {
        op: "move_turn",
        id: row.id,
        to: { parent: { section: next.id }, index: how === "up" ? (next.turns ?? []).length : 0 },
      }
    : null;
}
