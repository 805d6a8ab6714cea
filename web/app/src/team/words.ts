/** Words of the team's room. */

/** "12 min", "3 h 20 min", in working time. */
export function minutesWords(minutes: number | null | undefined): string {
  if (minutes === null || minutes === undefined) return "none yet";
  const whole = Math.round(minutes);
  if (whole < 60) return `${whole} min`;
  const rest = whole % 60;
  return rest ? `${Math.floor(whole / 60)} h ${rest} min` : `${whole / 60} h`;
}

/** "8 of 10", or a dash in words where there is nothing to count. */
export const ofWords = (part: number, whole: number): string => (whole === 0 ? "none" : `${part} of ${whole}`);

/** "24 Dec to 2 Jan, Joss stands in". */
export function awayWords(absence: { from: string; until: string; deputy?: string | null }): string {
  const days =
    absence.from === absence.until
      ? weekWords(absence.from)
      : `${weekWords(absence.from)} to ${weekWords(absence.until)}`;
  return absence.deputy ? `${days}, ${absence.deputy} stands in` : days;
}

/** "23 Nov" of a day. */
export function weekWords(monday: string): string {
  return new Date(`${monday}T00:00:00Z`).toLocaleDateString("en-GB", {
    day: "numeric",
    month: "short",
    timeZone: "UTC",
  });
}
