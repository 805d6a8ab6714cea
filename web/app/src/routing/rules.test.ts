import { describe, expect, it } from "vitest";

import type { Routing, Rule } from "./rules";
import { addedRule, movedRule, rulesOf, withRule, withoutRule } from "./rules";

const rule = (id: string, queue = "one"): Rule => ({
  id,
  queue,
  holds: { compare: { what: "@band", is: "is", to: "hot" } },
});
const routing: Routing = { rules: [rule("a"), rule("b"), rule("c")], otherwise: "rest" };
const ids = (of: Routing) =>
  rulesOf(of)
    .map((known) => known.id)
    .join("");

describe("routing rules", () => {
  it("adds behind the picked rule, moves, changes and takes out, and leaves the rest", () => {
    expect(ids(addedRule(routing, rule("n"), "a"))).toBe("anbc");
    expect(ids(addedRule(routing, rule("n"), null))).toBe("abcn");
    expect(ids(movedRule(routing, "b", -1))).toBe("bac");
    expect(movedRule(routing, "c", 1)).toEqual(routing);
    expect(ids(withoutRule(routing, "b"))).toBe("ac");
    expect(rulesOf(withRule(routing, rule("b", "two")))[1]?.queue).toBe("two");
    expect(movedRule(routing, "b", 1).otherwise).toBe("rest");
  });
});
