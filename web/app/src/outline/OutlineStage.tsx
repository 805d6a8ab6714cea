import { useMemo, useRef, useState } from "react";

import type { Schemas } from "../../../api";
import { Button } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { Dock } from "../dock/Dock";
import { BottomLine } from "../frame/BottomLine";
import { useCommands } from "../frame/useCommands";
import { clock } from "../lib/time";
import { KindPicker } from "./KindPicker";
import { OutlineRow } from "./OutlineRow";
import { SectionList } from "./SectionList";
import { newArm, newSection, newTurn } from "./make";
import { moveEdit, placeBelow } from "./moves";
import type { Kind } from "./names";
import { index } from "./names";

export type Row = Schemas["Row"];

/** A row's name on the screen: its kind and id. */
export const rowKey = (row: Row): string => `${row.kind}:${row.id}`;

export function OutlineStage() {
  const state = useShownDraft();
  const { draft, change, undo, redo, depths, release } = state;
  const { dialogue, rows, rails } = draft;
  const found = useMemo(() => index(dialogue), [dialogue]);
  const [picked, setPicked] = useState<string | null>(null);
  const [open, setOpen] = useState<string | null>(null);
  const [adding, setAdding] = useState<string | null>(null);
  const [dock, setDock] = useState<"rehearse" | "checks" | "history">("rehearse");
  const [round, setRound] = useState(0);
  const list = useRef<HTMLDivElement>(null);

  const place = rows.findIndex((row) => rowKey(row) === picked);
  const row = rows[place];

  const focusRow = (key: string) => {
    setPicked(key);
    requestAnimationFrame(() => {
      const element = list.current?.querySelector<HTMLElement>(`[data-row="${CSS.escape(key)}"] [data-open]`);
      element?.focus({ preventScroll: true });
      element?.scrollIntoView({ block: "nearest" });
    });
  };
  const step = (by: number) => {
    const next = rows[Math.min(Math.max(place + by, 0), rows.length - 1)];
    if (next) focusRow(rowKey(next));
  };
  const close = () => {
    setOpen(null);
    if (open) focusRow(open);
  };

  const addTurn = (kind: Kind, below: string) => {
    const target = rows.find((other) => rowKey(other) === below);
    if (!target) return;
    const turn = newTurn(dialogue, kind);
    change({ op: "insert_turn", at: placeBelow(draft, target), turn });
    setAdding(null);
    setPicked(`turn:${turn.id}`);
    setOpen(`turn:${turn.id}`);
  };
  const addArm = (turnId: string) => {
    const turn = found.turns.get(turnId);
    const arm = turn && newArm(dialogue, turn);
    if (!turn || !arm) return;
    const arms = "arms" in turn ? (turn.arms ?? []) : [];
    const last = arms.at(-1);
    // Otherwise stays last: an arm below it would never be taken.
    const at = last?.when === "otherwise" && arm.when !== "otherwise" ? arms.length - 1 : arms.length;
    change({ op: "insert_arm", turn: turn.id, index: at, arm });
    setPicked(`arm:${arm.id}`);
    setOpen(`arm:${arm.id}`);
  };
  const addSection = () => {
    const section = newSection(dialogue);
    const after = row ? dialogue.sections.findIndex((known) => known.id === row.section) : dialogue.sections.length - 1;
    change({ op: "insert_section", index: after + 1, section });
    setPicked(`section:${section.id}`);
    setOpen(`section:${section.id}`);
  };
  const remove = (target: Row | undefined) => {
    if (!target || target.kind === "then") return;
    const next = rows[place + 1] ?? rows[place - 1];
    setOpen(null);
    if (target.kind === "turn") change({ op: "remove_turn", id: target.id });
    if (target.kind === "arm") change({ op: "remove_arm", id: target.id });
    if (target.kind === "section") change({ op: "remove_section", id: target.id });
    if (next) setPicked(rowKey(next));
  };
  const move = (how: "up" | "down" | "in" | "out") => {
    const edit = row && moveEdit(draft, row, how);
    if (edit) change(edit);
  };

  useCommands("outline", {
    "next-row": () => step(1),
    "previous-row": () => step(-1),
    "open-row": () => setOpen((known) => (known === picked ? null : picked)),
    ...(row ? { "add-below": () => setAdding(picked) } : {}),
    ...(row?.kind === "turn" && newArm(dialogue, found.turns.get(row.id) ?? { kind: "visit", id: "", section: "" })
      ? { "add-arm": () => addArm(row.id) }
      : {}),
    ...(row?.kind === "arm" && row.turn ? { "add-arm": () => addArm(row.turn ?? "") } : {}),
    "add-section": addSection,
    "move-up": () => move("up"),
    "move-down": () => move("down"),
    "into-arm": () => move("in"),
    "out-of-arm": () => move("out"),
    remove: () => remove(row),
    undo: () => {
      setOpen(null);
      undo();
    },
    redo: () => {
      setOpen(null);
      redo();
    },
    rehearse: () => {
      setDock("rehearse");
      setRound((known) => known + 1);
    },
    checks: () => setDock("checks"),
    release,
  });

  const errors = draft.findings.filter((finding) => finding.severity === "error").length;
  return (
    <>
      <div className="flex min-h-0 grow max-lg:flex-col max-lg:overflow-auto">
        <SectionList
          draft={draft}
          current={row?.section}
          onPick={(id) => focusRow(`section:${id}`)}
          onAdd={addSection}
        />
        <main
          aria-label="Outline"
          className="min-w-0 grow overflow-auto border-r border-line bg-paper pb-24 max-lg:shrink-0 max-lg:overflow-visible max-lg:pb-6"
          ref={list}
        >
          {rows.map((shown, at) => {
            const key = rowKey(shown);
            return (
              <div key={key}>
                <OutlineRow
                  row={shown}
                  marks={rails.rows[at] ?? []}
                  found={found}
                  picked={key === picked}
                  first={at === 0 && picked === null}
                  open={key === open}
                  onPick={() => setPicked(key)}
                  onOpen={() => {
                    setPicked(key);
                    setOpen(key === open ? null : key);
                  }}
                  onClose={close}
                  onAdd={() => setAdding(key)}
                  onAddArm={addArm}
                  onRemove={() => remove(shown)}
                  onGoTo={(section) => focusRow(`section:${section}`)}
                />
                {adding === key && (
                  <KindPicker
                    draft={draft}
                    row={shown}
                    onPick={(kind) => addTurn(kind, key)}
                    onClose={() => setAdding(null)}
                  />
                )}
              </div>
            );
          })}
        </main>
        <Dock tab={dock} onTab={setDock} round={round} onGoTo={focusRow} />
      </div>
      <BottomLine right={saved(state.saving, draft.changed_at)}>
        <span>
          <b>{draft.figures.turns}</b> turns
        </span>
        <span>
          <b>{draft.figures.questions_most}</b> questions at most
        </span>
        <button type="button" className="hover:underline" onClick={() => setDock("checks")}>
          {draft.findings.length === 0 ? (
            "nothing found by the checks"
          ) : (
            <b className={errors > 0 ? "!text-clay" : "!text-amber"}>{draft.findings.length} to look at</b>
          )}
        </button>
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
    </>
  );
}

function saved(saving: string, at: string): string {
  if (saving === "saving") return "Saving";
  if (saving === "offline") return "Not saved: no connection";
  if (saving === "collided") return "Not saved: see above";
  return `Saved ${clock(at)}`;
}
