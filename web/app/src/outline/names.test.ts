import { expect, test } from "vitest";

import type { Dialogue, Turn } from "./names";
import {
  armWords,
  fieldOf,
  index,
  nameOf,
  optionChoices,
  optionLabel,
  optionPoints,
  optionRulesOut,
  sectionName,
  summary,
  words,
} from "./names";

const inner = {
  id: "t_inner",
  kind: "tell",
  say: [{ line: { text: { en: "A line that is rather longer than forty characters, to be cut short." } } }],
} as unknown as Turn;

const ask = {
  id: "t_ask",
  kind: "ask",
  field: "temperature",
  say: { text: { en: "Frozen or chilled?" } },
  arms: [
    { id: "a_frozen", when: { options: ["frozen", "gone"] }, turns: [inner], then: "rejoin" },
    { id: "a_other", when: "otherwise", then: "rejoin" },
  ],
} as unknown as Turn;

const filed = {
  id: "t_file",
  kind: "file_lead",
  arms: [
    { id: "a_hot", when: { band: ["hot", "unknown"] }, then: "rejoin" },
    { id: "a_out", when: "ruled_out", then: "rejoin" },
  ],
} as unknown as Turn;

const fork = {
  id: "t_fork",
  kind: "fork",
  arms: [{ id: "a_cond", when: { holds: {} }, then: "rejoin" }],
} as unknown as Turn;

const dialogue = {
  language: "en",
  fields: [
    {
      id: "f_temp",
      key: "temperature",
      label: "Temperature",
      type: "choice",
      options: [
        { key: "frozen", label: { en: "Frozen", de: "Tiefgekühlt" } },
        { key: "dry", label: { de: "Trocken" } },
      ],
    },
    { id: "f_blast", key: "blast", label: "Blast freezing", type: "yes_no" },
    { id: "f_name", key: "name", label: "Name", type: "person_name" },
  ],
  scorecards: [
    {
      bands: [{ id: "hot", label: "Hot" }],
      dimensions: [
        {
          criteria: [
            { gives: { when: { holds: { compare: { what: "temperature", is: "is", to: "frozen" } }, points: 15 } } },
            { gives: { when: { holds: { compare: { what: "temperature", is: "is", to: "frozen" } }, points: 5 } } },
            {
              gives: { when: { holds: { compare: { what: "temperature", is: "is_not", to: "frozen" } }, points: 99 } },
            },
            { gives: { when: { holds: { all: [] }, points: 7 } } },
          ],
        },
      ],
      rule_outs: [{ holds: { compare: { what: "temperature", is: "is", to: "dry" } }, reason: { en: "Nothing dry" } }],
    },
  ],
  sections: [
    { id: "s_one", title: "The load", turns: [ask], then: "carry_on" },
    { id: "s_two", title: "Who", turns: [filed, fork], then: "close" },
  ],
} as unknown as Dialogue;

test("every turn and arm is found by its id, however deep", () => {
  const { turns, arms } = index(dialogue);
  expect([...turns.keys()]).toEqual(["t_ask", "t_inner", "t_file", "t_fork"]);
  expect(arms.get("a_frozen")?.turn.id).toBe("t_ask");
  expect(arms.size).toBe(5);
});

test("a text is in the dialogue's language, else in the first it has", () => {
  expect(words({ en: "Frozen", de: "Tiefgekühlt" }, "de")).toBe("Tiefgekühlt");
  expect(words({ de: "Trocken" }, "en")).toBe("Trocken");
  expect(words(undefined, "en")).toBe("");
});

test("a section is named by its place, also one that is gone", () => {
  expect(sectionName(dialogue, "s_two")).toBe("2 Who");
  expect(sectionName(dialogue, "s_gone")).toContain("gone");
});

test("what somebody changed is named in words, never by an id alone", () => {
  expect(nameOf(dialogue, "s_one")).toBe("section “The load”");
  expect(nameOf(dialogue, "t_ask")).toBe("Ask “Frozen or chilled?”");
  expect(nameOf(dialogue, "a_frozen")).toBe("an arm of Ask “Frozen or chilled?”");
  expect(nameOf(dialogue, "f_blast")).toBe("field “Blast freezing”");
  expect(nameOf(dialogue, "t_gone")).toBe("something that is new or gone");
});

test("a long line is cut in a summary, a turn without words is its kind", () => {
  expect(summary(dialogue, inner)).toBe("Tell “A line that is rather longer than forty…”");
  expect(summary(dialogue, filed)).toBe("File lead");
});

test("an arm says what takes it", () => {
  const armOf = (turn: Turn, place: number) => ("arms" in turn && turn.arms?.[place]) || undefined;
  const said = (turn: Turn, place: number, texts: Record<string, string> = {}) => {
    const arm = armOf(turn, place);
    return arm ? armWords(dialogue, turn, arm, texts) : undefined;
  };
  expect(said(ask, 0)).toBe("Frozen or gone");
  expect(said(ask, 1)).toBe("otherwise");
  expect(said(filed, 0)).toBe("Hot or unknown");
  expect(said(filed, 1)).toBe("Ruled out");
  expect(said(fork, 0)).toBe("a condition");
  expect(said(fork, 0, { a_cond: "Pallets at least 200" })).toBe("Pallets at least 200");
});

test("options are labelled, yes and no among them", () => {
  expect(optionLabel(dialogue, fieldOf(dialogue, "temperature"), "dry")).toBe("Trocken");
  expect(optionLabel(dialogue, fieldOf(dialogue, "blast"), "no")).toBe("No");
  expect(optionLabel(dialogue, undefined, "x")).toBe("x");
  expect(optionChoices(dialogue, fieldOf(dialogue, "blast"))).toEqual([
    ["yes", "Yes"],
    ["no", "No"],
  ]);
  expect(optionChoices(dialogue, fieldOf(dialogue, "name"))).toEqual([]);
});

test("an option shows the points that plain conditions give it, and the reason that rules it out", () => {
  expect(optionPoints(dialogue, "temperature", "frozen")).toBe(20);
  expect(optionPoints(dialogue, "temperature", "dry")).toBe(0);
  expect(optionRulesOut(dialogue, "temperature", "dry")).toBe("Nothing dry");
  expect(optionRulesOut(dialogue, "temperature", "frozen")).toBeUndefined();
});
