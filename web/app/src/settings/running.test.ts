import { expect, test } from "vitest";

import { bytes, kindWords, thingWords, waits } from "./running";

test("bytes keep short, and no unit runs over", () => {
  expect([0, 999, 1_000, 9_940, 12_345, 999_499, 999_999, 2_500_000, 7e12].map(bytes)).toEqual([
    "0 bytes",
    "999 bytes",
    "1 kB",
    "9.9 kB",
    "12 kB",
    "999 kB",
    "1 MB",
    "2.5 MB",
    "7 TB",
  ]);
});

test("a wait is said in the unit one would use", () => {
  expect([0, 59, 60, 7_199, 7_200, 172_799, 172_800].map(waits)).toEqual([
    "",
    "",
    "1 min",
    "119 min",
    "2 h",
    "47 h",
    "2 days",
  ]);
});

test("what a newer server does is shown by its own name", () => {
  expect([kindWords("send"), kindWords("dance")]).toEqual(["Send to destinations", "dance"]);
  expect([thingWords("media"), thingWords("dances")]).toEqual(["Pictures and documents", "dances"]);
});
