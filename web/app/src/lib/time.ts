/** Times in words, in the reader's zone. */

let zone: string | undefined;

/** From now on moments are told in this zone; in the browser's where there is none. */
export function readIn(name: string | null | undefined): void {
  zone = name ?? undefined;
}

const told = (when: Date, words: Intl.DateTimeFormatOptions): string =>
  when.toLocaleString("en-GB", { ...words, ...(zone ? { timeZone: zone } : {}) });

/** Days since 1970 of the date that a moment has in the reader's zone. */
function date(when: Date): number {
  const [day, month, year] = told(when, { day: "numeric", month: "numeric", year: "numeric" }).split("/").map(Number);
  return Date.UTC(year ?? 0, (month ?? 1) - 1, day) / 86_400_000;
}

/** "just now", "12 min ago", "3 h ago", then the day and time. */
export function ago(when: string, now = new Date()): string {
  const then = new Date(when);
  const minutes = Math.floor((now.getTime() - then.getTime()) / 60_000);
  if (minutes < 1) return "just now";
  if (minutes < 60) return `${minutes} min ago`;
  if (minutes < 24 * 60) return `${Math.floor(minutes / 60)} h ago`;
  if (minutes < 7 * 24 * 60) return `${told(then, { weekday: "short" })} ${clock(when)}`;
  return told(then, { day: "numeric", month: "short", year: "numeric" });
}

/** A moment by which something is due: "8 min late", "in 12 min", "14:30", "tomorrow 09:05", then its day. */
export function due(when: string, now = new Date()): string {
  const then = new Date(when);
  const minutes = Math.ceil((then.getTime() - now.getTime()) / 60_000);
  if (minutes <= 0) {
    const late = Math.max(-minutes, 1);
    if (late < 60) return `${late} min late`;
    if (late < 24 * 60) return `${Math.floor(late / 60)} h late`;
    const days = Math.floor(late / (24 * 60));
    return `${days} day${days === 1 ? "" : "s"} late`;
  }
  if (minutes < 60) return `in ${minutes} min`;
  const days = date(then) - date(now);
  if (days < 1) return clock(when);
  if (days < 2) return `tomorrow ${clock(when)}`;
  if (days < 7) return `${told(then, { weekday: "short" })} ${clock(when)}`;
  return stamp(when);
}

/** True once the moment by which something is due has come. */
export function isLate(when: string, now = new Date()): boolean {
  return new Date(when) <= now;
}

/** "14:05". */
export function clock(when: string): string {
  return told(new Date(when), { hour: "2-digit", minute: "2-digit" });
}

/** What a clock of a zone shows now; nothing where the reader's own shows the same. */
export function clockThere(name: string | null | undefined, now = new Date()): string | null {
  if (!name) return null;
  const time = { hour: "2-digit", minute: "2-digit" } as const;
  try {
    const there = now.toLocaleString("en-GB", { ...time, timeZone: name });
    return there === told(now, time) ? null : there;
  } catch {
    // A zone that this browser does not know.
    return null;
  }
}

/** "23 Nov 14:05". */
export function stamp(when: string): string {
  return `${told(new Date(when), { day: "numeric", month: "short" })} ${clock(when)}`;
}

/** "Tue 1 Dec 2026" of a date without a time. */
export function day(date: string): string {
  const words = { weekday: "short", day: "numeric", month: "short", year: "numeric", timeZone: "UTC" } as const;
  return new Date(`${date}T00:00:00Z`).toLocaleDateString("en-GB", words);
}
