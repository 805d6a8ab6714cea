import { clsx } from "clsx";

import { useShownDraft } from "../dialogue/DialogueScreen";
import { useLate } from "../lib/useLate";
import { index, summary } from "../outline/names";

const words = { error: "blocks a release", warning: "likely wrong", hint: "could be better" };

/** What the checks found, worst first; each leads to its place. */
export function Checks({ onGoTo }: { onGoTo: (row: string) => void }) {
  const { draft } = useShownDraft();
  const { turns, arms } = index(draft.dialogue);
  const place = (at: string): { row: string; label: string } | null => {
    const [section = "", turn, arm] = at.split("/");
    if (arm && arms.has(arm)) return { row: `arm:${arm}`, label: "the arm" };
    const found = turn ? turns.get(turn) : undefined;
    if (found) return { row: `turn:${found.id}`, label: summary(draft.dialogue, found) };
    const known = draft.dialogue.sections.find((other) => other.id === section);
    return known ? { row: `section:${known.id}`, label: `Section “${known.title}”` } : null;
  };
  const late = useLate(draft.checked === "before");
  const checking = <p className="border-b border-line px-4 py-2 text-sm text-soft">Checking your last change…</p>;
  if (draft.checked === "not yet") return <p className="p-4 text-soft">Checking…</p>;
  if (draft.findings.length === 0)
    return late ? (
      checking
    ) : (
      <p className="p-4 text-soft">
        Nothing found: every target exists, every turn can be reached, and every conversation ends.
      </p>
    );
  return (
    <ul>
      {late && <li>{checking}</li>}
      {draft.findings.map((finding) => {
        const where = place(finding.at);
        return (
          <li key={finding.key + finding.at + finding.says} className="border-b border-line px-4 py-2.5">
            <p className={clsx("text-xs font-semibold", finding.severity === "error" ? "text-clay" : "text-amber")}>
              {words[finding.severity]}
            </p>
            <p>{finding.says}</p>
            {finding.mend && <p className="text-sm text-soft">{finding.mend}</p>}
            {where && (
              <button
                type="button"
                className="mt-0.5 text-sm font-medium text-spruce hover:underline"
                onClick={() => onGoTo(where.row)}
              >
                {where.label}
              </button>
            )}
          </li>
        );
      })}
    </ul>
  );
}
