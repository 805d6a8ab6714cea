/** The words of the routing room. */
import type { Schemas } from "../../../api";

type Written = Schemas["Written"];

export const weekdays: [day: string, name: string][] = [
  ["mon", "Monday"],
  ["tue", "Tuesday"],
  ["wed", "Wednesday"],
  ["thu", "Thursday"],
  ["fri", "Friday"],
  ["sat", "Saturday"],
  ["sun", "Sunday"],
];

export const picksWords: Record<Schemas["PicksBody"], string> = {
  rotation: "by weighted rotation",
  fewest_open: "whoever has the fewest open leads",
  same_company: "whoever has a lead of the same company, else by weighted rotation",
  fixed_owner: "always the same person",
};

/** What a rule can want of a lead's firm, in the order in which it is offered, and as a rule says it. */
export const firmWords: Record<Schemas["FirmIs"], [offered: string, said: string]> = {
  customer: ["a customer", "their firm is a customer"],
  partner: ["a partner", "their firm is a partner"],
  neither: ["neither a customer nor a partner", "their firm is neither a customer nor a partner"],
  looked_after: ["one that somebody looks after", "somebody looks after their firm"],
  not_looked_after: ["one that nobody looks after", "nobody looks after their firm"],
};

export const firmKinds = Object.keys(firmWords) as Schemas["FirmIs"][];

/** Openings of a day as one types them: “08:00–12:00, 13:00–17:30”. */
export const openingsText = (openings: string[][] | undefined): string =>
  (openings ?? []).map(([from, to]) => `${from}–${to}`).join(", ");

/** What was typed as openings; nothing where it is none. */
export function openingsOf(text: string): string[][] | null {
  const parts = text
    .split(",")
    .map((part) => part.trim())
    .filter(Boolean);
  const out = parts.map((part) => /^(\d{1,2}(?::\d{2})?)\s*(?:-|–|to)\s*(\d{1,2}(?::\d{2})?)$/.exec(part));
  const time = (text = "") => (text.includes(":") ? text.padStart(5, "0") : `${text.padStart(2, "0")}:00`);
  return out.every((found) => found !== null) ? out.map((found) => [time(found[1]), time(found[2])]) : null;
}

/** A calendar in a line: days with the same hours together. */
export function hoursWords(hours: Written | null | undefined): string {
  if (!hours) return "always open";
  const groups: { from: string; to: string; text: string }[] = [];
  for (const [day, name] of weekdays) {
    const text = openingsText(hours.hours?.[day]);
    const last = groups.at(-1);
    if (last?.text === text) last.to = name;
    else groups.push({ from: name, to: name, text });
  }
  const open = groups.filter((group) => group.text);
  const days = open.map(({ from, to, text }) => `${from === to ? from : `${from} to ${to}`} ${text}`);
  const zone = hours.zone.split("/").at(-1)?.replaceAll("_", " ") ?? hours.zone;
  const off = hours.holidays?.length ?? 0;
  return `${days.join(", ") || "never open"}, ${zone} time${off > 0 ? `, ${off} holiday${off === 1 ? "" : "s"} off` : ""}`;
}

/** Why nobody gets a lead of a queue as it stands; nothing where somebody does. */
export function queueTrouble(queue: Schemas["QueueSetting"]): string | null {
  const hours = queue.hours?.hours;
  if (queue.hours && !Object.values(hours ?? {}).some((openings) => openings.length > 0)) return "never open";
  if (queue.picks === "fixed_owner") return null;
  const members = queue.members.filter((member) => member.weight > 0);
  if (members.length === 0) return "nobody takes part";
  return members.every((member) => member.paused) ? "everybody is paused" : null;
}

/** An office week to begin with. */
export const officeHours = (zone: string): Written => ({
  zone,
  hours: Object.fromEntries(weekdays.slice(0, 5).map(([day]) => [day, [["08:00", "17:30"]]])),
});
