/** Words of what one is told. */
import type { Schemas } from "../../../api";

export type Notice = Schemas["NoticeRow"];
export type Alerts = Schemas["AlertSettings"];

/** What happened, and to whom. */
export function noticeWords(notice: Notice): { what: string; who: string } {
  const lead = notice.lead;
  const who = lead
    ? [lead.name, lead.company].filter(Boolean).join(", ") || "Somebody"
    : (notice.request?.name ?? notice.destination?.label ?? notice.task?.name ?? "");
  switch (notice.kind) {
    case "yours":
      return { what: lead?.mine === false ? `New for ${lead.owner ?? "nobody"}` : "A lead for you", who };
    case "offered":
      return { what: lead?.untried ? "Nobody has called yet. Whoever takes it has it" : "Was offered to you", who };
    case "late":
      return { what: lead?.owner ? `${lead.owner} did not call in time` : "Nobody called in time", who };
    case "rose":
      return { what: `Now ${lead?.band ?? "better"}`, who };
    case "request":
      return { what: notice.request?.label ?? "A request", who: who || "Somebody" };
    case "failing":
      return { what: "Nothing arrives there any more", who };
    case "task":
      return { what: `Task due: ${notice.task?.label ?? ""}`, who: who || "Somebody" };
  }
}

/** Whether a window plays a sound or shows something on the desktop for a notice. */
export function tellsAloud(notice: Notice, alerts: Alerts, hour: number): boolean {
  if (notice.seen) return false;
  if (notice.lead && notice.lead.band_rank < (alerts.from_rank ?? -1)) return false;
  const [from, until] = [alerts.from_hour ?? 0, alerts.until_hour ?? 0];
  if (from === until) return true;
  return from < until ? hour >= from && hour < until : hour >= from || hour < until;
}

/** Notices that came since, the oldest first: those that were not there before. */
export function fresh(before: Notice[] | undefined, now: Notice[]): Notice[] {
  if (!before) return [];
  const known = new Set(before.map((notice) => notice.id));
  return now.filter((notice) => !known.has(notice.id)).toReversed();
}

/** Minutes until the moment to call by: negative where it has passed. */
export function callWords(callBy: string | null | undefined, now: number): string {
  if (!callBy) return "";
  const minutes = Math.round((new Date(callBy).getTime() - now) / 60_000);
  if (minutes < -60) return "long past the time to call";
  if (minutes < 0) return `${-minutes} min late`;
  if (minutes < 120) return `call within ${minutes} min`;
  return "";
}
