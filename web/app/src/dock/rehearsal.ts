/** The rehearsal of the outline that is open: shared by the dock, the rows and the formulas. Nothing of it is kept. */
import type { Schemas } from "../../../api";
import { create } from "../frame/store";

export type Body = Schemas["Rehearse"];
export type Answer = Schemas["Rehearsal"];

type Talk = { dialogue: string; body: Body; answer: Answer | null };

const nothing: Body = { inputs: [] };

export const rehearsal = create<Talk>({ dialogue: "", body: nothing, answer: null });

/** Begins anew for another dialogue. */
export function rehearse(dialogue: string) {
  rehearsal.set((known) => (known.dialogue === dialogue ? known : { dialogue, body: nothing, answer: null }));
}

type Input = Schemas["ProspectInput"];

/** What a line of a witness does, in the terms of a rehearsal. */
export function inputOf(line: string): Input {
  const [word = "", rest = ""] = line.startsWith(">") ? split(line.slice(1)) : [];
  if (word === "skip") return { kind: "skip" };
  if (word === "tap") return { kind: "pick", option: rest };
  if (word === "form") return { kind: "form", values: JSON.parse(rest) as Record<string, string> };
  return { kind: "reply", text: line };
}

function split(line: string): [string, string] {
  const space = line.indexOf(" ");
  return space < 0 ? [line, ""] : [line.slice(0, space), line.slice(space + 1)];
}

/** Holds the conversation that shows what a finding says. */
export function rehearseWay(way: Schemas["Witness"]) {
  setRehearsal(() => ({ inputs: way.replies.map(inputOf), assumed: way.known ?? {}, visitor: way.around ?? {} }));
}

/** Changes what is rehearsed; who the visitor is stays. */
export function setRehearsal(change: (body: Body) => Body) {
  rehearsal.set((known) => ({ ...known, body: change(known.body) }));
}
