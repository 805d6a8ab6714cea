import { describe, expect, it } from "vitest";

import type { Schemas } from "../../../api";
import { hoursWords, officeHours, openingsOf, openingsText, queueTrouble } from "./words";

describe("hours in words", () => {
  it("puts days with the same hours together", () => {
    expect(hoursWords(null)).toBe("always open");
    expect(hoursWords(officeHours("Europe/London"))).toBe("Monday to Friday 08:00–17:30, London time");
    expect(
      hoursWords({
        zone: "America/New_York",
        hours: {
          mon: [
            ["09:00", "12:00"],
            ["13:00", "17:00"],
          ],
          sat: [["10:00", "12:00"]],
        },
        holidays: ["2026-12-25"],
      }),
    ).toBe("Monday 09:00–12:00, 13:00–17:00, Saturday 10:00–12:00, New York time, 1 holiday off");
    expect(hoursWords({ zone: "UTC", hours: {} })).toBe("never open, UTC time");
  });

  it("reads openings as they are typed, and shows them back", () => {
    expect(openingsOf("8-12, 13:00 to 17:30")).toEqual([
      ["08:00", "12:00"],
      ["13:00", "17:30"],
    ]);
    expect(openingsOf("")).toEqual([]);
    expect(openingsOf("morning")).toBeNull();
    expect(openingsText(openingsOf("8:30–24:00") ?? [])).toBe("08:30–24:00");
  });
});

describe("a queue as it stands", () => {
  const member = (weight: number, paused: boolean) => ({ weight, paused }) as Schemas["MemberView"];
  const queue = (part: object) =>
    ({ picks: "rotation", members: [], hours: null, ...part }) as unknown as Schemas["QueueSetting"];

  it("says why nobody gets its leads", () => {
    expect(queueTrouble(queue({}))).toBe("nobody takes part");
    expect(queueTrouble(queue({ members: [member(0, false)] }))).toBe("nobody takes part");
    expect(queueTrouble(queue({ members: [member(1, true), member(0, false)] }))).toBe("everybody is paused");
    expect(queueTrouble(queue({ members: [member(1, true), member(1, false)] }))).toBeNull();
    expect(queueTrouble(queue({ picks: "fixed_owner" }))).toBeNull();
    expect(queueTrouble(queue({ picks: "fixed_owner", hours: { zone: "UTC", hours: { mon: [] } } }))).toBe(
      "never open",
    );
    expect(queueTrouble(queue({ members: [member(1, false)], hours: officeHours("UTC") }))).toBeNull();
  });
});
