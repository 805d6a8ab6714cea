/** Words a prospect reads, with known values as chips. */
import { chipLabel, readChip } from "../text/chips";
import type { Dialogue } from "./names";

export function Words({ dialogue, text }: { dialogue: Dialogue; text: string }) {
  const pieces = text.split(/(\{\{|\{[^{}]*\})/);
  return (
    <span className="font-serif whitespace-pre-wrap">
      {pieces.map((piece, place) => {
        if (piece === "{{") return "{";
        const chip = readChip(piece);
        if (!chip) return piece;
        return (
          // oxlint-disable-next-line react/no-array-index-key -- pieces of one text have no other name
          <span key={place} className="rounded-sm bg-spruce-wash px-1 font-sans text-[0.9em] text-spruce">
            {chipLabel(dialogue, chip)}
          </span>
        );
      })}
    </span>
  );
}
