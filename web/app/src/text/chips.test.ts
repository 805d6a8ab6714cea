import { describe, expect, test } from "vitest";

import type { Dialogue } from "../outline/names";
import { chipLabel, readChip, writeChip } from "./chips";

const dialogue = { fields: [{ id: "f", key: "pallets", label: "Pallets", type: "whole_number" }] } as Dialogue;

describe("chips", () => {
  test("are written as they were read", () => {
    for (const text of [
      "{pallets}",
      "{pallets|some pallets}",
      "{name.given|there}",
      "{temperature?frozen=freezer space;chilled=cold space|space}",
      "{pallets|}",
      "{@country|there}",
      "{@returning?yes=again|for the first time}",
    ]) {
      const chip = readChip(text);
      expect(chip && writeChip(chip), text).toBe(text);
    }
  });

  test("with a broken form are none", () => {
    for (const text of ["{}", "{Name}", "{a?b}", "{a b}", "name", "{a"]) expect(readChip(text), text).toBeNull();
  });

  test("never carry signs that would end them early", () => {
    expect(
      writeChip({
        field: "a",
        part: "",
        forms: [
          ["x", "y;z|}"],
          ["w", ""],
        ],
        fallback: "{b}",
      }),
    ).toBe("{a?x=yz|b}");
  });

  test("read as people say them", () => {
    const chip = readChip("{name.given|there}");
    expect(chip && chipLabel(dialogue, chip)).toBe("first name, or “there”");
    const country = readChip("{@country|there}");
    expect(country && chipLabel(dialogue, country)).toBe("country, or “there”");
    const by = readChip("{pallets?1=one;2=two}");
    expect(by && chipLabel(dialogue, by)).toBe("pallets as “one” / “two”");
  });
});
