import { expect, test } from "vitest";

import { atNine, came, notGivenWords } from "./words";

test("where a lead came from, a part each, without what is not known", () => {
  expect(came({ carried: {} })).toEqual([]);
  expect(came({ page: "/prices", device: "phone", carried: {} })).toEqual(["on /prices", "on a phone"]);
  expect(
    came({
      placement: "Prices pages",
      page: "/prices",
      first_page: "/",
      referrer: "https://winterlode.example/",
      first_referrer: "https://search.example/find?q=cold",
      campaign: "autumn-26, letter",
      carried: { gclid: "c1" },
    }),
  ).toEqual([
    "Prices pages on /prices",
    "first came to /",
    "from search.example",
    "campaign autumn-26, letter",
    "gclid c1",
  ]);
});

test("what was asked for and not given is told, a sentence for each reason", () => {
  const rows = [
    { label: "Budget", why: "declined" as const },
    { label: "Role", why: "declined" as const },
    { label: "Start", why: "skipped" as const },
    { label: "E-mail", why: "not_readable" as const, refused: "tom@gmail.com" },
  ];
  expect(notGivenWords(rows)).toEqual([
    "Would not or could not say: Budget, Role.",
    "Skipped: Start.",
    "For E-mail they gave “tom@gmail.com”, which was not accepted.",
  ]);
  expect(notGivenWords([])).toEqual([]);
});

test("a task is proposed for nine on the next working day", () => {
  expect(atNine(new Date(2026, 10, 26, 15, 0))).toBe("2026-11-27T09:00");
  expect(atNine(new Date(2026, 10, 27, 15, 0))).toBe("2026-11-30T09:00");
});
