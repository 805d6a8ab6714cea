import { describe, expect, it } from "vitest";

import type { Field } from "../outline/names";
import { scaleEnds, scaleOptions } from "./scale";

const field = (options: Field["options"]): Field => ({
  id: "f",
  key: "urgency",
  label: "Urgency",
  type: "scale",
  record: "lead",
  options,
});

describe("a scale", () => {
  it("begins as one to five", () => {
    expect(scaleEnds(field([]), "en")).toEqual({ from: 1, to: 5, low: "", high: "" });
  });

  it("has a step for each whole number and words at the ends", () => {
    const options = scaleOptions(field([]), "en", { from: 0, to: 3, low: "not at all", high: "very much" });
    expect(options.map((option) => [option.key, option.label["en"]])).toEqual([
      ["0", "not at all"],
      ["1", "1"],
      ["2", "2"],
      ["3", "very much"],
    ]);
    expect(scaleEnds(field(options), "en")).toEqual({ from: 0, to: 3, low: "not at all", high: "very much" });
  });

  it("keeps other languages and never has fewer than two steps or more than 21", () => {
    const known = [{ key: "1", label: { de: "gar nicht" } }];
    const [first] = scaleOptions(field(known), "en", { from: 1, to: 2, low: "no", high: "" });
    expect(first?.label).toEqual({ de: "gar nicht", en: "no" });
    expect(scaleOptions(field([]), "en", { from: 5, to: 1, low: "", high: "" })).toHaveLength(2);
    expect(scaleOptions(field([]), "en", { from: 0, to: 500, low: "", high: "" })).toHaveLength(21);
    expect(scaleOptions(field([]), "en", { from: Number.NaN, to: Number.NaN, low: "", high: "" })).toHaveLength(5);
  });
});
