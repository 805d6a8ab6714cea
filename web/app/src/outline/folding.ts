/** Folded arms and sections: which rows are shown, and what their rails look like without what is folded away. */
import type { Schemas } from "../../../api";

type Row = Schemas["Row"];
type Mark = Schemas["Mark"];

/** A row's name on the screen: its kind and id. */
export const rowKey = (row: Pick<Row, "kind" | "id">): string => `${row.kind}:${row.id}`;

export type ShownRow = { row: Row; key: string; marks: Mark[]; hides: number };

/** Shapes of a lane that was there before the row. */
const goesOn = new Set<Mark["shape"]>(["pass", "join", "leave", "end"]);

/** The last row of what a row folds away: its section's rows, or its arm's turns. */
function lastFolded(rows: Row[], at: number): number {
  const row = rows[at];
  if (!row) return at;
  let end = at;
  if (row.kind === "section") {
    while (rows[end + 1]?.section === row.id) end += 1;
    return end;
  }
  if (row.kind !== "arm") return at;
  while (rows[end + 1] && (rows[end + 1]?.depth ?? 0) > row.depth && rows[end + 1]?.kind !== "then") end += 1;
  return end;
}

/** An arm's lane that ends within what is folded becomes a tick, or an arrow where it leads elsewhere. */
function foldMarks(marks: Mark[], hidden: Mark[][], below: Mark[]): Mark[] {
  return marks.map((mark) => {
    if (mark.shape !== "part" || below.some((other) => other.lane === mark.lane && goesOn.has(other.shape)))
      return mark;
    const leaves = hidden.flat().some((other) => other.lane === mark.lane && ["leave", "end"].includes(other.shape));
    return { lane: mark.other ?? 0, shape: leaves ? "leave" : "tick", class: mark.class };
  });
}

/** The rows that are shown, with their rails. */
export function shownRows(rows: Row[], rails: Mark[][], folded: ReadonlySet<string>): ShownRow[] {
  const out: ShownRow[] = [];
  for (let at = 0; at < rows.length; at += 1) {
    const row = rows[at];
    if (!row) break;
    const key = rowKey(row);
    const marks = rails[at] ?? [];
    const end = folded.has(key) ? lastFolded(rows, at) : at;
    if (end === at) {
      out.push({ row, key, marks, hides: 0 });
      continue;
    }
    const hidden = rails.slice(at + 1, end + 1);
    out.push({
      row,
      key,
      marks: row.kind === "section" ? marks : foldMarks(marks, hidden, rails[end + 1] ?? []),
      hides: end - at,
    });
    at = end;
  }
  return out;
}

/** Folds that hide a row, so that going to it opens them. */
export function foldsAround(rows: Row[], key: string): string[] {
  const row = rows.find((known) => rowKey(known) === key);
  if (!row) return [];
  const out = row.kind === "section" ? [] : [`section:${row.section}`];
  for (let arm = row.arm; arm;) {
    const id: string = arm;
    out.push(`arm:${id}`);
    arm = rows.find((known) => known.kind === "arm" && known.id === id)?.arm;
  }
  return out;
}

/** Rows from one to another, both included, whichever stands first. */
export function between(keys: string[], from: string, to: string): string[] {
  const [a, b] = [keys.indexOf(from), keys.indexOf(to)];
  return a < 0 || b < 0 ? [to] : keys.slice(Math.min(a, b), Math.max(a, b) + 1);
}
