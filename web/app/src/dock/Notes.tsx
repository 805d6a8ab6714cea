import { clsx } from "clsx";

import type { Schemas } from "../../../api";

/** A line of a conversation as words. */
export function lineWords(line: Schemas["Line"]): string {
  if (line.kind === "text") return line.text;
  if (line.kind === "picture") return line.alt;
  if (line.kind === "beside") return line.lines.map(lineWords).join(" | ");
  return line.label;
}

/** The reasons beside a line: what was kept, which rule refused, which arm was taken, points before and after. */
export function Notes({ notes }: { notes: Schemas["MarginNote"][] }) {
  if (notes.length === 0) return null;
  return (
    <ul className="min-w-0 flex-1 space-y-0.5">
      {notes.map((note, place) => (
        <li
          // oxlint-disable-next-line react/no-array-index-key -- notes of one line have no other name
          key={place}
          className={clsx(
            "border-l-2 pl-2 text-xs leading-4 break-words",
            note.tone === "good" && "border-spruce",
            note.tone === "watch" && "border-amber",
            note.tone === "bad" && "border-clay text-clay",
            note.tone === "plain" && "border-line text-soft",
          )}
        >
          {note.text}
        </li>
      ))}
    </ul>
  );
}
