/** A chip in a text: a known value, with words for when it is missing. The same forms as in the dialogue file. */
import type { Dialogue } from "../outline/names";
import { around } from "../outline/edit/operators";
import { fieldOf } from "../outline/names";

export type Chip = { field: string; part: string; forms: [value: string, word: string][]; fallback: string | null };

/** A whole chip with its braces; a doubled brace is a brace. */
export const CHIP = /\{\{|\{[^{}]*\}/g;

/** Reads a chip with its braces; nothing where it is none. */
export function readChip(text: string): Chip | null {
  const body = /^\{([^{}]*)\}$/.exec(text)?.[1];
  if (body === undefined) return null;
  const bar = body.indexOf("|");
  const head = bar < 0 ? body : body.slice(0, bar);
  const fallback = bar < 0 ? null : body.slice(bar + 1);
  const mark = head.indexOf("?");
  const name = mark < 0 ? head : head.slice(0, mark);
  const forms: Chip["forms"] = [];
  if (mark >= 0) {
    for (const form of head.slice(mark + 1).split(";")) {
      const equals = form.indexOf("=");
      if (equals < 0) return null;
      forms.push([form.slice(0, equals).trim(), form.slice(equals + 1)]);
    }
  }
  const [field = "", part = ""] = name.split(".", 2);
  return /^@?[a-z][a-z0-9_]*$/.test(field) ? { field, part, forms, fallback } : null;
}

/** Words inside a chip hold none of the signs that end its parts. */
const plain = (words: string, signs: RegExp) => words.replace(signs, "");

/** Writes a chip with its braces. */
export function writeChip(chip: Chip): string {
  const part = chip.part ? `.${chip.part}` : "";
  const forms = chip.forms.filter(([, word]) => word !== "");
  const by = forms.length > 0 ? `?${forms.map(([value, word]) => `${value}=${plain(word, /[{}|;]/g)}`).join(";")}` : "";
  const fallback = chip.fallback === null ? "" : `|${plain(chip.fallback, /[{}]/g)}`;
  return `{${chip.field}${part}${by}${fallback}}`;
}

const partLabels: Record<string, string> = { given: "first name", family: "last name", full: "name" };

/** A chip as people read it: "first name, or “there”". */
export function chipLabel(dialogue: Dialogue, chip: Chip): string {
  const field = fieldOf(dialogue, chip.field);
  const known = around.find(([what]) => what === chip.field)?.[1].toLowerCase();
  const name = chip.part ? (partLabels[chip.part] ?? chip.part) : (field?.label.toLowerCase() ?? known ?? chip.field);
  const forms = chip.forms.length > 0 ? ` as ${chip.forms.map(([, word]) => `“${word}”`).join(" / ")}` : "";
  return `${name}${forms}${chip.fallback ? `, or “${chip.fallback}”` : ""}`;
}

/** Parts of a value that may be shown alone. */
export const partsOf = (type: string | undefined): [part: string, label: string][] =>
  type === "person_name"
    ? [
        ["", "whole name"],
        ["given", "first name"],
        ["family", "last name"],
      ]
    : [];
