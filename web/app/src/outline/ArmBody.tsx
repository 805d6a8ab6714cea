import { clsx } from "clsx";

import type { Schemas } from "../../../api";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { SectionLink } from "./OutlineRow";
import type { Arm, Turn } from "./names";
import { armWords, fieldOf, optionPoints, optionRulesOut, words } from "./names";

/** A chip has the colour of its lane: where the arm leads. */
const looks: Record<Schemas["LaneClass"], string> = {
  trunk: "border-ink",
  rejoins: "border-spruce text-spruce",
  lead: "border-spruce text-spruce",
  ahead: "border-indigo text-indigo",
  not_a_fit: "border-clay text-clay",
  customer: "border-amber text-amber",
  looking: "border-amber text-amber",
  unfinished: "border-amber text-amber",
  other: "border-soft text-soft",
};

/** An arm: what makes the conversation take it, what that is worth, where it leads. */
export function ArmBody({
  arm,
  turn,
  lane,
  onGoTo,
}: {
  arm: Arm;
  turn: Turn;
  lane: Schemas["LaneClass"];
  onGoTo: (section: string) => void;
}) {
  const { draft } = useShownDraft();
  const { dialogue } = draft;
  const said = armWords(dialogue, turn, arm, draft.words);
  const then = arm.then ?? "rejoin";
  const key =
    typeof arm.when === "object" && "options" in arm.when && arm.when.options.length === 1
      ? (arm.when.options[0] ?? "")
      : "";
  const field = turn.kind === "ask" ? fieldOf(dialogue, turn.field) : undefined;
  const hint = field?.options?.find((option) => option.key === key)?.hint;
  const points = key && field ? optionPoints(dialogue, field.key, key) : 0;
  const out = key && field ? optionRulesOut(dialogue, field.key, key) : undefined;
  const leaves = typeof then === "object";
  const plain = arm.when === "otherwise" && !arm.label;
  const notes = [
    hint ? words(hint, dialogue.language) : "",
    points ? `${points > 0 ? "+" : "−"}${Math.abs(points)} points` : "",
  ]
    .filter(Boolean)
    .join(", ");
  return (
    <div className="flex flex-wrap items-baseline gap-x-3">
      {plain ? (
        <span className="text-soft">otherwise</span>
      ) : (
        <span
          className={clsx(
            "rounded-md border px-2.5 py-0.5 font-semibold",
            lane === "rejoins" && (arm.turns ?? []).length === 0 ? "border-ink" : looks[lane],
          )}
        >
          {arm.label ?? said}
        </span>
      )}
      {arm.label && !plain && said !== arm.label && <span className="text-sm text-soft">{said}</span>}
      {notes && <span className="text-sm text-soft">{notes}</span>}
      {out && <span className="text-sm text-clay">rules out: {out}</span>}
      {leaves && (
        <span className="text-sm">
          {"go_to" in then ? (
            <>
              → <SectionLink id={then.go_to} onGoTo={onGoTo} />
            </>
          ) : (
            `ends as ${dialogue.outcomes.find((known) => known.id === then.close.outcome)?.label ?? then.close.outcome}`
          )}
        </span>
      )}
    </div>
  );
}
