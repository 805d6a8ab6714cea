/**
 * A draft on the screen: what is kept on the server, what is being saved, what can be undone.
 *
 * Changes are sent one after another, each naming the revision it was made on. A change that fails stays in the queue:
 * without a connection it is sent again; on a collision the author sees who changed what and decides.
 */
import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";

import type { Schemas } from "../../../api";
import { RequestFailed, ask, client } from "../../../api";
import { draftQuery, queries } from "../lib/query";

export type Edit = Schemas["Edit"];
export type DraftView = Schemas["DraftView"];

type Pending = { edits: Edit[]; kind: "do" | "undo" | "redo" };

export type Saving = "saved" | "saving" | "offline" | "collided";

export type Collision = { people: string[]; touches: string[] };

const RETRY_MS = 3_000;
/** Undo steps that are kept. */
const UNDO_LIMIT = 500;

export function useDraft(dialogue: string) {
  const query = useQuery(draftQuery(dialogue));
  const [saving, setSaving] = useState<Saving>("saved");
  const [collision, setCollision] = useState<Collision | null>(null);
  const [says, setSays] = useState("");
  const queue = useRef<Pending[]>([]);
  const busy = useRef(false);
  const undoStack = useRef<Edit[][]>([]);
  const redoStack = useRef<Edit[][]>([]);
  const [depths, setDepths] = useState({ undo: 0, redo: 0 });

  const key = useMemo(() => draftQuery(dialogue).queryKey, [dialogue]);

  const send = useCallback(async () => {
    if (busy.current) return;
    busy.current = true;
    try {
      for (let next = queue.current[0]; next; next = queue.current[0]) {
        const base = queries.getQueryData<DraftView>(key)?.revision;
        if (base === undefined) break;
        setSaving("saving");
        try {
          const { draft, inverse } = await ask(
            client.POST("/api/dialogues/{dialogue}/draft", {
              params: { path: { dialogue } },
              body: { base, edits: next.edits },
            }),
          );
          queue.current.shift();
          queries.setQueryData(key, draft);
          const to = next.kind === "undo" ? redoStack : undoStack;
          to.current = [...to.current, inverse].slice(-UNDO_LIMIT);
          if (next.kind === "do") redoStack.current = [];
          setDepths({ undo: undoStack.current.length, redo: redoStack.current.length });
          setSaving("saved");
          setSays("");
        } catch (error) {
          const failure = error instanceof RequestFailed ? error : new RequestFailed(null);
          if (failure.code === "offline") {
            setSaving("offline");
            setTimeout(() => void send(), RETRY_MS);
            break;
          }
          if (failure.code === "stale-draft") {
            const since = failure.problem?.since ?? [];
            setSaving("collided");
            setCollision({
              people: [...new Set(since.map((row) => row.person))],
              touches: [...new Set(since.flatMap((row) => row.touches))],
            });
            break;
          }
          // It can never be made as it is; say why and go on with the others.
          queue.current.shift();
          setSaving("saved");
          setSays(failure.message);
        }
      }
    } finally {
      busy.current = false;
    }
  }, [dialogue, key]);

  const put = useCallback(
    (pending: Pending) => {
      queue.current.push(pending);
      void send();
    },
    [send],
  );

  const change = useCallback((...edits: Edit[]) => put({ edits, kind: "do" }), [put]);
  const undo = useCallback(() => {
    const edits = undoStack.current.pop();
    if (edits) put({ edits, kind: "undo" });
  }, [put]);
  const redo = useCallback(() => {
    const edits = redoStack.current.pop();
    if (edits) put({ edits, kind: "redo" });
  }, [put]);

  /** After a collision: read the newest draft, then make the waiting changes again on it, or drop them. */
  const resolve = useCallback(
    async (again: boolean) => {
      if (!again) queue.current = [];
      await queries.refetchQueries({ queryKey: key });
      setCollision(null);
      setSaving("saved");
      void send();
    },
    [key, send],
  );

  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => {
      if (queue.current.length > 0) event.preventDefault();
    };
    window.addEventListener("beforeunload", warn);
    return () => window.removeEventListener("beforeunload", warn);
  }, []);

  return {
    draft: query.data,
    error: query.error,
    saving,
    collision,
    says,
    dismiss: () => setSays(""),
    change,
    undo,
    redo,
    resolve,
    depths,
  };
}

export type DraftState = ReturnType<typeof useDraft>;
