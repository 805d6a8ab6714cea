import type { Schemas } from "../../../api";
import { Button } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { savedWords } from "../dialogue/saved";
import { BottomLine } from "../frame/BottomLine";
import { useLate } from "../lib/useLate";

/** The outline's live figures, what can be done with picked rows, who else is here, and the state of saving. */
export function OutlineFoot({
  picked,
  here,
  onDuplicate,
  onSection,
  onRemove,
  onChecks,
}: {
  /** How many rows are picked, where it is more than one. */
  picked: number;
  here: Schemas["Present"][];
  onDuplicate: () => void;
  onSection: () => void;
  onRemove: () => void;
  onChecks: () => void;
}) {
  const { draft, saving, undo, redo, depths } = useShownDraft();
  const errors = draft.findings.filter((one) => one.severity === "error").length;
  const late = useLate(draft.checked === "before");
  const turns = draft.rows.filter((row) => row.kind === "turn").length;
  return (
    <BottomLine right={savedWords(saving, draft.changed_at)}>
      {picked > 0 ? (
        <span className="flex items-center gap-2">
          <b>{picked}</b> rows picked
          <Button look="quiet" className="!py-0 !text-xs" onClick={onDuplicate}>
            Duplicate
          </Button>
          <Button look="quiet" className="!py-0 !text-xs" onClick={onSection}>
            Make a section
          </Button>
          <Button look="quiet" className="!py-0 !text-xs !text-clay" onClick={onRemove}>
            Take out
          </Button>
        </span>
      ) : (
        <>
          <span>
            <b>{turns}</b> turn{turns === 1 ? "" : "s"}
          </span>
          <span>
            <b>{questionWords(draft.questions)}</b> questions
          </span>
          {draft.reach.score && (
            <span>
              <b>
                {draft.reach.score.low ?? "no least"} to {draft.reach.score.high ?? "no most"}
              </b>{" "}
              points
            </span>
          )}
          <button type="button" className="hover:underline" onClick={onChecks}>
            {draft.checked === "not yet" ? (
              "checking"
            ) : late ? (
              "checking your last change"
            ) : draft.findings.length === 0 ? (
              "nothing found by the checks"
            ) : (
              <b className={errors > 0 ? "!text-clay" : "!text-amber"}>{draft.findings.length} to look at</b>
            )}
          </button>
        </>
      )}
      {here.length > 0 && (
        <span>
          <b>{here.map((one) => one.person.split(" ")[0]).join(", ")}</b> {here.length === 1 ? "is" : "are"} here too
        </span>
      )}
      <span className="flex gap-1">
        <Button look="quiet" className="!py-0 !text-xs" disabled={depths.undo === 0} onClick={undo}>
          Undo
        </Button>
        <Button look="quiet" className="!py-0 !text-xs" disabled={depths.redo === 0} onClick={redo}>
          Redo
        </Button>
      </span>
      <span>J K move · Enter open · A add · ? all</span>
    </BottomLine>
  );
}

/** Fewest and most questions on a conversation. */
function questionWords(questions: Schemas["Questions"] | null | undefined): string {
  if (!questions) return "0";
  const { least, most } = questions;
  if (most === null || most === undefined) return `${least} or more`;
  return least === most ? `${most}` : `${least} to ${most}`;
}
