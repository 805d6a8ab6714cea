import { useNavigate } from "@tanstack/react-router";
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";

import { AnyTime } from "../anytime/AnyTime";
import { useShownDraft } from "../dialogue/DialogueScreen";
import type { Made } from "../dialogue/useDraft";
import { usePresence } from "../dialogue/usePresence";
import { Dock } from "../dock/Dock";
import type { DockTab } from "../dock/Dock";
import { rehearsal, rehearse, rehearseWay, setRehearsal } from "../dock/rehearsal";
import { useCommands } from "../frame/useCommands";
import { loadEditors } from "../text/TextBox";
import { FindReplace } from "./FindReplace";
import { FirstLine } from "./FirstLine";
import { OutlineFoot } from "./OutlineFoot";
import { OutlineRow } from "./OutlineRow";
import type { RowActions } from "./OutlineRow";
import { QuickAdd, written } from "./QuickAdd";
import { Rows } from "./Rows";
import type { RowsHandle } from "./Rows";
import type { Panel } from "./SectionList";
import { SectionList } from "./SectionList";
import { ToSection } from "./ToSection";
import { between, foldsAround, rowKey, shownRows } from "./folding";
import { leadsTo } from "./leads";
import { newArm, newSection, newTurn } from "./make";
import type { Kind } from "./names";
import { index } from "./names";
import { placeAbove, placeBelow } from "./places";
import { useClipboard } from "./useClipboard";
import { usePlaces } from "./usePlaces";
import type { Schemas } from "../../../api";

export type Row = Schemas["Row"];

