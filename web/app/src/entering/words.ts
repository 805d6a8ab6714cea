/** Words and small rules of the room in which leads are entered. */
import type { Schemas } from "../../../api";

export type Form = Schemas["EnteringForm"];
export type Dialogue = Schemas["EntryDialogue"];
export type Column = Schemas["Column"];
export type Row = { line: number; answers: Record<string, string> };

/** Which field each column holds, by its place; the same field is held once. */
export function firstMapping(columns: Column[]): Record<number, string> {
  const out: Record<number, string> = {};
  const taken = new Set<string>();
  columns.forEach((column, place) => {
    if (!column.field || taken.has(column.field)) return;
    taken.add(column.field);
    out[place] = column.field;
  });
  return out;
}

/** The cells of a file as answers by field; empty cells say nothing. */
export function rowsOf(cells: Schemas["Cells"][], mapping: Record<number, string>): Row[] {
  return cells.map((row) => {
    const answers: Record<string, string> = {};
    for (const [place, field] of Object.entries(mapping)) {
      const cell = (row.cells[Number(place)] ?? "").trim();
      if (cell) answers[field] = cell;
    }
    return { line: row.line, answers };
  });
}

/** Rows in parts that go one after another. */
export function inParts<T>(rows: T[], size: number): T[][] {
  const out: T[][] = [];
  for (let from = 0; from < rows.length; from += size) out.push(rows.slice(from, from + size));
  return out;
}

/** How many rows fall into each band, the most first. */
export function bandsOf(rows: Schemas["RowPreview"][]): { band: string; count: number }[] {
  const counts = new Map<string, number>();
  for (const row of rows) {
    const band = row.band ?? "without a band";
    counts.set(band, (counts.get(band) ?? 0) + 1);
  }
  return [...counts].map(([band, count]) => ({ band, count })).sort((one, other) => other.count - one.count);
}

export const leadsWords = (count: number): string => (count === 1 ? "1 lead" : `${count} leads`);
