import { expect, test } from "vitest";

import type { Command } from "./commands";
import { commandFor, commands, keysOf } from "./commands";

const all = commands as readonly Command[];

test("no two commands of one place share their keys", () => {
  for (const where of ["outline", "leads"] as const) {
    const keys = all
      .filter((command) => command.where === where || command.where === "everywhere")
      .flatMap((command) => [command.keys, command.also ?? ""])
      .filter(Boolean);
    expect(new Set(keys).size, where).toBe(keys.length);
  }
});

const event = (key: string, held: Partial<Record<"ctrlKey" | "altKey" | "shiftKey" | "metaKey", boolean>> = {}) => ({
  key,
  ctrlKey: false,
  altKey: false,
  shiftKey: false,
  metaKey: false,
  ...held,
});

test("keys are named the way the table names them", () => {
  expect(keysOf(event("j"))).toBe("J");
  expect(keysOf(event("R", { shiftKey: true }))).toBe("Shift R");
  expect(keysOf(event("?", { shiftKey: true }))).toBe("?");
  expect(keysOf(event("z", { metaKey: true, shiftKey: true }))).toBe("Ctrl Shift Z");
  expect(keysOf(event("ArrowUp", { altKey: true }))).toBe("Alt ↑");
  expect(keysOf(event("Enter", { shiftKey: true }))).toBe("Shift Enter");
});

test("a command is found by its keys where it belongs and nowhere else", () => {
  expect(commandFor("outline", "Shift R")?.id).toBe("rehearse-here");
  expect(commandFor("outline", "↓")?.id).toBe("next-row");
  expect(commandFor("leads", "Shift R")).toBeUndefined();
  expect(commandFor("outline", "")).toBeUndefined();
});
