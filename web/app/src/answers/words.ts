/** The words of the room of answers. */
import type { Schemas } from "../../../api";

export type Row = Schemas["AnswersRow"];
export type Column = Schemas["AnswersColumn"];

/** What is looked for. Everything empty shows everything. */
export type Filter = {
  release: string;
  /** `open`, `left`, or an outcome's id behind `outcome:`. */
  how: string;
  lead: "" | "yes" | "no" | "tests";
  from: string;
  until: string;
  holds: string;
  search: string;
};

export const everything: Filter = { release: "", how: "", lead: "", from: "", until: "", holds: "", search: "" };

/** The filter as the server is asked. */
export function asked(filter: Filter) {
  const outcome = filter.how.startsWith("outcome:") ? filter.how.slice("outcome:".length) : "";
  const how = filter.how === "open" || filter.how === "left" ? (filter.how as Schemas["How"]) : undefined;
  return {
    ...(filter.release ? { release: Number(filter.release) } : {}),
    ...(outcome ? { outcome } : {}),
    ...(how ? { how } : {}),
    ...(filter.lead === "tests" ? { tests: true } : filter.lead ? { lead: filter.lead === "yes" } : {}),
    ...(filter.from ? { from: filter.from } : {}),
    ...(filter.until ? { until: filter.until } : {}),
    ...(filter.holds.trim() ? { holds: filter.holds.trim() } : {}),
    ...(filter.search.trim() ? { search: filter.search.trim() } : {}),
  };
}

/** The same as the query of a file's address. */
export function query(filter: Filter): string {
  const pairs = Object.entries(asked(filter)).map(([name, value]): [string, string] => [name, String(value)]);
  const text = new URLSearchParams(pairs).toString();
  return text ? `?${text}` : "";
}

/** "12 of 340 looked through", where a condition or words left some out; nothing where all were shown. */
export function lookedWords(shown: number, looked: number, filter: Filter): string {
  if (!filter.holds.trim() && !filter.search.trim()) return "";
  return `${shown.toLocaleString("en-GB")} of ${looked.toLocaleString("en-GB")} looked through`;
}

/** A part of a whole as a percentage; nothing of nothing. */
export const share = (part: number, whole: number): string =>
  whole === 0 ? "" : `${Math.round((part / whole) * 100)}%`;
