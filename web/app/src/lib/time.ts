/** Times in words. */

/** "just now", "12 min ago", "3 h ago", then the day and time. */
export function ago(when: string, now = new Date()): string {
  const then = new Date(when);
  const minutes = Math.floor((now.getTime() - then.getTime()) / 60_000);
  if (minutes < 1) return "just now";
  if (minutes < 60) return `${minutes} min ago`;
  if (minutes < 24 * 60) return `${Math.floor(minutes / 60)} h ago`;
  if (minutes < 7 * 24 * 60) return `${then.toLocaleDateString("en-GB", { weekday: "short" })} ${clock(when)}`;
  return then.toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" });
}

/** "14:05". */
export function clock(when: string): string {
  return new Date(when).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
}

/** "23 Nov 14:05". */
export function stamp(when: string): string {
  return `${new Date(when).toLocaleDateString("en-GB", { day: "numeric", month: "short" })} ${clock(when)}`;
}

/** "Tue 1 Dec 2026" of a date without a time. */
export function day(date: string): string {
  const words = { weekday: "short", day: "numeric", month: "short", year: "numeric", timeZone: "UTC" } as const;
  return new Date(`${date}T00:00:00Z`).toLocaleDateString("en-GB", words);
}
