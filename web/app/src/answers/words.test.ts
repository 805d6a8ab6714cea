import { describe, expect, it } from "vitest";

import { asked, everything, lookedWords, query, share } from "./words";

describe("what is looked for", () => {
  it("asks for nothing where nothing is set", () => {
    expect(asked(everything)).toEqual({});
    expect(query(everything)).toBe("");
  });

  it("tells an outcome from a way of ending, and trims what was typed", () => {
    expect(asked({ ...everything, how: "outcome:o_lead", lead: "no", holds: "  Pallets at least 200 " })).toEqual({
      outcome: "o_lead",
      lead: false,
      holds: "Pallets at least 200",
    });
    expect(asked({ ...everything, how: "left", release: "3" })).toEqual({ how: "left", release: 3 });
  });

  it("is the same in a file’s address", () => {
    expect(query({ ...everything, search: "Harrow & Peel", from: "2026-11-01" })).toBe(
      "?from=2026-11-01&search=Harrow+%26+Peel",
    );
  });

  it("says how many were looked through only where some were left out", () => {
    expect(lookedWords(12, 340, everything)).toBe("");
    expect(lookedWords(12, 5340, { ...everything, search: "a" })).toBe("12 of 5,340 looked through");
  });

  it("has no share of nothing", () => {
    expect([share(0, 0), share(1, 3)]).toEqual(["", "33%"]);
  });
});
