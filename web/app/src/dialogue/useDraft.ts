/**
 * A draft on the screen: what is kept on the server, what is being saved, what can be undone.
 *
 * Changes are sent one after another, each naming the revision it was made on. A change that fails stays in the queue:
 * without a connection it is sent again; where somebody else changed other things meanwhile it is made again on theirs;
 * where it would overwrite theirs, the author sees both and picks.
 */
import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";

import type { Schemas } from "../../../api";
import { RequestFailed, ask, client } from "../../../api";
import { analysisQuery, draftQuery, meQuery, queries } from "../lib/query";
import { changed } from "./changed";
import { apart } from "./collide";
import { overlay } from "./overlay";

export type Edit = Schemas["Edit"];
export type Gesture = Schemas["Gesture"];
/** The draft as it is kept. */
type Kept = Schemas["DraftView"];
/** What is computed of it: nothing yet, of the revision before, or of this very one. */
type Analysed = Omit<Schemas["AnalysisView"], "revision"> & { checked: "not yet" | "before" | "now" };
export type DraftView = Kept & Analysed;
export type Made = { rows: string[]; notes: string[]; draft: Kept };

type Pending = {
  edits: Edit[];
  gesture?: Gesture;
  kind: "do" | "undo" | "redo";
  /** True while what is undone or done again is not known yet: changes before it are still being saved. */
  later?: boolean;
  merge?: string;
  done?: (made: Made) => void;
  failed?: () => void;
};
type Step = { edits: Edit[]; merge?: string; at: number };

export type Saving = "saved" | "saving" | "offline" | "collided";

export type Collision = { people: string[]; draft: Kept; edits: { edit: Edit; free: boolean }[] };

const RETRY_MS = 3_000;
/** Undo steps that are kept. */
const UNDO_LIMIT = 500;
/** Before anything was computed. */
const UNKNOWN: Analysed = {
  findings: [],
  words: {},
  marks: {},
  measures: {},
  arrivals: [],
  questions: null,
  reach: { score: null, outcomes: [], changes_nothing: [] },
  checked: "not yet",
};
/** Typing in one place within this time is one step. */
const MERGE_MS = 20_000;

/** Edits that replace the same thing again and again are one step; the first one's inverse undoes them all. */
function mergeKey(edits: Edit[]): string | undefined {
  const [edit, more] = edits;
  if (!edit || more) return undefined;
  if (edit.op === "change_turn") return `turn:${edit.turn.id}`;
  if (edit.op === "change_arm") return `arm:${edit.arm.id}`;
  if (edit.op === "change_section") return `section:${edit.id}`;
  if (edit.op === "put_field") return `field:${edit.field.id}`;
  if (edit.op === "set_phrase") return `phrase:${edit.key}`;
  // Each change of a scorecard or of the routing is a step of its own.
  const whole = ["set_all", "set_scorecards", "set_routing"];
  return edit.op.startsWith("set_") && !whole.includes(edit.op) ? edit.op : undefined;
}

