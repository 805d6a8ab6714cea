import type { Completion, CompletionContext, CompletionResult } from "@codemirror/autocomplete";
import { autocompletion } from "@codemirror/autocomplete";
import type { DecorationSet, ViewUpdate } from "@codemirror/view";
import { Decoration, EditorView, MatchDecorator, ViewPlugin, WidgetType, keymap, placeholder } from "@codemirror/view";
import { useEffect, useRef, useState } from "react";

import { useShownDraft } from "../dialogue/DialogueScreen";
import { around } from "../outline/edit/operators";
import type { Dialogue } from "../outline/names";
import { typeLabels } from "../outline/names";
import { ChipEditor } from "./ChipEditor";
import type { Chip } from "./chips";
import { CHIP, chipLabel, readChip, writeChip } from "./chips";
import type { EditorProps } from "./editor";
import { completionKeys, useEditor } from "./editor";
import { emoji } from "./emoji";

export type ChipTextProps = EditorProps & {
  hint?: string;
  /** Text size; questions and lines are larger than labels. */
  small?: boolean;
  /** Enter outside a list: done with this row. */
  onDone?: () => void;
};

class ChipWidget extends WidgetType {
  readonly text: string;
  readonly label: string;
  constructor(text: string, label: string) {
    super();
    this.text = text;
    this.label = label;
  }
  override eq(other: ChipWidget) {
    return other.text === this.text && other.label === this.label;
  }
  override toDOM() {
    const element = document.createElement("span");
    element.className = "chip";
    element.textContent = this.label;
    element.title = "A known value. Click, or Alt Enter beside it, to change it.";
    return element;
  }
  override ignoreEvent() {
    return false;
  }
}

/** Chips as one piece each: shown by name, passed over and taken out as a whole. */
function chipsOf(dialogue: { current: Dialogue }) {
  const matcher = new MatchDecorator({
    regexp: CHIP,
    decoration: ([text]) => {
      const chip = readChip(text);
      return chip ? Decoration.replace({ widget: new ChipWidget(text, chipLabel(dialogue.current, chip)) }) : null;
    },
  });
  return ViewPlugin.fromClass(
    class {
      chips: DecorationSet;
      constructor(view: EditorView) {
        this.chips = matcher.createDeco(view);
      }
      update(update: ViewUpdate) {
        this.chips = matcher.updateDeco(update, this.chips);
      }
    },
    {
      decorations: (plugin) => plugin.chips,
      provide: (plugin) => EditorView.atomicRanges.of((view) => view.plugin(plugin)?.chips ?? Decoration.none),
    },
  );
}

/** Fields after a brace, emoji after a colon. */
function completions(dialogue: { current: Dialogue }) {
  return (context: CompletionContext): CompletionResult | null => {
    const brace = context.matchBefore(/\{[^{}|]*$/);
    if (brace) {
      const options: Completion[] = (dialogue.current.fields ?? []).flatMap((field) => {
        const parts = field.type === "person_name" ? ["", ".given"] : [""];
        return parts.map((part) => ({
          label: `{${field.label}`,
          displayLabel: part ? `${field.label}, first name` : field.label,
          detail: typeLabels[field.type],
          apply: `{${field.key}${part}}`,
        }));
      });
      for (const [what, label] of around) {
        options.push({ label: `{${label}`, displayLabel: label, detail: "known without asking", apply: `{${what}}` });
      }
      return { from: brace.from, options };
    }
    const colon = context.matchBefore(/:[a-z ]{1,12}$/);
    if (!colon || !/(^|\s):[a-z]/.test(context.state.doc.sliceString(Math.max(0, colon.from - 1), colon.to)))
      return null;
    return {
      from: colon.from,
      options: emoji.map(([name, sign]) => ({ label: `:${name}`, displayLabel: `${sign} ${name}`, apply: sign })),
    };
  };
}

/** The chip that the caret stands beside, or that stands at a place. */
function chipAt(view: EditorView, at: number): { from: number; to: number; chip: Chip } | null {
  const line = view.state.doc.lineAt(at);
  for (const match of line.text.matchAll(CHIP)) {
    const from = line.from + match.index;
    const to = from + match[0].length;
    const chip = from <= at && at <= to ? readChip(match[0]) : null;
    if (chip) return { from, to, chip };
  }
  return null;
}

/** Words that a prospect reads, with known values as chips. */
export default function ChipText(props: ChipTextProps) {
  const { draft } = useShownDraft();
  const dialogue = useRef(draft.dialogue);
  const done = useRef(props.onDone);
  useEffect(() => {
    dialogue.current = draft.dialogue;
    done.current = props.onDone;
  });
  const [editing, setEditing] = useState<{ from: number; to: number; chip: Chip; x: number; y: number } | null>(null);
  const open = (view: EditorView, at: number): boolean => {
    const found = chipAt(view, at);
    const place = found && view.coordsAtPos(found.from);
    if (!found || !place) return false;
    setEditing({ ...found, x: place.left, y: place.bottom });
    return true;
  };
  const { host, view } = useEditor(props, () => [
    chipsOf(dialogue),
    autocompletion({ override: [completions(dialogue)], icons: false, defaultKeymap: false, interactionDelay: 0 }),
    keymap.of([
      ...completionKeys,
      { key: "Alt-Enter", run: (made) => open(made, made.state.selection.main.head) },
      {
        key: "Enter",
        run: () => {
          if (!done.current) return false;
          done.current();
          return true;
        },
      },
    ]),
    EditorView.domEventHandlers({
      mousedown: (event, made) => {
        if (!(event.target instanceof HTMLElement) || !event.target.classList.contains("chip")) return false;
        event.preventDefault();
        return open(made, made.posAtDOM(event.target));
      },
    }),
    ...(props.hint ? [placeholder(props.hint)] : []),
  ]);
  const put = (chip: Chip | null) => {
    const made = view.current;
    if (made && editing) {
      const insert = chip ? writeChip(chip) : "";
      made.dispatch({ changes: { from: editing.from, to: editing.to, insert } });
      made.focus();
      made.dispatch({ selection: { anchor: editing.from + insert.length } });
    }
    setEditing(null);
  };
  return (
    <>
      <div ref={host} className={`chip-text font-serif ${props.small ? "text-base" : "text-lg"}`} />
      {editing && (
        <ChipEditor
          chip={editing.chip}
          at={{ x: editing.x, y: editing.y }}
          onDone={put}
          onClose={() => {
            setEditing(null);
            view.current?.focus();
          }}
        />
      )}
    </>
  );
}
