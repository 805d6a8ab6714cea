/** Tables of territories as people write them: for each queue the beginnings that are its own. */
import type { Schemas } from "../../../api";

export type Table = Schemas["Territories"];
type Row = Schemas["Territory"];
type Queue = { key: string; name: string };

/** Fields that say where somebody is. */
export const whereTypes = ["place", "address", "country", "phone", "text", "company", "choice", "choices"];

/** What a queue has, as it is typed. */
export type Group = { queue: string; text: string };

/** A table's rows by queue, in the order in which queues come up. */
export function groupsOf(rows: Row[] | undefined): Group[] {
  const out: { queue: string; starts: string[] }[] = [];
  for (const row of rows ?? []) {
    const group = out.find((known) => known.queue === row.queue);
    if (group) group.starts.push(row.starts);
    else out.push({ queue: row.queue, starts: [row.starts] });
  }
  return out.map(({ queue, starts }) => ({ queue, text: starts.join(", ") }));
}

/** Rows of what was typed: beginnings with commas, semicolons or lines between them. */
export const rowsOf = (groups: Group[]): Row[] =>
  groups.flatMap(({ queue, text }) =>
    text
      .split(/[,;\n]/)
      .map((starts) => starts.trim())
      .filter(Boolean)
      .map((starts) => ({ starts, queue })),
  );

/** Lines of a list or a spreadsheet, “SW1, Saltwick depot”, as rows; those that name no queue are given back. */
export function listed(text: string, queues: Queue[]): { rows: Row[]; bad: string[] } {
  const rows: Row[] = [];
  const bad: string[] = [];
  const plain = (words: string) => words.trim().toLowerCase();
  for (const line of text.split("\n").filter((line) => line.trim())) {
    const cut = Math.max(line.lastIndexOf("\t"), line.lastIndexOf(","), line.lastIndexOf(";"));
    const [starts, named] = [line.slice(0, cut).replace(/^"|"$/g, "").trim(), plain(line.slice(cut + 1))];
    const queue = queues.find((known) => plain(known.name) === named || known.key === named);
    if (cut > 0 && starts && queue) rows.push({ starts, queue: queue.key });
    else bad.push(line.trim());
  }
  return { rows, bad };
}
