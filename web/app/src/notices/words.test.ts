import { expect, test } from "vitest";

import type { Notice } from "./words";
import { callWords, fresh, noticeWords, tellsAloud } from "./words";

const lead = {
  id: "l1",
  revision: 1,
  name: "Ana Ruiz",
  company: "Heron Foods",
  wants: "40 pallets",
  band_rank: 2,
  band: "Hot",
  mine: true,
  untried: true,
};
const notice = (part: Partial<Notice>): Notice => ({
  id: "n1",
  kind: "yours",
  at: "2026-11-24T10:00:00Z",
  seen: false,
  lead,
  ...part,
});

test("a notice says what happened, and to whom", () => {
  expect(noticeWords(notice({}))).toEqual({ what: "A lead for you", who: "Ana Ruiz, Heron Foods" });
  expect(noticeWords(notice({ lead: { ...lead, mine: false, owner: "Joss" } })).what).toBe("New for Joss");
  expect(noticeWords(notice({ kind: "late", lead: { ...lead, name: null, company: null } }))).toEqual({
    what: "Nobody called in time",
    who: "Somebody",
  });
  const late = notice({ kind: "late", lead: { ...lead, owner: "Joss" } });
  expect(noticeWords(late).what).toBe("Joss did not call in time");
});

test("a task that is due says what is owed, and on whose lead", () => {
  const task = { id: "l1", label: "Send the price list", name: "Ana Ruiz" };
  expect(noticeWords(notice({ kind: "task", lead: null, task }))).toEqual({
    what: "Task due: Send the price list",
    who: "Ana Ruiz",
  });
  expect(noticeWords(notice({ kind: "task", lead: null, task: { ...task, name: null } })).who).toBe("Somebody");
});

test("sound and desktop keep to bands and hours, also over midnight", () => {
  const alerts = { from_rank: 2, sound: true, desktop: false, from_hour: 8, until_hour: 18 };
  expect(tellsAloud(notice({}), alerts, 8)).toBe(true);
  expect(tellsAloud(notice({}), alerts, 18)).toBe(false);
  expect(tellsAloud(notice({ seen: true }), alerts, 9)).toBe(false);
  expect(tellsAloud(notice({ lead: { ...lead, band_rank: 1 } }), alerts, 9)).toBe(false);
  const night = { ...alerts, from_hour: 22, until_hour: 6 };
  expect([21, 22, 5, 6].map((hour) => tellsAloud(notice({}), night, hour))).toEqual([false, true, true, false]);
});

test("only what was not there before is told, the oldest first", () => {
  const [one, two, three] = ["a", "b", "c"].map((id) => notice({ id }));
  if (!one || !two || !three) throw new Error("three");
  expect(fresh(undefined, [one])).toEqual([]);
  expect(fresh([one], [three, two, one]).map((each) => each.id)).toEqual(["b", "c"]);
});

test("the moment to call by is said in minutes", () => {
  const now = Date.parse("2026-11-24T10:00:00Z");
  expect(callWords("2026-11-24T10:05:00Z", now)).toBe("call within 5 min");
  expect(callWords("2026-11-24T09:52:00Z", now)).toBe("8 min late");
  expect(callWords("2026-11-23T09:52:00Z", now)).toBe("long past the time to call");
  expect(callWords(null, now)).toBe("");
});
