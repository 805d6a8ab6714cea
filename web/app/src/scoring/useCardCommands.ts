/** What can be done with a scorecard from the keyboard. */
import type { Schemas } from "../../../api";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { useCommands } from "../frame/useCommands";
import { firstComparison } from "../outline/edit/operators";
import type { Card, Line } from "./card";
import {
  freshPart,
  keyOf,
  lines,
  moved,
  newCriterion,
  pointsOf,
  withCriterion,
  withDimension,
  withPoints,
  withRuleOut,
  without,
} from "./card";

type Condition = Schemas["Condition"];

export function useCardCommands({
  card,
  picked,
  open,
  setPicked,
  setOpen,
  onChange,
  onTry,
}: {
  card: Card | undefined;
  picked: string | null;
  open: string | null;
  setPicked: (key: string | null) => void;
  setOpen: (key: string | null) => void;
  onChange: (card: Card) => void;
  onTry: () => void;
}) {
  const { draft, undo, redo, release } = useShownDraft();
  const { dialogue } = draft;
  const all = card ? lines(card) : [];
  const at = all.findIndex((line) => keyOf(line) === picked);
  const line: Line | undefined = all[at];
  const fresh = (prefix: string) => freshPart(dialogue, prefix);
  const show = (key: string) => {
    setPicked(key);
    setOpen(key);
  };
  const pick = (place: number) => {
    const next = all[Math.min(Math.max(place, 0), all.length - 1)];
    if (!next) return;
    setPicked(keyOf(next));
    document.querySelector<HTMLElement>(`[data-line="${CSS.escape(next.id)}"] button`)?.focus({ preventScroll: true });
  };
  const count = (by: number) => {
    const points = line && pointsOf(line);
    if (!card || !line || points === null || points === undefined) return;
    onChange(withPoints(card, line.id, line.kind === "criterion" ? line.row : null, points + by));
  };
  const addCriterion = (holds: Condition) => {
    if (!card) return;
    const id = fresh("c");
    onChange(withCriterion(withDimension(card, dialogue), newCriterion(id, holds), line));
    show(id);
  };
  const addDimension = () => {
    if (!card) return;
    const id = fresh("d");
    onChange({ ...card, dimensions: [...(card.dimensions ?? []), { id, title: "New dimension", criteria: [] }] });
    show(id);
  };
  const addMust = (holds: Condition) => {
    if (!card) return;
    const id = fresh("m");
    const cap = card.bands.at(-2)?.id ?? card.bands[0]?.id ?? "";
    onChange({ ...card, must_haves: [...(card.must_haves ?? []), { id, holds, cap }] });
    show(id);
  };
  const addOut = (holds: Condition) => {
    if (!card) return;
    const id = fresh("r");
    onChange(withRuleOut(card, dialogue, id, holds));
    show(id);
  };
  const holds = { compare: firstComparison(dialogue, dialogue.fields?.[0]?.key ?? "@page") };
  useCommands("scoring", {
    "next-row": () => pick(at + 1),
    "previous-row": () => pick(at < 0 ? 0 : at - 1),
    "open-row": () => picked && setOpen(open === picked ? null : picked),
    "close-row": () => setOpen(null),
    "more-points": () => count(1),
    "fewer-points": () => count(-1),
    "add-criterion": () => addCriterion(holds),
    "add-dimension": addDimension,
    "add-must": () => addMust(holds),
    "add-rule-out": () => addOut(holds),
    "move-up": () => card && line && onChange(moved(card, line, -1)),
    "move-down": () => card && line && onChange(moved(card, line, 1)),
    remove: () => {
      if (!card || !line) return;
      onChange(without(card, line));
      setOpen(null);
    },
    "try-lead": onTry,
    undo,
    redo,
    release,
  });
  return { addCriterion, addDimension, addMust, addOut };
}
