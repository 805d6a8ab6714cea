import { expect, test } from "vitest";

import type { Look, LookedFor } from "./looks";
import { isPlain, lookFields, lookText, opsOf, sortFields, testWords, withTest, withoutTest } from "./looks";

const from: LookedFor = {
  fields: [
    { id: "f_p", label: "Pallets", holds: "number", options: [] },
    {
      id: "f_t",
      label: "Temperature",
      holds: "listed",
      options: [
        { key: "frozen", label: "Frozen" },
        { key: "chilled", label: "Chilled" },
      ],
    },
  ],
  bands: ["Hot", "Warm"],
  people: [{ key: "p1", label: "Maren" }],
  queues: [],
};
const fields = lookFields(from);

test("a test is said with the names of its field and its values", () => {
  expect(testWords({ field: "f_p", op: "at_least", values: ["250"] }, fields)).toBe("Pallets at least 250");
  expect(testWords({ field: "f_t", op: "one_of", values: ["frozen", "chilled"] }, fields)).toBe(
    "Temperature is Frozen or Chilled",
  );
  expect(testWords({ field: "@owner", op: "one_of", values: [""] }, fields)).toBe("Owner is nobody");
  expect(testWords({ field: "@filed", op: "at_most", values: ["2026-11-30"] }, fields)).toBe("Filed until 2026-11-30");
  expect(testWords({ field: "f_t", op: "unknown" }, fields)).toBe("Temperature was not said");
  expect(testWords({ field: "gone", op: "known" }, fields)).toBe("A field that is not there any more");
});

test("the lead's own fields are always known, others may not have been said", () => {
  const ops = (id: string) => opsOf(fields.find((field) => field.id === id)!);
  expect(ops("@status")).toEqual(["one_of", "none_of"]);
  expect(ops("f_p")).toEqual(["at_least", "at_most", "known", "unknown"]);
  expect(sortFields(fields).map((field) => field.label)).toEqual([
    "Filed",
    "Score",
    "Tries",
    "Name",
    "Company",
    "Pallets",
    "Temperature",
  ]);
});

test("another value joins its test, another end takes its place", () => {
  const frozen = withTest({}, { field: "f_t", op: "one_of", values: ["frozen"] });
  const both = withTest(frozen, { field: "f_t", op: "one_of", values: ["chilled"] });
  expect(both.tests).toEqual([{ field: "f_t", op: "one_of", values: ["frozen", "chilled"] }]);
  expect(withTest(both, { field: "f_t", op: "one_of", values: ["frozen"] })).toEqual(both);
  const ends = withTest(withTest(both, { field: "f_p", op: "at_least", values: ["10"] }), {
    field: "f_p",
    op: "at_least",
    values: ["20"],
  });
  expect(ends.tests?.[1]).toEqual({ field: "f_p", op: "at_least", values: ["20"] });
  expect(withoutTest(ends, 0).tests).toHaveLength(1);
});

test("two looks that show the same are the same text", () => {
  const look: Look = { tests: [], columns: ["f_p"], sort: null };
  expect(lookText(look)).toBe('{"columns":["f_p"]}');
  expect(lookText({ columns: ["f_p"] })).toBe(lookText(look));
  expect(lookText({ tests: [] })).toBe("");
  expect(isPlain({ sort: { by: "@filed" } })).toBe(false);
});
