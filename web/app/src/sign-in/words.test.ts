import { expect, test } from "vitest";

import { notInWords } from "./words";

test("every reason is a sentence that says what to do, with the provider's name where it matters", () => {
  const reasons = ["another-way", "late", "refused-there", "not-proved", "not-linked", "linked-elsewhere"];
  for (const why of reasons) expect(notInWords(why, "Winterlode ID"), why).toMatch(/\.$/);
  expect(notInWords("not-proved", null)).toMatch(/^The provider did not prove/);
  expect(notInWords("refused-there", "Winterlode ID")).toContain("at Winterlode ID");
});

test("what is no reason says nothing", () => {
  expect([notInWords(null, "x"), notInWords("<script>", "x")]).toEqual(["", ""]);
});