export function OutlineStage() {
  const state = useShownDraft();
  const { draft, dialogue: id, change, make, undo, redo, release, refresh } = state;
  const { dialogue, rows, rails } = draft;
  const navigate = useNavigate();
  const found = useMemo(() => index(dialogue), [dialogue]);
  const [picked, setPicked] = useState<string | null>(null);
  const [more, setMore] = useState<ReadonlySet<string>>(() => new Set());
  const [open, setOpen] = useState<string | null>(null);
  const [adding, setAdding] = useState<string | null>(null);
  const [folded, setFolded] = useState<ReadonlySet<string>>(() => new Set());
  const [panel, setPanel] = useState<Panel>("outline");
  const [dock, setDock] = useState<DockTab>("rehearse");
  const [uses, setUses] = useState<string | null>(null);
  const [finding, setFinding] = useState(false);
  const [sectioning, setSectioning] = useState<string[] | null>(null);
  const [commenting, setCommenting] = useState<string | null>(null);
  const list = useRef<RowsHandle>(null);
  const presence = usePresence(id, picked, refresh);
  useEffect(loadEditors, []);
  useEffect(() => rehearse(id), [id]);

  const shown = useMemo(() => shownRows(rows, rails.rows, folded), [rows, rails, folded]);
  const keys = useMemo(() => shown.map(({ key }) => key), [shown]);
  const row = useMemo(() => rows.find((known) => rowKey(known) === picked), [rows, picked]);
  const selection = useMemo(() => (picked && !more.has(picked) ? [...more, picked] : [...more]), [more, picked]);
  const ids = useMemo(() => {
    const kinds = new Set(selection.filter((key) => !key.startsWith("then:")));
    return rows.filter((known) => kinds.has(rowKey(known))).map((known) => known.id);
  }, [rows, selection]);

  const latest = useRef({ draft, keys, picked, more });
  useEffect(() => {
    latest.current = { draft, keys, picked, more };
  });

  /** Picks a row, opens folds around it, brings it into view and gives it the focus. */
  const goTo = useCallback((key: string) => {
    setPanel("outline");
    const around = foldsAround(latest.current.draft.rows, key);
    setFolded((known) =>
      around.some((fold) => known.has(fold)) ? new Set([...known].filter((fold) => !around.includes(fold))) : known,
    );
    setPicked(key);
    setMore((known) => (known.size > 0 ? new Set() : known));
    list.current?.focus(key);
  }, []);
  const goToPlace = useCallback(
    (at: string) => {
      if (/^(turn|arm|section|then):/.test(at)) goTo(at);
      if (at === "any-time") setPanel("side-talk");
      if (at === "opening") setPanel("greeting");
      if (at === "brief") void navigate({ to: "/dialogues/$dialogue/brief", params: { dialogue: id } });
    },
    [goTo, id, navigate],
  );
  const step = (by: number) => {
    const at = picked ? keys.indexOf(picked) : -1;
    const next = keys[Math.min(Math.max(at + by, 0), keys.length - 1)];
    if (next) goTo(next);
  };
  const stepTo = (wanted: (key: string) => boolean, back = false) => {
    const at = picked ? keys.indexOf(picked) : -1;
    const round = back
      ? keys.slice(0, Math.max(at, 0)).toReversed()
      : [...keys.slice(at + 1), ...keys.slice(0, at + 1)];
    const next = round.find(wanted);
    if (next) goTo(next);
  };
  const extend = (by: number) => {
    const at = picked ? keys.indexOf(picked) : -1;
    const next = keys[at + by];
    if (!next || !picked) return;
    setMore((known) => new Set([...known, picked, next]));
    setPicked(next);
    list.current?.focus(next);
  };
  const close = useCallback(() => {
    setOpen((known) => {
      if (known) list.current?.focus(known);
      return null;
    });
  }, []);

  const after = (made: Made) => {
    const [first] = made.rows;
    if (first) goTo(first);
  };
  const addTurn = (kind: Kind, below: string) => {
    const target = rows.find((other) => rowKey(other) === below);
    if (!target) return;
    const turn = newTurn(dialogue, kind);
    change({ op: "insert_turn", at: placeBelow(draft, target), turn });
    setAdding(null);
    setMore(new Set());
    setPicked(`turn:${turn.id}`);
    setOpen(`turn:${turn.id}`);
  };
  /** The box moves below what was just written once that row is there: it must never be without a place while typed in. */
  const placedAt = useRef<string | null>(null);
  const follow = useCallback(() => {
    const last = placedAt.current;
    if (!last || !latest.current.keys.includes(last)) return;
    placedAt.current = null;
    setPicked(last);
    setAdding((known) => (known === null ? null : last));
  }, []);
  useLayoutEffect(() => {
    latest.current.keys = keys;
    follow();
  }, [follow, keys]);

  /** Lines that were typed while an earlier one is on its way; they follow it together, in order. */
  const lines = useRef<{ busy: boolean; waiting: string[] }>({ busy: false, waiting: [] });
  const write = (text: string, below: string) => {
    lines.current.waiting.push(text);
    if (!lines.current.busy) sendLines(below);
  };
  const sendLines = (below: string) => {
    const { draft: now } = latest.current;
    const target = now.rows.find((other) => rowKey(other) === below);
    const text = lines.current.waiting.join("\n");
    lines.current = { busy: target !== undefined, waiting: [] };
    if (!target) return;
    const placed = (made: Made) => {
      const last = made.rows.findLast((key) => key.startsWith("turn:")) ?? made.rows.at(-1) ?? below;
      placedAt.current = last;
      follow();
      lines.current.busy = false;
      latest.current.draft = { ...latest.current.draft, ...made.draft };
      if (lines.current.waiting.length > 0) sendLines(last);
    };
    // A line that cannot be read comes back into the box, before what was typed since.
    const back = () => {
      const rest = lines.current.waiting;
      lines.current = { busy: false, waiting: [] };
      written.set((since) => [text, ...rest, since].filter(Boolean).join("\n"));
    };
    make({ gesture: "write", text, at: placeBelow(now, target) }, placed, back);
  };
  const addArm = useCallback(
    (turnId: string) => {
      const { dialogue: now } = latest.current.draft;
      const turn = index(now).turns.get(turnId);
      const arm = turn && newArm(now, turn);
      if (!turn || !arm) return;
      const arms = "arms" in turn ? (turn.arms ?? []) : [];
      const last = arms.at(-1);
      // Otherwise stays last: an arm below it would never be taken.
      const at = last?.when === "otherwise" && arm.when !== "otherwise" ? arms.length - 1 : arms.length;
      change({ op: "insert_arm", turn: turn.id, index: at, arm });
      setPicked(`arm:${arm.id}`);
      setOpen(`arm:${arm.id}`);
    },
    [change],
  );
  const addSection = () => {
    const section = newSection(dialogue);
    const at = row ? dialogue.sections.findIndex((known) => known.id === row.section) : dialogue.sections.length - 1;
    change({ op: "insert_section", index: at + 1, section });
    setPanel("outline");
    setPicked(`section:${section.id}`);
    setOpen(`section:${section.id}`);
  };
  const remove = useCallback(
    (gone: string[]) => {
      if (gone.length === 0) return;
      const { draft: now, keys: order, picked: at } = latest.current;
      const names = new Set(now.rows.filter((known) => gone.includes(known.id)).map(rowKey));
      const next =
        order.slice(at ? order.indexOf(at) : 0).find((key) => !names.has(key)) ?? order.find((key) => !names.has(key));
      setOpen(null);
      setMore(new Set());
      make({ gesture: "remove", ids: gone }, () => next && list.current?.focus(next));
      if (next) setPicked(next);
    },
    [make],
  );
  const shift = (way: "up" | "down" | "in" | "out") => {
    if (ids.length > 0) make({ gesture: "shift", ids, way }, () => picked && list.current?.focus(picked));
  };
  const asked =
    row?.kind === "turn" ? found.turns.get(row.id) : row?.kind === "arm" ? found.arms.get(row.id)?.turn : undefined;
  const wayHere = row
    ? draft.findings.find(
        (one) => one.way && one.at.split("/").at(-1) === (row.kind === "section" ? row.section : row.id),
      )?.way
    : undefined;
  const askedField =
    asked?.kind === "ask" ? asked.field : asked?.kind === "work_out" ? asked.fills[0]?.field : undefined;
  const leads = useMemo(() => leadsTo(draft, row), [draft, row]);
  const showUses = useCallback((key: string) => {
    setUses(key);
    setDock("uses");
  }, []);
  const fold = useCallback((key: string) => {
    setFolded((known) => {
      const next = new Set(known);
      if (!next.delete(key)) next.add(key);
      return next;
    });
  }, []);

  const outline = panel === "outline";
  useCommands("outline", {
    ...(outline
      ? {
          "next-row": () => step(1),
          "previous-row": () => step(-1),
          "next-section": () => stepTo((key) => key.startsWith("section:")),
          "previous-section": () => stepTo((key) => key.startsWith("section:"), true),
          "open-row": () => setOpen((known) => (known === picked ? null : picked)),
          "pick-down": () => extend(1),
          "pick-up": () => extend(-1),
          ...(more.size > 0 ? { "pick-none": () => setMore(new Set()) } : {}),
          "move-up": () => shift("up"),
          "move-down": () => shift("down"),
          "into-arm": () => shift("in"),
          "out-of-arm": () => shift("out"),
          ...(row ? { "add-below": () => setAdding(picked) } : {}),
          ...(row?.kind === "turn" &&
          newArm(dialogue, found.turns.get(row.id) ?? { kind: "visit", id: "", section: "" })
            ? { "add-arm": () => addArm(row.id) }
            : {}),
          ...(row?.kind === "arm" && row.turn ? { "add-arm": () => addArm(row.turn ?? "") } : {}),
          ...(ids.length > 0
            ? {
                duplicate: () => make({ gesture: "duplicate", ids }, after),
                remove: () => remove(ids),
                copy: () => document.execCommand("copy"),
                cut: () => document.execCommand("cut"),
                paste: () => void pasteFromClipboard(),
              }
            : {}),
          ...(row?.kind === "turn" ? { "to-section": () => setSectioning(ids) } : {}),
          ...(askedField ? { uses: () => showUses(askedField) } : {}),
          ...(leads ? { follow: () => goTo(leads) } : {}),
          ...(row && (row.kind === "arm" || row.kind === "section") ? { fold: () => fold(rowKey(row)) } : {}),
          "fold-all": () =>
            setFolded((known) =>
              known.size > 0 ? new Set() : new Set(dialogue.sections.map((section) => `section:${section.id}`)),
            ),
          "next-change": () => stepTo((key) => draft.marks[key] !== undefined),
          "next-check": () => {
            const at = new Set(draft.findings.map((one) => one.at.split("/").at(-1)));
            stepTo((key) => at.has(key.split(":")[1]));
          },
          ...(wayHere ? { "rehearse-finding": () => showWay(wayHere) } : {}),
          ...(row && row.kind !== "then" ? { comment: () => setCommenting(picked) } : {}),
          ...(row?.kind === "turn"
            ? {
                "rehearse-here": () => rehearseFrom(row.id),
                "rehearsed-line": () => {
                  setDock("rehearse");
                  requestAnimationFrame(() => {
                    const lines = document.querySelectorAll<HTMLElement>(`[data-said="${CSS.escape(row.id)}"]`);
                    lines[lines.length - 1]?.focus();
                  });
                },
              }
            : {}),
        }
      : {}),
    "add-section": addSection,
    "find-words": () => setFinding(true),
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
      setRehearsal(({ visitor, at }) => ({ inputs: [], visitor, at }));
      requestAnimationFrame(() => document.querySelector<HTMLElement>("[data-rehearse]")?.focus());
    },
    checks: () => setDock("checks"),
    history: () => setDock("history"),
    "side-talk": () => setPanel("side-talk"),
    offers: () => setPanel("offers"),
    greeting: () => setPanel("greeting"),
    phrases: () => setPanel("phrases"),
    tables: () => setPanel("tables"),
    manners: () => setPanel("manners"),
    brief: () => void navigate({ to: "/dialogues/$dialogue/brief", params: { dialogue: id } }),
    releases: () => void navigate({ to: "/dialogues/$dialogue/releases", params: { dialogue: id } }),
    release,
  });

  const showWay = useCallback((way: Schemas["Witness"]) => {
    setDock("rehearse");
    rehearseWay(way);
  }, []);

  const rehearseFrom = useCallback((turn: string) => {
    setDock("rehearse");
    setRehearsal(({ visitor, at, assumed }) => ({ inputs: [], from: turn, visitor, at, assumed }));
    requestAnimationFrame(() => document.querySelector<HTMLElement>("[data-rehearse]")?.focus());
  }, []);

  const { pasteFromClipboard } = useClipboard({
    active: outline,
    draft,
    selection,
    picked,
    onPasted: goTo,
    onCut: () => remove(ids),
  });

  usePlaces(draft, found, goTo, showUses);

  const actions = useMemo<RowActions>(
    () => ({
      onPick: (key, how) => {
        if (how === "range") {
          const { keys: order, picked: from } = latest.current;
          setMore(new Set(between(order, from ?? key, key)));
        } else if (how === "also") {
          const { picked: from } = latest.current;
          setMore((known) => {
            const next = new Set(from ? [...known, from] : known);
            if (known.has(key)) next.delete(key);
            else next.add(key);
            return next;
          });
        } else {
          setMore((known) => (known.size > 0 ? new Set() : known));
        }
        setPicked(key);
      },
      onOpen: (key) => {
        setPicked(key);
        setMore((known) => (known.size > 0 ? new Set() : known));
        setOpen((known) => (known === key ? null : key));
      },
      onClose: close,
      onAdd: (key) => setAdding(key),
      onAddArm: addArm,
      onRemove: (rowId) => remove([rowId]),
      onGoTo: goTo,
      onFold: fold,
      onUses: showUses,
      onRehearse: rehearseFrom,
      onComment: (key) => setCommenting(key),
      onDrop: (dragged, target, above) => {
        const { draft: now } = latest.current;
        const line = now.rows.find((known) => rowKey(known) === target);
        if (!line) return;
        const to = above ? placeAbove(now, line) : placeBelow(now, line);
        make({ gesture: "move", ids: dragged, to }, (made) => made.rows[0] && goTo(made.rows[0]));
      },
    }),
    [addArm, close, fold, goTo, make, rehearseFrom, remove, showUses],
  );

  const talk = rehearsal.use();
  const addingRow = rows.find((known) => rowKey(known) === adding);
  return (
    <>
      <div className="flex min-h-0 grow max-lg:flex-col max-lg:overflow-auto">
        <SectionList
          draft={draft}
          current={row?.section}
          panel={panel}
          onPanel={setPanel}
          onPick={(section) => goTo(`section:${section}`)}
          onAdd={addSection}
        />
        {outline ? (
          <Rows
            ref={list}
            draft={draft}
            shown={shown}
            below={adding}
            empty={
              rows.filter((known) => known.kind === "turn").length <= 1 &&
              adding === null && (
                <FirstLine
                  onAdd={() => {
                    const [first] = keys;
                    if (first) setPicked(first);
                    setAdding(first ?? null);
                  }}
                />
              )
            }
            renderBelow={
              addingRow && (
                <QuickAdd
                  lanes={rails.lanes}
                  depth={addingRow.depth + (addingRow.kind === "arm" ? 1 : 0)}
                  says={state.says}
                  at={placeBelow(draft, addingRow)}
                  onWrite={(text) => write(text, adding ?? "")}
                  onPick={(kind) => addTurn(kind, adding ?? "")}
                  onClose={() => {
                    setAdding(null);
                    if (adding) list.current?.focus(adding);
                  }}
                />
              )
            }
            renderRow={(line) => (
              <OutlineRow
                row={line.row}
                rowKey={line.key}
                marks={line.marks}
                hides={line.hides}
                found={found}
                picked={line.key === picked}
                also={more.has(line.key)}
                first={picked === null && line.key === keys[0]}
                open={line.key === open}
                rehearsed={line.row.kind === "turn" && talk.answer?.turn === line.row.id}
                others={presence?.here.filter((one) => one.at === line.key).map((one) => one.person) ?? []}
                commenting={commenting === line.key}
                dragged={selection.includes(line.key) ? ids : [line.row.id]}
                actions={actions}
              />
            )}
          />
        ) : (
          <AnyTime panel={panel} onGoTo={goTo} />
        )}
        <Dock
          tab={dock}
          onTab={setDock}
          uses={uses}
          openComments={presence?.open_comments ?? 0}
          onGoTo={goToPlace}
          onWay={showWay}
        />
      </div>
      <OutlineFoot
        picked={more.size > 1 ? selection.length : 0}
        here={presence?.here ?? []}
        onDuplicate={() => make({ gesture: "duplicate", ids }, after)}
        onSection={() => setSectioning(ids)}
        onRemove={() => remove(ids)}
        onChecks={() => setDock("checks")}
      />
      {finding && <FindReplace onClose={() => setFinding(false)} onGoTo={goTo} />}
      {sectioning && (
        <ToSection
          suggested={`Section ${dialogue.sections.length + 1}`}
          onClose={() => setSectioning(null)}
          onMake={(title) => {
            make({ gesture: "to_section", ids: sectioning, title }, after);
            setSectioning(null);
          }}
        />
      )}
    </>
  );
}
