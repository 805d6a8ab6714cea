/** What a list of leads is looked at by, in words. */
import type { Schemas } from "../../../api";
import { statusWords } from "./words";

export type Look = Schemas["ListLook"];
export type Test = Schemas["ListTest"];
export type LookedFor = Schemas["LookedFor"];
type Op = Schemas["ListOp"];
type Holds = Schemas["ListHolds"];

/** Something that leads can be looked for by. */
export interface LookField {
  id: string;
  label: string;
  holds: Holds;
  options: { key: string; label: string }[];
}

/** Nobody has it, as a value of an owner. */
const NOBODY = { key: "", label: "nobody" };

/** The lead's own fields, then those of the catalogue. */
export function lookFields(from: LookedFor): LookField[] {
  const own = (id: string, label: string, holds: Holds, options: LookField["options"] = []): LookField => ({
    id,
    label,
    holds,
    options,
  });
  const statuses = Object.entries(statusWords).map(([key, label]) => ({ key, label }));
  const bands = from.bands.map((band) => ({ key: band, label: band }));
  return [
    own("@status", "Status", "listed", statuses),
    own("@band", "Band", "listed", bands),
    own("@owner", "Owner", "listed", [NOBODY, ...from.people]),
    own("@queue", "Queue", "listed", from.queues),
    own("@score", "Score", "number"),
    own("@tries", "Tries", "number"),
    own("@filed", "Filed", "date"),
    ...from.fields,
  ];
}

const isOwn = (field: LookField): boolean => field.id.startsWith("@");

/** How a field can be tested, the usual way first. */
export function opsOf(field: LookField): Op[] {
  const said: Op[] = isOwn(field) ? [] : ["known", "unknown"];
  switch (field.holds) {
    case "listed":
      return ["one_of", "none_of", ...said];
    case "number":
    case "date":
      return ["at_least", "at_most", ...said];
    case "yes_no":
      return ["one_of", ...said];
    case "words":
      return ["has", "one_of", "none_of", ...said];
  }
}

/** How a field is tested, in words. */
export function opWords(op: Op, holds: Holds): string {
  switch (op) {
    case "one_of":
      return "is";
    case "none_of":
      return "is not";
    case "has":
      return "has";
    case "at_least":
      return holds === "date" ? "from" : "at least";
    case "at_most":
      return holds === "date" ? "until" : "at most";
    case "known":
      return "was said";
    case "unknown":
      return "was not said";
  }
}

export const takesValue = (op: Op): boolean => op !== "known" && op !== "unknown";

/** A test in words: “Pallets at least 250”, “Temperature is frozen or chilled”. */
export function testWords(test: Test, fields: LookField[]): string {
  const field = fields.find((known) => known.id === test.field);
  if (!field) return "A field that is not there any more";
  const label = (value: string) => field.options.find((option) => option.key === value)?.label ?? value;
  const values = (test.values ?? []).map(label).join(" or ");
  return [field.label, opWords(test.op, field.holds), values].filter(Boolean).join(" ");
}

/** A look with one more test; a value for a field that is tested in the same way already joins it. */
export function withTest(look: Look, test: Test): Look {
  const tests = look.tests ?? [];
  const same = tests.findIndex((known) => known.field === test.field && known.op === test.op);
  const before = tests[same];
  if (!before) return { ...look, tests: [...tests, test] };
  const joins = test.op === "one_of" || test.op === "none_of";
  const values = joins ? [...new Set([...(before.values ?? []), ...(test.values ?? [])])] : test.values;
  return { ...look, tests: tests.with(same, { ...before, values }) };
}

export const withoutTest = (look: Look, place: number): Look => ({
  ...look,
  tests: (look.tests ?? []).toSpliced(place, 1),
});

/** True where a list is everything in the order to call. */
export const isPlain = (look: Look): boolean =>
  (look.tests ?? []).length === 0 && (look.columns ?? []).length === 0 && !look.sort;

/** A look as it is sent and compared: without what is empty. */
export function lookText(look: Look): string {
  if (isPlain(look)) return "";
  const { tests = [], columns = [], sort } = look;
  return JSON.stringify({
    ...(tests.length > 0 && { tests }),
    ...(columns.length > 0 && { columns }),
    ...(sort && { sort }),
  });
}

/** What a list can be sorted by. */
export const sortFields = (fields: LookField[]): { id: string; label: string }[] => [
  { id: "@filed", label: "Filed" },
  { id: "@score", label: "Score" },
  { id: "@tries", label: "Tries" },
  { id: "@name", label: "Name" },
  { id: "@company", label: "Company" },
  ...fields.filter((field) => !isOwn(field)),
];

/** Most columns of one's own choice. */
export const COLUMNS = 5;
