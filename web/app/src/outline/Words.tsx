/** Words a prospect reads, with known values as chips. */
import type { Dialogue } from "./names";
import { fieldOf } from "./names";

const parts: Record<string, string> = { given: "first name", family: "last name", full: "name" };

export function Words({ dialogue, text }: { dialogue: Dialogue; text: string }) {
  const pieces = text.split(/(\{\{|\{[^{}]*\})/);
  return (
    <span className="font-serif whitespace-pre-wrap">
      {pieces.map((piece, place) => {
        if (piece === "{{") return "{";
        const chip = /^\{([a-z0-9_]+)(?:\.([a-z]+))?(?:\?[^|]*)?(?:\|(.*))?\}$/.exec(piece);
        if (!chip) return piece;
        const [, key = "", part, fallback] = chip;
        const label = part ? (parts[part] ?? part) : (fieldOf(dialogue, key)?.label.toLowerCase() ?? key);
        return (
          // oxlint-disable-next-line react/no-array-index-key -- pieces of one text have no other name
          <span key={place} className="rounded-sm bg-spruce-wash px-1 font-sans text-[0.9em] text-spruce">
            {label}
            {fallback ? `, or “${fallback}”` : ""}
          </span>
        );
      })}
    </span>
  );
}
