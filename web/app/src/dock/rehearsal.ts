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

/** Changes what is rehearsed; who the visitor is stays. */
export function setRehearsal(change: (body: Body) => Body) {
  rehearsal.set((known) => ({ ...known, body: change(known.body) }));
}
