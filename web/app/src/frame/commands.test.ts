import { expect, test } from "vitest";

import { commands } from "./commands";

test("no two commands of one place share their keys", () => {
  for (const where of ["outline", "leads"] as const) {
    const keys = commands
      .filter((command) => (command.where === where || command.where === "everywhere") && command.keys)
      .map((command) => command.keys);
    expect(new Set(keys).size, where).toBe(keys.length);
  }
});
