/** Words of the room of placements: each rule as a sentence. */
import type { Schemas } from "../../../api";

export type Placement = Schemas["Placement"];
export type Form = Schemas["Form"];
export type Opens = Schemas["Opens"];

export const formWords: Record<Form, { label: string; does: string }> = {
  corner: { label: "corner", does: "A button in a corner of the page" },
  inline: { label: "in the text", does: "A frame in the text of a page" },
  page: { label: "full page", does: "A page of its own" },
  pop_up: { label: "pop-up", does: "A window over the page" },
  link: { label: "link", does: "A link to send or to print" },
};

export const forms = Object.keys(formWords) as Form[];

/** True for forms that stand on a customer's own pages. */
export const isOnPages = (form: Form): boolean => form === "corner" || form === "inline" || form === "pop_up";

const list = (words: string[], last = "and"): string =>
  words.length < 2 ? (words[0] ?? "") : `${words.slice(0, -1).join(", ")} ${last} ${words.at(-1)}`;

const parameter = ({ name, is }: Schemas["Parameter"]): string => (is ? `${name}=${is}` : name);

/** "/prices/*, not /prices/haulage on winterlode.example". */
export function whereWords({ form, slot, where = {} }: Placement): string {
  if (!isOnPages(form)) return "its own address";
  const { sites = [], include = [], exclude = [], parameters = [], exclude_parameters = [], campaigns = [] } = where;
  const pages = include.length > 0 ? include.join(", ") : "every page";
  const not = [...exclude, ...exclude_parameters.map(parameter), ...(where.exclude_campaigns ?? [])];
  return [
    not.length > 0 ? `${pages}, not ${not.join(", ")}` : pages,
    parameters.length > 0 ? `with ${list(parameters.map(parameter))}` : "",
    campaigns.length > 0 ? `campaign ${list(campaigns, "or")}` : "",
    sites.length > 0 ? `on ${list(sites, "or")}` : "on no site yet",
    form === "inline" && slot ? `at “${slot}”` : "",
  ]
    .filter(Boolean)
    .join(" ");
}

const deviceWords: Record<Schemas["Device"], string> = { phone: "phones", tablet: "tablets", computer: "computers" };

export const devices = Object.keys(deviceWords) as Schemas["Device"][];
export const deviceLabel = (device: Schemas["Device"]): string => deviceWords[device];

/** "everyone who has not filed within 30 days". */
export function whoWords({ who = {} }: Placement): string {
  const { visitors = "everyone", signed_in = "either", languages = [], countries = [] } = who;
  const whom = { everyone: "everyone", new: "new visitors", returning: "returning visitors" }[visitors];
  return [
    who.share !== undefined && who.share !== null && who.share < 100 ? `${who.share}% of ${whom}` : whom,
    signed_in === "yes" ? "signed in" : signed_in === "no" ? "not signed in" : "",
    who.devices?.length ? `on ${list(who.devices.map(deviceLabel), "or")}` : "",
    languages.length ? `who read ${list(languages, "or")}` : "",
    countries.length ? `in ${list(countries, "or")}` : "",
    who.not_filed_days ? `who ${whom === "everyone" ? "has" : "have"} not filed within ${who.not_filed_days} days` : "",
  ]
    .filter(Boolean)
    .join(" ");
}

const day = (date: string): string =>
  new Date(`${date}T12:00:00Z`).toLocaleDateString("en-GB", { day: "numeric", month: "long", timeZone: "UTC" });

/** "from 1 November to 24 December, in Aldermoor's hours; outside them with the away words". */
export function whenWords({ when = {} }: Placement, queueName: (key: string) => string): string {
  const from = when.from ? `from ${day(when.from)}` : "";
  const until = when.until ? `until ${day(when.until)}` : "";
  const hours = when.hours_of
    ? `in the hours of ${queueName(when.hours_of)}; ${when.only_in_hours ? "not outside them" : "outside them with the away words"}`
    : "day and night";
  return [[from, until].filter(Boolean).join(" "), hours].filter(Boolean).join(", ");
}

/** The kind and the figure of a moment. */
export function momentOf(opens: Opens | undefined): { kind: string; value: number } {
  const when = opens?.when ?? "at_once";
  if (typeof when === "string") return { kind: when, value: 0 };
  const [kind, value] = Object.entries(when)[0] ?? ["at_once", 0];
  return { kind, value: Number(value) };
}

const showsWords: Record<Schemas["Shows"], string> = {
  button: "the button alone",
  line: "a line beside the button",
  open: "the dialogue",
};

function opensOf(opens: Opens | undefined): string {
  const { kind, value } = momentOf(opens);
  const shows = showsWords[opens?.shows ?? "button"];
  switch (kind) {
    case "after_seconds":
      return `after ${value} s ${shows}`;
    case "at_percent":
      return `at ${value}% of the page ${shows}`;
    case "leaving":
      return `when about to leave ${shows}`;
    case "at_click":
      return "at a click on what carries data-lumbo-open";
    default:
      return `at once ${shows}`;
  }
}

/** "after 8 s a line beside the button; on phones at once the button alone". */
export const opensWords = ({ opens, opens_on_phones }: Placement): string =>
  `${opensOf(opens)}; on phones ${opensOf(opens_on_phones)}`;

/** "#1f5e8c, right, 24 px in, day or night by the visitor". */
export function lookWords({ look = {} }: Placement): string {
  const light = { visitor: "day or night by the visitor", day: "by day", night: "by night" }[
    look.daylight ?? "visitor"
  ];
  return `${light} · ${look.corner ?? "right"}, ${look.from_side ?? 24} px in`;
}

export const keepsWords: Record<Schemas["Keeping"], string> = {
  after_consent: "nothing kept before the site’s consent",
  at_once: "what is needed to go on with a conversation, at once",
};

/** True where pages get it. */
export const isOnAir = (row: Schemas["PlacementView"]): boolean => row.release > 0 && row.on_air && row.dialogue_on_air;

/** What a placement is doing right now, where that is not simply showing. */
export function stateWords(row: Schemas["PlacementView"]): { words: string; tone: string } {
  if (row.release === 0) return { words: "not released yet", tone: "text-amber" };
  if (!row.on_air) return { words: "off air", tone: "text-soft" };
  if (!row.dialogue_on_air) return { words: "its dialogue is off air", tone: "text-amber" };
  return row.changed ? { words: "changed since its release", tone: "text-amber" } : { words: "", tone: "" };
}

/** Started of a hundred shown. */
export const rate = (started: number, shown: number): string =>
  shown === 0 ? "–" : `${((100 * started) / shown).toFixed(started * 10 >= shown ? 0 : 1)}%`;

/** The host, with its port where it has one, of an address as people type it; nothing where it is none. */
export function siteOf(url: string): string | null {
  const host = /^(?:https?:\/\/)?([^/?#\s]+\.[^/?#\s]+|localhost(?::\d+)?)(?:[/?#]|$)/i.exec(url.trim())?.[1];
  return host?.toLowerCase() ?? null;
}
