/** The words of the leads' room. */
import type { Schemas } from "../../../api";
import type { CommandId } from "../frame/commands";

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

export type CallOutcome = Schemas["CallOutcome"];

/** What can come of a call, each with its key. */
export const callWords: { key: CallOutcome; label: string; keys: string; command: CommandId }[] = [
  { key: "spoke", label: "Spoke", keys: "1", command: "call-spoke" },
  { key: "no_reply", label: "No reply", keys: "2", command: "call-no-reply" },
  { key: "message_left", label: "Left a message", keys: "3", command: "call-message" },
  { key: "wrong_number", label: "Wrong number", keys: "4", command: "call-wrong" },
];

/** What comes next on a lead. */
export function nextWords(row: Pick<Schemas["LeadRow"], "next_what" | "tries" | "status">): string {
  switch (row.next_what) {
    case "call":
      return row.tries === 0 ? "First call" : "Call again";
    case "go_on":
      return "Say how it goes on";
    case "find_number":
      return "Find another number";
    case "give_up":
      return "Give up, or try again?";
    default:
      return statusWords[row.status];
  }
}

/** "2 of 6": the try that comes next. */
export const tryWords = (row: Pick<Schemas["LeadRow"], "next_what" | "tries" | "tries_planned">): string =>
  row.next_what === "call" ? `${row.tries + 1} of ${Math.max(row.tries_planned, row.tries + 1)}` : "";

const closed: ReadonlySet<Status> = new Set(["won", "lost", "not_a_fit", "not_reached", "junk"]);

export const isOpen = (status: Status): boolean => !closed.has(status);

/** What a person can say with one press; the others stand in a list. Three dots: it asks for something first. */
export const marks: { key: Status; label: string; keys: string }[] = [
  { key: "won", label: "Won…", keys: "W" },
  { key: "lost", label: "Lost…", keys: "L" },
  { key: "not_a_fit", label: "Not a fit…", keys: "N" },
];

export const moreMarks: { key: Status; label: string }[] = [
  { key: "spoken", label: "Spoken to, not by a call" },
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
  unfinished: "Nobody who can be reached has left before the end.",
  all: "No leads yet. They come from conversations with released dialogues.",
};

/** Where a conversation came from, a part each: the placement, the page, where from, the campaign. */
export function came(from: Schemas["CameFrom"]): string[] {
  const host = (address: string) => /^[a-z]+:\/\/([^/]+)/.exec(address)?.[1] ?? address;
  const carried = Object.entries(from.carried).map(([name, value]) => `${name} ${value}`);
  return [
    [from.placement, from.page && `on ${from.page}`].filter(Boolean).join(" "),
    from.first_page ? `first came to ${from.first_page}` : "",
    from.first_referrer || from.referrer ? `from ${host(from.first_referrer ?? from.referrer ?? "")}` : "",
    from.campaign ? `campaign ${from.campaign}` : "",
    ...carried,
    from.device ? `on a ${from.device}` : "",
  ].filter(Boolean);
}

/** What was asked for and not given, a sentence each. */
export function notGivenWords(rows: Schemas["NotGiven"][]): string[] {
  const labels = (why: Schemas["Missing"]) =>
    rows.filter((row) => row.why === why && !row.refused).map((row) => row.label);
  const line = (says: string, names: string[]) => (names.length > 0 ? [`${says}: ${names.join(", ")}.`] : []);
  return [
    ...line("Would not or could not say", labels("declined")),
    ...line("Skipped", labels("skipped")),
    ...line("Nothing readable was given for", labels("not_readable")),
    ...rows.flatMap((row) =>
      row.refused ? [`For ${row.label} they gave “${row.refused}”, which was not accepted.`] : [],
    ),
  ];
}

/** Nine in the morning of the next working day, as a box for a moment takes it. */
export function atNine(now: Date): string {
  const day = new Date(now);
  do day.setDate(day.getDate() + 1);
  while (day.getDay() === 0 || day.getDay() === 6);
  const two = (part: number) => String(part).padStart(2, "0");
  return `${day.getFullYear()}-${two(day.getMonth() + 1)}-${two(day.getDate())}T09:00`;
}
