/** Words of the room of destinations. */
import type { Schemas } from "../../../api";
import { ago, due } from "../lib/time";

export type Event = Schemas["EventKind"];
export type Kind = Schemas["DestinationKind"];

export const kindWords: Record<Kind, { label: string; does: string; address: string }> = {
  webhook: {
    label: "Webhook",
    does: "Gets each event as signed JSON, by the Standard Webhooks specification.",
    address: "https://example.com/leads",
  },
  chat: {
    label: "Chat alert",
    does: "Gets one short message for each event, as JSON with a “text”.",
    address: "https://chat.example.com/hooks/room",
  },
  mail: {
    label: "Mail",
    does: "Gets each lead as a mail with what was said: to an address, or to whoever has the lead.",
    address: "sales@example.com, or owner",
  },
  customer_system: {
    label: "Customer system",
    does: "Keeps company, contact and lead as its own records: found, made or changed there, property by property.",
    address: "https://customers.example.com/api",
  },
  sheet: {
    label: "Sheet",
    does: "Keeps a row for each lead under columns of your choice.",
    address: "https://sheets.example.com/leads",
  },
};

/** Kinds of which one says what goes where. */
export const mapped = (kind: Kind): boolean => kind === "customer_system" || kind === "sheet";

export const kinds = Object.keys(kindWords) as Kind[];

export const eventWords: Record<Event, string> = {
  "lead.filed": "A lead was filed",
  "lead.updated": "A lead changed hands or got newer answers",
  "lead.status": "Somebody called, or said what became of a lead",
  "contact.erased": "Somebody was erased",
};

/** What a destination chooses among. Of an erased person every place is told that got something of theirs. */
export const events = (Object.keys(eventWords) as Event[]).filter((event) => event !== "contact.erased");

export const stateWords: Record<Schemas["SendingState"], string> = {
  waiting: "On its way",
  done: "Arrived",
  parked: "Kept aside",
};

type Tone = "good" | "watch" | "wrong" | "plain";

/** How a destination is, in a few words. */
export function stateOf(row: Schemas["DestinationRow"]): { words: string; tone: Tone } {
  if (row.paused_why) return { words: "Paused", tone: "wrong" };
  if (row.paused_at) return { words: `Paused ${ago(row.paused_at)}`, tone: "watch" };
  if (row.failing_since) return { words: `Failing since ${ago(row.failing_since)}`, tone: "wrong" };
  if (row.worked_at) return { words: `Works, last ${ago(row.worked_at)}`, tone: "good" };
  return { words: "Nothing sent yet", tone: "plain" };
}

export const toneLooks: Record<Tone, string> = {
  good: "text-spruce",
  watch: "text-amber",
  wrong: "text-clay",
  plain: "text-soft",
};

/** What an attempt came to: "200 in 84 ms", or why nothing came back. */
export function attemptWords(attempt: Schemas["AttemptRow"] | undefined): string {
  if (!attempt) return "not tried yet";
  const took = `${attempt.took_ms} ms`;
  return attempt.status ? `answered ${attempt.status} in ${took}` : attempt.answer;
}

/** Until when both secrets count. */
export const bothWords = (until: string): string => `The secret before counts beside it until ${due(until)}.`;

/** JSON as people read it; anything else as it is. */
export function pretty(body: string): string {
  try {
    return JSON.stringify(JSON.parse(body), null, 2);
  } catch {
    return body;
  }
}
