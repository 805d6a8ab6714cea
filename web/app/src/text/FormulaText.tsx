import type { CompletionContext, CompletionResult } from "@codemirror/autocomplete";
import { autocompletion } from "@codemirror/autocomplete";
import { StateEffect, StateField } from "@codemirror/state";
import { Decoration, EditorView, keymap } from "@codemirror/view";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";

import { ask, client } from "../../../api";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { rehearsal } from "../dock/rehearsal";
import type { Dialogue } from "../outline/names";
import { optionChoices, typeLabels } from "../outline/names";
import type { EditorProps } from "./editor";
import { completionKeys, useEditor } from "./editor";

export type FormulaTextProps = EditorProps;

/** Functions with what they take; docs/format.md lists them. */
const functions: [name: string, takes: string][] = [
  ["IF", "test, then, else"],
  ["AND", "test, test, …"],
  ["OR", "test, test, …"],
  ["NOT", "test"],
  ["MIN", "number, …"],
  ["MAX", "number, …"],
  ["SUM", "number, …"],
  ["ROUND", "number, digits"],
  ["ROUNDUP", "number, digits"],
  ["ROUNDDOWN", "number, digits"],
  ["INT", "number"],
  ["MOD", "number, divisor"],
  ["ABS", "number"],
  ["LEN", "text"],
  ["LEFT", "text, count"],
  ["RIGHT", "text, count"],
  ["MID", "text, start, count"],
  ["LOWER", "text"],
  ["UPPER", "text"],
  ["TRIM", "text"],
  ["CONTAINS", "text, part"],
  ["TODAY", ""],
  ["DATE", "year, month, day"],
  ["DAYS", "later, earlier"],
  ["MONEY", "number, currency"],
  ["LOOKUP", "value, table, column"],
  ["ISMISSING", "field"],
  ["COALESCE", "value, value, …"],
  ["SWITCH", "value, case, result, …"],
];

function completions(dialogue: { current: Dialogue }) {
  return (context: CompletionContext): CompletionResult | null => {
    const word = context.matchBefore(/"?[A-Za-z_][A-Za-z0-9_]*$|"$/);
    if (!word && !context.explicit) return null;
    const { fields = [], tables = [] } = dialogue.current;
    const inText = word?.text.startsWith('"') === true;
    const keys = fields.flatMap((field) =>
      optionChoices(dialogue.current, field)
        .filter(() => field.type === "choice")
        .map(([key, label]) => ({ label: `"${key}"`, detail: `${field.label}: ${label}` })),
    );
    const names = [
      ...fields.map((field) => ({ label: field.key, detail: `${field.label}, ${typeLabels[field.type]}`, boost: 2 })),
      ...functions.map(([name, takes]) => ({ label: name, detail: takes, apply: `${name}(`, boost: 1 })),
      ...tables.map((table) => ({ label: table.key, detail: `table: ${table.columns.join(", ")}` })),
    ];
    return { from: word?.from ?? context.pos, options: inText ? keys : [...names, ...keys] };
  };
}

const setMistake = StateEffect.define<number | null>();

/** Underlines the character where the formula cannot be read. */
const mistake = StateField.define({
  create: () => Decoration.none,
  update: (shown, change) => {
    let next = change.docChanged ? Decoration.none : shown;
    for (const effect of change.effects) {
      if (effect.is(setMistake)) {
        const length = change.state.doc.length;
        const from = effect.value === null ? -1 : Math.min(effect.value, Math.max(0, length - 1));
        next =
          from < 0 || length === 0
            ? Decoration.none
            : Decoration.set([Decoration.mark({ class: "mistake" }).range(from, Math.min(length, from + 1))]);
      }
    }
    return next;
  },
  provide: (field) => EditorView.decorations.from(field),
});

const IDLE_MS = 150;

/** A formula, with what it gives and its value in the rehearsal. */
export default function FormulaText(props: FormulaTextProps) {
  const { draft, dialogue: id } = useShownDraft();
  const dialogue = useRef(draft.dialogue);
  useEffect(() => {
    dialogue.current = draft.dialogue;
  });
  const { host, view } = useEditor(props, () => [
    autocompletion({ override: [completions(dialogue)], icons: false, defaultKeymap: false, interactionDelay: 0 }),
    keymap.of(completionKeys),
    mistake,
  ]);
  const [settled, setSettled] = useState(props.value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(props.value), IDLE_MS);
    return () => clearTimeout(timer);
  }, [props.value]);
  const talk = rehearsal.use();
  const { data } = useQuery({
    queryKey: ["formula", id, draft.revision, settled, talk.body],
    queryFn: () =>
      ask(
        client.POST("/api/dialogues/{dialogue}/formula", {
          params: { path: { dialogue: id } },
          body: { formula: settled, rehearsal: talk.body },
        }),
      ),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const at = data?.at ?? null;
  useEffect(() => {
    view.current?.dispatch({ effects: setMistake.of(settled === props.value ? at : null) });
  }, [at, settled, props.value, view]);
  return (
    <div className="min-w-0 grow">
      <div ref={host} className="chip-text font-mono text-[12.5px]" />
      <p aria-live="polite" className="mt-0.5 min-h-4 text-xs text-soft">
        {data?.says ? (
          <span className="text-clay">
            character {at === null ? "" : at + 1}: {data.says}
          </span>
        ) : data?.gives ? (
          <>
            gives {data.gives}; in the rehearsal now: <b className="font-semibold text-ink">{data.value}</b>
          </>
        ) : null}
      </p>
    </div>
  );
}
