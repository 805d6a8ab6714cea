import { clsx } from "clsx";

import type { Schemas } from "../../../api";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { useLate } from "../lib/useLate";
import { index, summary } from "../outline/names";

type Finding = Schemas["Finding"];

const words = { error: "blocks a release", warning: "likely wrong", hint: "could be better" };

const nameOf = (finding: Finding) => `${finding.key} at ${finding.at}`;

/** What the checks found, worst first; each leads to its place, and to a conversation that shows it where one is known. */
export function Checks({ onGoTo, onWay }: { onGoTo: (row: string) => void; onWay: (way: Schemas["Witness"]) => void }) {
  const { draft, change } = useShownDraft();
  const { turns, arms } = index(draft.dialogue);
  const accepted = draft.dialogue.accepted ?? [];
  const place = (at: string): { row: string; label: string } | null => {
    const [section = "", turn, arm] = at.split("/");
    if (arm && arms.has(arm)) return { row: `arm:${arm}`, label: "Go to the arm" };
    const found = turn ? turns.get(turn) : undefined;
    if (found) return { row: `turn:${found.id}`, label: summary(draft.dialogue, found) };
    const known = draft.dialogue.sections.find((other) => other.id === section);
    return known ? { row: `section:${known.id}`, label: `Section “${known.title}”` } : null;
  };
  const late = useLate(draft.checked === "before");
  const checking = <p className="border-b border-line px-4 py-2 text-sm text-soft">Checking your last change…</p>;
  if (draft.checked === "not yet") return <p className="p-4 text-soft">Checking…</p>;
  const quiet = accepted.length > 0 && (
    <p className="flex items-baseline gap-3 px-4 py-2.5 text-sm text-soft">
      {accepted.length} accepted, and not shown.
      <button
        type="button"
        className="font-medium text-spruce hover:underline"
        onClick={() => change({ op: "set_accepted", accepted: [] })}
      >
        Show all again
      </button>
    </p>
  );
  if (draft.findings.length === 0)
    return late ? (
      checking
    ) : (
      <>
        <p className="p-4 text-soft">
          Nothing found: every target exists, every turn and arm can be reached, nothing is shown before it is known,
          and every conversation ends.
        </p>
        {quiet}
      </>
    );
  return (
    <>
      <ul>
        {late && <li>{checking}</li>}
        {draft.findings.map((finding) => (
          <FindingItem
            key={nameOf(finding) + finding.says}
            finding={finding}
            where={place(finding.at)}
            onGoTo={onGoTo}
            onWay={onWay}
            onAccept={() => change({ op: "set_accepted", accepted: [...accepted, nameOf(finding)] })}
          />
        ))}
      </ul>
      {quiet}
    </>
  );
}

function FindingItem({
  finding,
  where,
  onGoTo,
  onWay,
  onAccept,
}: {
  finding: Finding;
  where: { row: string; label: string } | null;
  onGoTo: (row: string) => void;
  onWay: (way: Schemas["Witness"]) => void;
  onAccept: () => void;
}) {
  const { way } = finding;
  const link = "shrink-0 font-medium text-spruce hover:underline";
  return (
    <li className="border-b border-line px-4 py-2.5">
      <p className={clsx("text-xs font-semibold", finding.severity === "error" ? "text-clay" : "text-amber")}>
        {words[finding.severity]}
      </p>
      <p>{finding.says}</p>
      {finding.mend && <p className="text-sm text-soft">{finding.mend}</p>}
      <p className="mt-0.5 flex items-baseline gap-4 text-sm">
        {where && (
          <button type="button" className={clsx(link, "min-w-0 shrink! truncate")} onClick={() => onGoTo(where.row)}>
            {where.label}
          </button>
        )}
        {way && (
          <button
            type="button"
            className={link}
            title="Hold a conversation in Rehearse that shows it"
            onClick={() => onWay(way)}
          >
            Rehearse it
          </button>
        )}
        {finding.severity !== "error" && (
          <button type="button" className={link} title="Leave it as it is; it is shown no more" onClick={onAccept}>
            Accept
          </button>
        )}
      </p>
    </li>
  );
}
