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
  const today = new Date(now.getFullYear(), now.getMonth(), now.getDate());
  const days = Math.floor((then.getTime() - today.getTime()) / 86_400_000);
  if (days < 1) return clock(when);
  if (days < 2) return `tomorrow ${clock(when)}`;
  if (days < 7) return `${then.toLocaleDateString("en-GB", { weekday: "short" })} ${clock(when)}`;
  return stamp(when);
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
