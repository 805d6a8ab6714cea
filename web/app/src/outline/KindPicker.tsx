import { useEffect, useRef } from "react";

import { Button } from "../../../kit/ui";
import type { DraftView } from "../dialogue/useDraft";
import { railsWidth } from "./Rails";
import { newKinds } from "./make";
import type { Kind } from "./names";
import { kindLabels } from "./names";
import type { Row } from "./OutlineStage";

/** Which kind of turn to add, below the row it is added to. Arrow keys and first letters pick. */
export function KindPicker({
  draft,
  row,
  onPick,
  onClose,
}: {
  draft: DraftView;
  row: Row;
  onPick: (kind: Kind) => void;
  onClose: () => void;
}) {
  const list = useRef<HTMLDivElement>(null);
  useEffect(() => list.current?.querySelector("button")?.focus(), []);
  const go = (by: number) => {
    const buttons = [...(list.current?.querySelectorAll<HTMLButtonElement>("button[data-kind]") ?? [])];
    const at = buttons.indexOf(document.activeElement as HTMLButtonElement);
    buttons[(at + by + buttons.length) % buttons.length]?.focus();
  };
  return (
    <div
      ref={list}
      role="toolbar"
      tabIndex={-1}
      aria-label="Kind of turn to add"
      className="flex flex-wrap items-center gap-1.5 border-y border-line bg-picked py-2 pr-4"
      style={{ paddingLeft: railsWidth(draft.rails.lanes) + 14 + row.depth * 22 }}
      onKeyDown={(event) => {
        if (event.key === "Escape") onClose();
        if (event.key === "ArrowRight" || event.key === "ArrowDown") go(1);
        if (event.key === "ArrowLeft" || event.key === "ArrowUp") go(-1);
        if (event.key.startsWith("Arrow")) event.preventDefault();
        const kind =
          event.key.length === 1 &&
          newKinds.find((known) => kindLabels[known.kind].toLowerCase().startsWith(event.key.toLowerCase()));
        if (kind) onPick(kind.kind);
      }}
    >
      <span className="mr-1 text-xs text-soft">Add</span>
      {newKinds.map(({ kind, says }) => (
        <Button key={kind} data-kind={kind} title={says} onClick={() => onPick(kind)}>
          {kindLabels[kind]}
        </Button>
      ))}
      <Button look="quiet" onClick={onClose}>
        Not now
      </Button>
    </div>
  );
}
