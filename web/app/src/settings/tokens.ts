/** Words of tokens for programs. */
import type { Schemas } from "../../../api";

/** What a token may be used for, behind “may be used to”. */
export const scopeWords: Record<Schemas["Scope"], string> = {
  read_leads: "read leads, contacts and answers",
  work_leads: "enter and work leads",
  read_dialogues: "read dialogues and settings",
  write_dialogues: "change and release dialogues",
  read_audit: "read the audit",
  keep_data: "take out or erase what is held on a person",
};

export const scopes = Object.keys(scopeWords) as Schemas["Scope"][];

/** Why a token does nothing any more. */
export const stateWords: Record<Exclude<Schemas["TokenState"], "works">, string> = {
  expired: "its time is over",
  ended: "ended",
  maker_left: "whoever made it has no access any more",
};

/** How long a token may work. */
export const lives = [
  { days: 7, label: "a week" },
  { days: 30, label: "30 days" },
  { days: 90, label: "90 days" },
  { days: 366, label: "a year" },
] as const;