export function useDraft(dialogue: string) {
  const query = useQuery(draftQuery(dialogue));
  const [saving, setSaving] = useState<Saving>("saved");
  const [collision, setCollision] = useState<Collision | null>(null);
  const [says, setSays] = useState("");
  const [notes, setNotes] = useState<string[]>([]);
  const [waiting, setWaiting] = useState<Edit[]>([]);
  const queue = useRef<Pending[]>([]);
  const busy = useRef(false);
  const undoStack = useRef<Step[]>([]);
  const redoStack = useRef<Step[]>([]);
  const [depths, setDepths] = useState({ undo: 0, redo: 0 });

  const key = useMemo(() => draftQuery(dialogue).queryKey, [dialogue]);
  const show = useCallback(() => setWaiting(queue.current.flatMap((pending) => pending.edits)), []);

  const keep = useCallback((pending: Pending, inverse: Edit[]) => {
    const step: Step = { edits: inverse, merge: pending.merge, at: Date.now() };
    if (pending.kind === "undo") {
      redoStack.current = [...redoStack.current, step].slice(-UNDO_LIMIT);
    } else {
      const top = undoStack.current.at(-1);
      const joins =
        pending.kind === "do" && step.merge && top?.merge === step.merge && step.at - top.at < MERGE_MS ? top : null;
      if (joins) joins.at = step.at;
      else undoStack.current = [...undoStack.current, step].slice(-UNDO_LIMIT);
      if (pending.kind === "do") redoStack.current = [];
    }
    setDepths({ undo: undoStack.current.length, redo: redoStack.current.length });
  }, []);

  const send = useCallback(async () => {
    if (busy.current) return;
    busy.current = true;
    try {
      for (let next = queue.current[0]; next; next = queue.current[0]) {
        if (next.later) {
          const step = (next.kind === "undo" ? undoStack : redoStack).current.pop();
          if (!step) {
            queue.current.shift();
            continue;
          }
          Object.assign(next, { edits: step.edits, merge: step.merge, later: false });
        }
        const before = queries.getQueryData<Kept>(key);
        if (!before) break;
        const base = before.revision;
        setSaving("saving");
        try {
          const made = await ask(
            client.POST("/api/dialogues/{dialogue}/draft", {
              params: { path: { dialogue } },
              body: { base, edits: next.edits, ...(next.gesture ? { gesture: next.gesture } : {}) },
            }),
          );
          queue.current.shift();
          const me = queries.getQueryData(meQuery.queryKey)?.name ?? null;
          const draft = changed(before, made, me);
          queries.setQueryData(key, draft);
          keep(next, made.inverse);
          show();
          setSaving("saved");
          setSays("");
          if (made.notes.length > 0) setNotes(made.notes);
          next.done?.({ rows: made.made, notes: made.notes, draft });
        } catch (error) {
          const failure = error instanceof RequestFailed ? error : new RequestFailed(null);
          if (failure.code === "offline") {
            setSaving("offline");
            setTimeout(() => void send(), RETRY_MS);
            break;
          }
          if (failure.code === "stale-draft") {
            const since = failure.problem?.since ?? [];
            const touched = new Set(since.flatMap((row) => row.touches));
            await queries.refetchQueries({ queryKey: key });
            const newest = queries.getQueryData<Kept>(key);
            if (!newest || newest.revision === base) {
              // The newer draft could not be read: try again later rather than at once.
              setSaving("offline");
              setTimeout(() => void send(), RETRY_MS);
              break;
            }
            const edits = next.edits.map((edit) => ({ edit, free: apart(edit, touched) }));
            const people = [...new Set(since.map((row) => row.person))];
            if (edits.every(({ free }) => free)) {
              setNotes([
                `${people.join(" and ") || "Somebody"} changed other rows meanwhile; yours were kept as well.`,
              ]);
              continue;
            }
            setCollision({ people, draft: newest, edits });
            setSaving("collided");
            break;
          }
          // It can never be made as it is; say why and go on with the others.
          queue.current.shift();
          // What was never made is not undone.
          while (queue.current[0]?.later) queue.current.shift();
          show();
          setSaving("saved");
          setSays(failure.message);
          next.failed?.();
        }
      }
    } finally {
      busy.current = false;
    }
  }, [dialogue, keep, key, show]);

  const put = useCallback(
    (pending: Pending) => {
      queue.current.push(pending);
      // What was told of an earlier change has been read by now.
      setNotes([]);
      show();
      void send();
    },
    [send, show],
  );

  const change = useCallback((...edits: Edit[]) => put({ edits, kind: "do", merge: mergeKey(edits) }), [put]);
  const make = useCallback(
    (gesture: Gesture, done?: (made: Made) => void, failed?: () => void) =>
      put({ edits: [], gesture, kind: "do", done, failed }),
    [put],
  );
  const step = useCallback(
    (kind: "undo" | "redo") => {
      if (queue.current.length > 0) return put({ edits: [], kind, later: true });
      const last = (kind === "undo" ? undoStack : redoStack).current.pop();
      if (last) put({ edits: last.edits, kind, merge: last.merge });
    },
    [put],
  );
  const undo = useCallback(() => step("undo"), [step]);
  const redo = useCallback(() => step("redo"), [step]);

  /** After a collision: keeps the picked edits and sends them on the newest draft; the others are dropped. */
  const resolve = useCallback(
    (picked: Edit[]) => {
      const [first, ...rest] = queue.current;
      if (first) queue.current = picked.length > 0 ? [{ ...first, edits: picked }, ...rest] : rest;
      setCollision(null);
      setSaving("saved");
      show();
      void send();
    },
    [send, show],
  );

  /** Reads the draft again where somebody else changed it and nothing of ours is waiting. */
  const refresh = useCallback(
    (revision: number) => {
      const known = queries.getQueryData<Kept>(key)?.revision ?? 0;
      if (revision > known && queue.current.length === 0 && !busy.current)
        void queries.refetchQueries({ queryKey: key });
    },
    [key],
  );

  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => {
      if (queue.current.length > 0) event.preventDefault();
    };
    const back = () => void send();
    window.addEventListener("beforeunload", warn);
    window.addEventListener("online", back);
    return () => {
      window.removeEventListener("beforeunload", warn);
      window.removeEventListener("online", back);
    };
  }, [send]);

  const kept = query.data;
  const { data: analysis } = useQuery({
    ...analysisQuery(dialogue, kept?.revision ?? 0, kept?.newest_release ?? 0),
    enabled: kept !== undefined,
  });
  const draft = useMemo(() => {
    if (!kept) return undefined;
    const checked = analysis && analysis.revision >= kept.revision ? "now" : "before";
    const analysed: Analysed = analysis ? { ...analysis, checked } : UNKNOWN;
    const shown: DraftView = { ...analysed, ...kept };
    return waiting.length > 0 ? { ...shown, dialogue: overlay(kept.dialogue, waiting) } : shown;
  }, [kept, analysis, waiting]);
  return {
    draft,
    error: query.error,
    saving,
    collision,
    says,
    notes,
    dismiss: () => {
      setSays("");
      setNotes([]);
    },
    change,
    make,
    undo,
    redo,
    resolve,
    refresh,
    depths,
  };
}

export type DraftState = ReturnType<typeof useDraft>;
