import { expect, test } from "vitest";

import type { Schemas } from "../../../api";
import { isOnAir, momentOf, opensWords, rate, siteOf, stateWords, whenWords, whereWords, whoWords } from "./words";

const one = { id: "p", name: "P", form: "corner" as const };

test("rules read as sentences", () => {
  const where = { sites: ["w.example"], include: ["/prices/*"], exclude: ["/prices/haulage"] };
  expect(whereWords({ ...one, where })).toBe("/prices/*, not /prices/haulage on w.example");
  expect(whereWords({ ...one })).toBe("every page on no site yet");
  expect(whereWords({ ...one, form: "page" })).toBe("its own address");
  expect(
    whereWords({ ...one, where: { sites: ["a.example", "b.example"], parameters: [{ name: "plan", is: "c*" }] } }),
  ).toBe("every page with plan=c* on a.example or b.example");
  expect(whoWords({ ...one, who: { not_filed_days: 30 } })).toBe("everyone who has not filed within 30 days");
  expect(whoWords({ ...one, who: { visitors: "new", devices: ["phone", "tablet"], share: 40 } })).toBe(
    "40% of new visitors on phones or tablets",
  );
  expect(whoWords(one)).toBe("everyone");
  const name = (key: string) => (key === "aldermoor" ? "Aldermoor queue" : key);
  expect(whenWords({ ...one, when: { hours_of: "aldermoor" } }, name)).toBe(
    "in the hours of Aldermoor queue; outside them with the away words",
  );
  expect(whenWords({ ...one, when: { from: "2026-11-01", until: "2026-12-24" } }, name)).toBe(
    "from 1 November until 24 December, day and night",
  );
  expect(opensWords({ ...one, opens: { when: { after_seconds: 8 }, shows: "line" } })).toBe(
    "after 8 s a line beside the button; on phones at once the button alone",
  );
});

test("a moment is a kind and a figure", () => {
  expect(momentOf(undefined)).toEqual({ kind: "at_once", value: 0 });
  expect(momentOf({ when: { at_percent: 60 }, shows: "open" })).toEqual({ kind: "at_percent", value: 60 });
});

test("a rate needs something shown", () => {
  expect(rate(0, 0)).toBe("–");
  expect(rate(14, 1000)).toBe("1.4%");
  expect(rate(38, 100)).toBe("38%");
});

test("the site of an address as people type it", () => {
  expect(siteOf("https://Winterlode.example/prices?x=1")).toBe("winterlode.example");
  expect(siteOf("127.0.0.1:8091/prices")).toBe("127.0.0.1:8091");
  expect(siteOf("winterlode.example")).toBe("winterlode.example");
  expect(siteOf("no page")).toBeNull();
  expect(siteOf("")).toBeNull();
});

test("a placement is on air once it is released, on air, and its dialogue too", () => {
  const row = { release: 1, on_air: true, dialogue_on_air: true, changed: false } as Schemas["PlacementView"];
  expect([isOnAir(row), stateWords(row).words]).toEqual([true, ""]);
  expect([isOnAir({ ...row, changed: true }), stateWords({ ...row, changed: true }).words]).toEqual([
    true,
    "changed since its release",
  ]);
  for (const [part, words] of [
    [{ release: 0 }, "not released yet"],
    [{ on_air: false }, "off air"],
    [{ dialogue_on_air: false }, "its dialogue is off air"],
  ] as const) {
    expect([isOnAir({ ...row, ...part }), stateWords({ ...row, ...part }).words]).toEqual([false, words]);
  }
});
