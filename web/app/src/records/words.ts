/** The words of the room of contacts and companies. */
import type { Schemas } from "../../../api";

export type Standing = Schemas["Standing"];

/** What a firm is to us, in the order in which it is offered. */
export const standingWords: Record<Standing, string> = {
  none: "Nothing special",
  customer: "Customer",
  partner: "Partner",
  competitor: "Competitor",
  do_not_contact: "Do not contact",
};

export const standings = Object.keys(standingWords) as Standing[];

/** Behind a firm's name: "Harrow Peel is a customer". */
export const standingSentence: Record<Standing, string> = {
  none: "nothing special to us",
  customer: "a customer already",
  partner: "a partner",
  competitor: "a competitor",
  do_not_contact: "not to be contacted",
};

export const standingTone: Record<Standing, string> = {
  none: "",
  customer: "text-spruce",
  partner: "text-indigo",
  competitor: "text-amber",
  do_not_contact: "text-clay",
};

/** What a standing does to the firm's next leads. */
export const standingDoes: Record<Standing, string> = {
  none: "Its leads are given out by the rules.",
  customer: "Its leads are given out by the rules.",
  partner: "Its leads are given out by the rules.",
  competitor: "Its leads are kept, but take nobody’s turn and go to nobody.",
  do_not_contact: "Its leads are kept, but take nobody’s turn and go to nobody.",
};

/** What somebody may be reached for, in the order in which it is offered. */
export const purposeWords: Record<Schemas["Purpose"], string> = {
  enquiry: "their enquiry",
  marketing: "marketing",
};

export const purposes = Object.keys(purposeWords) as Schemas["Purpose"][];

/** Where a value came from: "from “Storage enquiry”", "by Maren Holt". */
export function sourceWords(value: Pick<Schemas["RecordValue"], "by" | "from">): string {
  switch (value.by) {
    case "conversation":
      return value.from ? `said in “${value.from}”` : "said in a conversation";
    case "person":
      return `by ${value.from ?? "somebody who has left"}`;
    case "file":
      return "from a file";
    case "system":
      return "kept by Lumbo";
  }
}

/** "3 leads, 1 open". */
export function leadsWords(leads: number, open: number): string {
  if (leads === 0) return "no leads";
  const all = `${leads.toLocaleString("en-GB")} lead${leads === 1 ? "" : "s"}`;
  if (open === 0) return all;
  return open === leads ? `${all}, open` : `${all}, ${open} open`;
}

/** Whom a list shows: their name, else what is known of them. */
export const nameOf = (row: { name?: string | null; email?: string | null; phone?: string | null }): string =>
  row.name ?? row.email ?? row.phone ?? "No name given";

const count = (number: number, one: string, several: string): string =>
  `${number.toLocaleString("en-GB")} ${number === 1 ? one : several}`;

/** What erasing somebody blanks, as a list. */
export function erasureWords(of: Schemas["Erasure"]): string[] {
  return [
    "their name, address, number and everything else on file",
    `${count(of.leads, "lead", "leads")}: answers, transcripts, notes and what was sent`,
    `${count(of.conversations, "conversation", "conversations")}, word for word`,
    ...(of.told > 0 ? [`${count(of.told, "destination is", "destinations are")} told to delete it too`] : []),
  ];
}

/** Why two contacts may be one person. */
export const alikeWords: Record<Schemas["Alike"], string> = {
  phone: "same phone number",
  name_and_company: "same name at the same company",
  name_and_domain: "a name much alike at the same domain",
  name_and_digits: "a name much alike, and a number that ends alike",
};

/** Which of two values is kept. */
export const takesWords: Record<Schemas["Takes"], string> = {
  stays: "left one",
  goes: "right one",
  both: "both",
};

/** What moves when two contacts become one. */
export const mergeLeadsWords = (leads: number, name: string): string =>
  leads === 0 ? `No lead moves to ${name}.` : `${count(leads, "lead moves", "leads move")} to ${name}.`;

/** Why a conversation may be no person's. */
export const doubtWords: Record<Schemas["Suspicion"], string> = {
  trap: "a field was filled that nobody sees",
  quick: "faster than a person types",
  flood: "many at once from one network",
};

type Channel = Schemas["Channel"];

/** Ways to reach somebody, behind “no”. */
export const channelWords: Record<Channel, string> = { call: "calls", mail: "mail", text: "text messages" };

export const channels = Object.keys(channelWords) as Channel[];

/** The way that somebody prefers. */
export const preferWords: Record<Channel, string> = { call: "a call first", mail: "mail first", text: "a text first" };
