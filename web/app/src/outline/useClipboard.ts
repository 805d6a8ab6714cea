/** Copying, cutting and pasting rows by the browser's own clipboard events: they carry data without asking for permission. */
import { useCallback, useEffect, useRef } from "react";

import type { Schemas } from "../../../api";
import { useShownDraft } from "../dialogue/DialogueScreen";
import type { DraftView, Made } from "../dialogue/useDraft";
import { isTyping } from "../frame/commands";
import { CLIP_TYPE, clipText, copyRows, readClip } from "./clip";
import { rowKey } from "./folding";
import { placeBelow } from "./places";

type Pasted = { clip: Schemas["Clip"] } | { text: string };

export function useClipboard(now: {
  /** The outline is shown. */
  active: boolean;
  draft: DraftView;
  /** Keys of the picked rows. */
  selection: string[];
  /** Key of the row that has the focus; what is pasted goes below it. */
  picked: string | null;
  onPasted: (row: string) => void;
  onCut: () => void;
}) {
  const { make } = useShownDraft();
  const latest = useRef(now);
  useEffect(() => {
    latest.current = now;
  });
  const paste = useCallback(
    (data: Pasted) => {
      const { draft, picked, onPasted } = latest.current;
      const target = draft.rows.find((row) => rowKey(row) === picked) ?? draft.rows[0];
      if (!target) return;
      // Arms go below the arm that is picked; turns go into it.
      const arms = "clip" in data && (data.clip.arms?.length ?? 0) > 0;
      const at = arms && target.kind === "arm" ? { parent: { arm: target.id }, index: 0 } : placeBelow(draft, target);
      const done = (made: Made) => made.rows[0] && onPasted(made.rows[0]);
      if ("clip" in data) make({ gesture: "paste", clip: data.clip, at }, done);
      else make({ gesture: "write", text: data.text, at }, done);
    },
    [make],
  );
  useEffect(() => {
    const elsewhere = (event: ClipboardEvent) =>
      !latest.current.active || isTyping(event.target) || document.querySelector("[role=dialog]") !== null;
    const onCopy = (event: ClipboardEvent) => {
      const { draft, selection, onCut } = latest.current;
      // Words that are marked on the screen are what is meant, not the row.
      if (elsewhere(event) || window.getSelection()?.isCollapsed === false) return;
      const clip = copyRows(draft, selection);
      if (!clip || !event.clipboardData) return;
      event.clipboardData.setData(CLIP_TYPE, JSON.stringify(clip));
      event.clipboardData.setData("text/plain", clipText(draft, clip));
      event.preventDefault();
      if (event.type === "cut") onCut();
    };
    const onPaste = (event: ClipboardEvent) => {
      const data = elsewhere(event) || !event.clipboardData ? null : readClip(event.clipboardData);
      if (!data) return;
      event.preventDefault();
      paste(data);
    };
    document.addEventListener("copy", onCopy);
    document.addEventListener("cut", onCopy);
    document.addEventListener("paste", onPaste);
    return () => {
      document.removeEventListener("copy", onCopy);
      document.removeEventListener("cut", onCopy);
      document.removeEventListener("paste", onPaste);
    };
  }, [paste]);
  /** For a command that is not the browser's own key: the text alone, which the browser may ask about. */
  const pasteFromClipboard = async () => {
    const text = await navigator.clipboard.readText().catch(() => "");
    if (text.trim()) paste({ text });
  };
  return { pasteFromClipboard };
}
