/** A draft after a change: what the server said became different, put into what was shown before. */
import type { Schemas } from "../../../api";

type Draft = Schemas["DraftView"];
type Changed = Pick<Schemas["Edited"], "revision" | "changed_at" | "changes" | "dialogue" | "outline">;

/** The draft that a change made of the one before it, changed by `person`. */
export function changed(before: Draft, change: Changed, person: string | null): Draft {
  const { at, drop, rows, rails, lanes } = change.outline;
  return {
    ...before,
    revision: change.revision,
    changed_at: change.changed_at,
    changed_by: person,
    changes: change.changes,
    dialogue: changedDialogue(before.dialogue, change.dialogue),
    rows: spliced(before.rows, at, drop, rows),
    rails: { lanes, rows: spliced(before.rails.rows, at, drop, rails) },
  };
}

function changedDialogue(before: Draft["dialogue"], change: Changed["dialogue"]): Draft["dialogue"] {
  const parts = Object.entries(change.parts ?? {});
  const gone = new Set(parts.filter(([, part]) => part === null).map(([key]) => key));
  const kept = Object.entries(before).filter(([key]) => !gone.has(key));
  const after = Object.fromEntries([...kept, ...parts.filter(([key]) => !gone.has(key))]) as Draft["dialogue"];
  if (!change.order) return after;
  const sections = new Map([...before.sections, ...(change.sections ?? [])].map((section) => [section.id, section]));
  return { ...after, sections: change.order.flatMap((id) => sections.get(id) ?? []) };
}

function spliced<T>(list: T[], at: number, drop: number, made: T[]): T[] {
  return drop === 0 && made.length === 0 ? list : [...list.slice(0, at), ...made, ...list.slice(at + drop)];
}
