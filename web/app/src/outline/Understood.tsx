import { keepPreviousData, useQuery } from "@tanstack/react-query";

import type { Schemas } from "../../../api";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { understoodQuery } from "../lib/query";
import { useRested } from "../lib/useRested";
import { understoodWords } from "./understoodWords";

/** Most turns that are told one by one. */
const TOLD = 4;

/** What the line becomes, told while it is typed. */
export function Understood({ text, at }: { text: string; at: Schemas["Place"] }) {
  const { dialogue, draft } = useShownDraft();
  const rested = useRested(text, 250);
  const { data } = useQuery({
    ...understoodQuery(dialogue, draft.revision, rested.trim(), at),
    placeholderData: keepPreviousData,
  });
  if (!text.trim() || !rested.trim() || !data) return null;
  if (data.says) return <p className="mt-1 text-xs text-amber">{data.says}</p>;
  const { turns = [], sections = [], notes = [], wrong = [] } = data.understood ?? {};
  return (
    <div className="mt-1 text-xs text-soft" aria-label="What it becomes">
      {sections.length > 0 && <p>Section {sections.map((title) => `“${title}”`).join(", ")}</p>}
      {turns.slice(0, TOLD).map((turn, place) => (
        // oxlint-disable-next-line react/no-array-index-key -- turns that are not there yet have no other name
        <p key={place} className="truncate">
          <b className="font-semibold text-ink">{turn.kind}</b> {understoodWords(turn)}
        </p>
      ))}
      {turns.length > TOLD && <p>and {turns.length - TOLD} more</p>}
      {notes.map((note) => (
        <p key={note}>{note}</p>
      ))}
      {wrong.map((says) => (
        <p key={says} className="text-amber">
          {says}
        </p>
      ))}
    </div>
  );
}
