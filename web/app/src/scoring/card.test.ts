import { describe, expect, it } from "vitest";

import type { Card } from "./card";
import { keyOf, lines, moved, pointsOf, withCriterion, withPoints, withThreshold, without } from "./card";

const holds = { compare: { what: "role", is: "is", to: "owner" } } as const;
const when = (id: string, points: number) => ({ id, gives: { when: { holds, points } } });

const card: Card = {
  id: "fit",
  title: "Fit",
  dimensions: [
    {
      id: "need",
      title: "Need",
      criteria: [
        when("c_a", 15),
        {
          id: "c_t",
          gives: {
            table: {
              field: "pallets",
              rows: [
                { from: "50", points: 10 },
                { from: "200", points: 25 },
              ],
            },
          },
        },
      ],
    },
    { id: "timing", title: "Timing", criteria: [when("c_b", 5)] },
  ],
  must_haves: [{ id: "m", holds, cap: "warm" }],
  rule_outs: [{ id: "r", holds, reason: { en: "No." } }],
  bands: [
    { id: "low", label: "Low" },
    { id: "warm", label: "Warm", from: 40 },
    { id: "hot", label: "Hot", from: 70 },
  ],
};

const keys = (of: Card) => lines(of).map(keyOf);
const line = (key: string, of = card) => {
  const found = lines(of).find((known) => keyOf(known) === key);
  if (!found) throw new Error(key);
  return found;
};

describe("a scorecard’s lines", () => {
  it("gives each row of a table a line of its own", () => {
    expect(keys(card)).toEqual(["need", "c_a", "c_t#0", "c_t#1", "timing", "c_b", "m", "r"]);
    expect(lines(card).map(pointsOf)).toEqual([null, 15, 10, 25, null, 5, null, null]);
  });

  it("changes points where they stand, in a table too", () => {
    expect(lines(withPoints(card, "c_t", 1, 30)).map(pointsOf)).toEqual([null, 15, 10, 30, null, 5, null, null]);
    expect(lines(withPoints(card, "c_a", null, -3)).map(pointsOf)).toEqual([null, -3, 10, 25, null, 5, null, null]);
  });

  it("takes out a row of a table, and the whole criterion with its last row", () => {
    const once = without(card, line("c_t#0"));
    expect(keys(once)).toEqual(["need", "c_a", "c_t#0", "timing", "c_b", "m", "r"]);
    expect(keys(without(once, line("c_t#0", once)))).toEqual(["need", "c_a", "timing", "c_b", "m", "r"]);
    expect(keys(without(card, line("need")))).toEqual(["timing", "c_b", "m", "r"]);
  });

  it("moves a criterion within its dimension and on into the next", () => {
    expect(keys(moved(card, line("c_a"), 1))).toEqual(["need", "c_t#0", "c_t#1", "c_a", "timing", "c_b", "m", "r"]);
    expect(keys(moved(card, line("c_b"), -1))).toEqual(["need", "c_a", "c_t#0", "c_t#1", "c_b", "timing", "m", "r"]);
    expect(moved(card, line("c_a"), -1)).toEqual(card);
    expect(keys(moved(card, line("timing"), -1)).slice(0, 2)).toEqual(["timing", "c_b"]);
  });

  it("puts a criterion behind the picked line", () => {
    const added = when("c_n", 1);
    expect(keys(withCriterion(card, added, line("c_a")))).toEqual([
      "need",
      "c_a",
      "c_n",
      "c_t#0",
      "c_t#1",
      "timing",
      "c_b",
      "m",
      "r",
    ]);
    expect(keys(withCriterion(card, added, line("need"))).slice(0, 2)).toEqual(["need", "c_n"]);
    expect(keys(withCriterion(card, added, undefined)).slice(-3)).toEqual(["c_n", "m", "r"]);
  });

  it("holds a threshold between its neighbours", () => {
    const at = (from: number) => withThreshold(card, "warm", from).bands.map((band) => band.from);
    expect(at(55.4)).toEqual([undefined, 55, 70]);
    expect(at(90)).toEqual([undefined, 69, 70]);
    expect(withThreshold(card, "hot", 10).bands.map((band) => band.from)).toEqual([undefined, 40, 41]);
  });
});
