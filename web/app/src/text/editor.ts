/** What both text boxes share: an editor that looks like the other boxes and keeps its own undo. */
import { closeCompletion, completionKeymap, completionStatus } from "@codemirror/autocomplete";
import { defaultKeymap, history, historyKeymap } from "@codemirror/commands";
import type { Extension } from "@codemirror/state";
import { EditorState } from "@codemirror/state";
import type { EditorView as View, KeyBinding } from "@codemirror/view";
import { EditorView, keymap } from "@codemirror/view";
import { useEffect, useRef } from "react";

const look = EditorView.theme({
  "&": { fontSize: "inherit", backgroundColor: "var(--paper)", color: "var(--ink)" },
  "&.cm-focused": { outline: "2px solid var(--indigo)", outlineOffset: "1px", borderRadius: "5px" },
  ".cm-content": { fontFamily: "inherit", padding: "4px 8px", caretColor: "var(--ink)" },
  ".cm-line": { padding: "0" },
  ".cm-scroller": { fontFamily: "inherit", lineHeight: "1.4" },
  ".cm-placeholder": { color: "var(--soft)" },
  ".cm-cursor": { borderLeftColor: "var(--ink)" },
  ".cm-tooltip": { backgroundColor: "var(--paper)", border: "1px solid var(--line)", borderRadius: "5px" },
  ".cm-tooltip-autocomplete > ul": {
    fontFamily: "'Hanken Grotesk Variable', sans-serif",
    fontSize: "13px",
    maxHeight: "16em",
  },
  ".cm-tooltip-autocomplete > ul > li": { padding: "3px 8px !important" },
  ".cm-tooltip-autocomplete > ul > li[aria-selected]": {
    backgroundColor: "var(--hair) !important",
    color: "var(--ink) !important",
  },
  ".cm-completionDetail": { color: "var(--soft)", fontStyle: "normal" },
  ".cm-completionMatchedText": { textDecoration: "none", fontWeight: "600" },
});

/** Keys of the list of completions. Escape closes it only while it is shown; else it is the row's. */
export const completionKeys: KeyBinding[] = [
  { key: "Escape", run: (view: View) => completionStatus(view.state) === "active" && closeCompletion(view) },
  ...completionKeymap.filter((binding) => binding.key !== "Escape"),
];

export type EditorProps = {
  /** Id of the text box, for its label. */
  id?: string;
  label?: string;
  value: string;
  onChange: (value: string) => void;
  autoFocus?: boolean;
};

/** Mounts an editor once; what it holds follows `value` unless it is being typed into. */
export function useEditor(props: EditorProps, extensions: () => Extension[]) {
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const change = useRef(props.onChange);
  useEffect(() => {
    change.current = props.onChange;
  });
  const { id, label, autoFocus } = props;
  const first = useRef({ value: props.value, extensions });
  useEffect(() => {
    const parent = host.current;
    if (!parent) return undefined;
    const made = new EditorView({
      parent,
      state: EditorState.create({
        doc: first.current.value,
        extensions: [
          ...first.current.extensions(),
          history(),
          keymap.of([...historyKeymap, ...defaultKeymap]),
          EditorView.lineWrapping,
          EditorView.updateListener.of((update) => {
            if (update.docChanged) change.current(update.state.doc.toString());
          }),
          EditorView.contentAttributes.of({
            ...(id ? { id } : {}),
            ...(label ? { "aria-label": label } : {}),
            spellcheck: "true",
          }),
          look,
        ],
      }),
    });
    view.current = made;
    if (autoFocus) {
      made.focus();
      made.dispatch({ selection: { anchor: 0, head: made.state.doc.length } });
    }
    return () => made.destroy();
  }, [id, label, autoFocus]);
  useEffect(() => {
    const made = view.current;
    if (!made || made.hasFocus || made.state.doc.toString() === props.value) return;
    made.dispatch({ changes: { from: 0, to: made.state.doc.length, insert: props.value } });
  }, [props.value]);
  return { host, view };
}
