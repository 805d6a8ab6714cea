/** The words of the leads' room. */
import type { Schemas } from "../../../api";

export type Status = Schemas["LeadStatus"];

/** What became of a lead so far. */
export const statusWords: Record<Status, string> = {
  new: "Not called yet",
  trying: "Called, not reached yet",
  spoken: "Spoken to",
  booked: "Meeting booked",
  accepted: "Accepted",
  later: "Later",
  won: "Won",
  lost: "Lost",
  not_a_fit: "Not a fit",
  not_reached: "Not reached",
  junk: "No lead",
};

/** What comes next, on the list of one's own. */
export const nextWords: Record<Status, string> = { ...statusWords, new: "First call", trying: "Call again" };

const closed: ReadonlySet<Status> = new Set(["won", "lost", "not_a_fit", "not_reached", "junk"]);

export const isOpen = (status: Status): boolean => !closed.has(status);

/** What a person can say with one press; the others stand in a list. Three dots: it asks for something first. */
export const marks: { key: Status; label: string; keys: string }[] = [
  { key: "trying", label: "Called", keys: "C" },
  { key: "spoken", label: "Spoke", keys: "S" },
  { key: "won", label: "Won…", keys: "W" },
  { key: "lost", label: "Lost…", keys: "L" },
  { key: "not_a_fit", label: "Not a fit…", keys: "N" },
];

export const moreMarks: { key: Status; label: string }[] = [
  { key: "booked", label: "Meeting booked" },
  { key: "accepted", label: "Accepted" },
  { key: "later", label: "Call again on a day…" },
  { key: "not_reached", label: "Not reached, tries used up" },
  { key: "junk", label: "No lead…" },
  { key: "new", label: "Open again" },
];

/** What a status asks for before it is kept. */
export const asks = {
  lost: { kind: "reason", label: "Why was it lost?", needed: true },
  not_a_fit: { kind: "reason", label: "Why is it not a fit?", needed: false },
  junk: { kind: "reason", label: "Why is it no lead?", needed: true },
  later: { kind: "day", label: "When to call again", needed: true },
  won: { kind: "amount", label: "What is it worth?", needed: false },
} as const satisfies Partial<Record<Status, { kind: "reason" | "day" | "amount"; label: string; needed: boolean }>>;

export type Asking = keyof typeof asks;

export const isAsking = (status: Status | null): status is Asking => status !== null && status in asks;

/** What was also given. */
export const givenWords: Record<Schemas["AlsoGiven"], string> = {
  name: "Name",
  email: "E-mail",
  phone: "Phone",
  company: "Company",
};

export const empty = {
  mine: "Nothing to call. New leads appear here when it is your turn.",
  queue: "None of your colleagues has an open lead in your queues.",
  all: "No leads yet. They come from conversations with released dialogues.",
};
