/** Words of jobs and sizes. */

const kinds: Record<string, string> = {
  silence: "End conversations that went silent",
  unfinished: "Make leads of conversations that were left",
  owner: "Choose owners of leads filed early",
  deal: "Deal waiting leads at opening",
  send: "Send to destinations",
  retain: "Erase what is kept no longer",
  late: "Look after leads that are late",
  task_due: "Remind of tasks",
  invitation_mail: "Mail invitations",
  reset_mail: "Mail ways to a new password",
  notice_mail: "Mail alerts",
};

/** What a job does; its own name where a newer server has made it. */
export const kindWords = (kind: string): string => kinds[kind] ?? kind;

const things: Record<string, string> = {
  conversations: "Conversations",
  events: "Steps of conversations",
  leads: "Leads",
  contacts: "Contacts",
  companies: "Companies",
  sendings: "Sent to destinations, last 30 days",
  media: "Pictures and documents",
  audit: "Entries in the audit",
};

/** What is counted. */
export const thingWords = (what: string): string => things[what] ?? what;

/** Bytes with the unit that keeps them short: 940 kB, 12.3 MB. */
export function bytes(count: number): string {
  if (count < 1_000) return `${count} bytes`;
  const units = ["kB", "MB", "GB", "TB"];
  let value = count / 1_000;
  let unit = 0;
  // Rounded before it is looked at, so that 999,999 bytes are 1 MB and not 1,000 kB.
  while (Math.round(value) >= 1_000 && unit < units.length - 1) {
    value /= 1_000;
    unit += 1;
  }
  return `${value < 10 ? Math.round(value * 10) / 10 : Math.round(value)} ${units[unit] ?? "TB"}`;
}

/** How long the oldest has been waiting: nothing to say below a minute. */
export function waits(seconds: number): string {
  if (seconds < 60) return "";
  const minutes = Math.floor(seconds / 60);
  if (minutes < 120) return `${minutes} min`;
  const hours = Math.floor(minutes / 60);
  return hours < 48 ? `${hours} h` : `${Math.floor(hours / 24)} days`;
}
