/** The words of the scoring room. */
import type { Schemas } from "../../../api";

type Counted = Schemas["Counted"];
type Interval = Schemas["Interval"];

export const signed = (points: number): string =>
  points > 0 ? `+${points}` : points < 0 ? `−${Math.abs(points)}` : "0";

/** A number without a plus. */
export const plain = (points: number): string => signed(points).replace("+", "");

/** An end of what can be reached. */
export const endWords = (end: number | null | undefined, none: string): string =>
  end === null || end === undefined ? none : plain(end);

export const percent = (share: number | null | undefined): string =>
  share === null || share === undefined ? "none" : `${Math.round(share * 100)}%`;

/** An interval of shares: “34 to 56”. */
export const span = (interval: Interval | null | undefined): string =>
  interval ? `${Math.round(interval.low * 100)} to ${Math.round(interval.high * 100)}` : "";

/** “58 of 288 won, 20% (16 to 25)”. */
export const countedWords = ({ won, leads, rate, interval }: Counted): string =>
  leads === 0 ? "no leads" : `${won} of ${leads} won, ${percent(rate)} (${span(interval)})`;

/** A difference of two won rates in words. */
export function differenceWords(difference: Schemas["Difference"] | null | undefined): string {
  if (!difference) return "";
  const points = (value: number) => Math.round(value * 100);
  const { value, interval } = difference;
  const side = value < 0 ? "less" : "more";
  const words = `${Math.abs(points(value))} points ${side} often won when met (${points(interval.low)} to ${points(interval.high)})`;
  return interval.low <= 0 && interval.high >= 0 ? `${words}; it may be nothing` : words;
}

/** What a dimension’s ends say. */
export function endsWords(floor: number | null | undefined, ceiling: number | null | undefined): string {
  const has = (value: number | null | undefined): value is number => value !== null && value !== undefined;
  if (has(floor) && has(ceiling)) return `from ${plain(floor)} to ${ceiling}`;
  if (has(ceiling)) return `at most ${ceiling}`;
  if (has(floor)) return `at least ${plain(floor)}`;
  return "";
}

/** A rate of calls that one can picture. */
export const callsWords = (calls: number | null | undefined): string =>
  calls === null || calls === undefined ? "" : calls < 0.095 ? calls.toFixed(2) : calls.toFixed(1);

export const doubtWords: Record<Schemas["Doubt"], string> = {
  few: "fewer than 10 leads met it",
  separates: "all leads that met it ended the same way",
  leaks: "tells the outcome almost alone: is it known only afterwards?",
  twin: "met by exactly the same leads as another",
};

export const noneWords: Record<Schemas["NoSuggestion"], string> = {
  too_few: "Not enough closed leads yet: at least 30, with 10 won and 10 lost among them.",
  too_many: "More than 100 criteria are too many to be weighed at once.",
  no_criteria: "This scorecard has no criterion with points of its own yet.",
};

export const toneWords: Record<Schemas["Tone"], string> = {
  spruce: "Green",
  amber: "Yellow",
  clay: "Red",
  indigo: "Blue",
  soft: "Grey",
};

const toneByPlace: Schemas["Tone"][] = ["soft", "amber", "spruce"];

/** The colour of a band’s name: the author’s, else by its place. */
export const toneOf = (band: Schemas["Band"], place: number): Schemas["Tone"] =>
  band.tone ?? toneByPlace[Math.min(place, 2)] ?? "soft";

export const toneClass: Record<Schemas["Tone"], string> = {
  spruce: "text-spruce",
  amber: "text-amber",
  clay: "text-clay",
  indigo: "text-indigo",
  soft: "text-soft",
};

/** Why some leads are not counted. */
export function leftOutWords(left: Schemas["LeftOut"]): string {
  const parts = [
    [left.ruled_out, "ruled out"],
    [left.junk, "junk"],
    [left.not_reached, "never reached"],
    [left.open, "still open"],
  ].filter(([count]) => count !== 0);
  if (parts.length === 0) return "";
  return `Left out: ${parts.map(([count, words]) => `${count} ${words}`).join(", ")}.`;
}
