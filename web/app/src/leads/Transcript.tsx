import { clsx } from "clsx";

import type { Schemas } from "../../../api";

/** What was said, line by line, with its line breaks; what the prospect said stands out. */
export function Transcript({ lines }: { lines: Schemas["TranscriptLine"][] }) {
  return (
    <div className="border-l-2 border-line pl-3 font-serif leading-snug">
      {lines.map((line, place) => (
        <p
          // oxlint-disable-next-line react/no-array-index-key -- a transcript never changes its order
          key={place}
          className={clsx("break-words whitespace-pre-wrap", line.who === "you" ? "mb-1 font-semibold" : "text-soft")}
        >
          {line.text}
        </p>
      ))}
    </div>
  );
}
