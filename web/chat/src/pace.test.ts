import { expect, test } from "vitest";

import { pauseBefore } from "./pace";
import type { Line } from "./talk";

const us = (text: string): Line => ({ who: "us", line: { kind: "text", text } });

test("a pause is none, fixed, or fits the length within bounds", () => {
  expect(pauseBefore(us("Hello"), "none")).toBe(0);
  expect(pauseBefore(us("Hello"), "fixed")).toBe(pauseBefore(us("Hello".repeat(50)), "fixed"));
  expect(pauseBefore(us("Hello, and welcome"), "by_length")).toBeGreaterThan(pauseBefore(us("Hello"), "by_length"));
  expect(pauseBefore(us("x".repeat(5000)), "by_length")).toBeLessThanOrEqual(1_500);
});

test("one's own words never wait", () => {
  expect(pauseBefore({ who: "you", line: { kind: "text", text: "yes" } }, "by_length")).toBe(0);
  expect(pauseBefore(undefined, "fixed")).toBe(0);
});
