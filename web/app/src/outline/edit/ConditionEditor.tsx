import { useState } from "react";

import { RequestFailed, ask, client } from "../../../../api";
import { Button, Select, TextInput } from "../../../../kit/ui";
import { useShownDraft } from "../../dialogue/DialogueScreen";
import type { Comparison, Condition, Operator } from "./operators";
import {
  contexts,
  firstComparison,
  groupOf,
  isGroup,
  operatorWords,
  operatorsFor,
  partsOf,
  simple,
  subject,
  withOperator,
} from "./operators";

const inline = "!border-0 !border-b !rounded-none !bg-transparent !px-1 !py-0.5 font-medium";

/** A condition as a sentence: typed as one, or put together from comparisons and brackets. */
export function ConditionEditor({
  condition,
  fresh = false,
  onChange,
}: {
  condition: Condition;
  /** True where it was just made: it is typed first. */
  fresh?: boolean;
  onChange: (condition: Condition) => void;
}) {
  const change = (next: Condition) => onChange(simple(next));
  return (
    <div className="mt-1.5">
      <GroupEditor condition={condition} depth={0} onChange={change} />
      <TypeIt fresh={fresh} onRead={change} />
    </div>
  );
}

/** A whole condition typed as a sentence. */
function TypeIt({ fresh, onRead }: { fresh: boolean; onRead: (condition: Condition) => void }) {
  const { dialogue } = useShownDraft();
  const [text, setText] = useState("");
  const [says, setSays] = useState("");
  const read = async () => {
    if (!text.trim()) return;
    try {
      const answer = await ask(
        client.POST("/api/dialogues/{dialogue}/condition", { params: { path: { dialogue } }, body: { text } }),
      );
      if (answer.condition) {
        onRead(answer.condition);
        setText("");
        setSays("");
      } else {
        const rest = text.slice(answer.at ?? 0).slice(0, 24);
        setSays(`${rest ? `at “${rest}”: ` : ""}${answer.says ?? "this is no condition"}`);
      }
    } catch (error) {
      setSays(error instanceof RequestFailed ? error.message : String(error));
    }
  };
  return (
    <div className="mt-1">
      <TextInput
        aria-label="Type the condition as a sentence"
        autoFocus={fresh}
        placeholder="or type it: Pallets at least 200 and Temperature is Frozen"
        className="!text-sm"
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setSays("");
        }}
        onKeyDown={(event) => {
          if (event.key === "Enter") {
            event.preventDefault();
            void read();
          }
        }}
      />
      {says && (
        <p role="alert" className="mt-0.5 text-xs text-clay">
          {says}
        </p>
      )}
    </div>
  );
}

function GroupEditor({
  condition,
  depth,
  onChange,
}: {
  condition: Condition;
  depth: number;
  onChange: (condition: Condition) => void;
}) {
  const { draft } = useShownDraft();
  const group = isGroup(condition) ? condition : { all: [condition] };
  const joined = "all" in group ? "all" : "any";
  const parts = partsOf(group);
  const set = (list: Condition[], how: "all" | "any" = joined) => onChange(groupOf(how, list));
  const first = draft.dialogue.fields?.[0]?.key ?? "@score";
  return (
    <div className={depth > 0 ? "rounded-md border border-line py-1 pr-1 pl-2" : ""}>
      {parts.map((part, place) => (
        // oxlint-disable-next-line react/no-array-index-key -- comparisons have no other name
        <div key={place} className="flex flex-wrap items-center gap-x-1.5 py-0.5">
          {place > 0 &&
            (place === 1 ? (
              <Select
                aria-label="Joined by"
                className={inline}
                value={joined}
                onChange={(event) => set(parts, event.target.value as "all" | "any")}
              >
                <option value="all">and</option>
                <option value="any">or</option>
              </Select>
            ) : (
              <span className="px-1.5 text-soft">{joined === "all" ? "and" : "or"}</span>
            ))}
          {isGroup(part) ? (
            <GroupEditor
              condition={part}
              depth={depth + 1}
              onChange={(changed) => set(parts.map((known, at) => (at === place ? changed : known)))}
            />
          ) : (
            <ComparisonEditor
              comparison={part.compare}
              onChange={(compare) => set(parts.map((known, at) => (at === place ? { compare } : known)))}
            />
          )}
          {(parts.length > 1 || depth > 0) && (
            <Button
              look="quiet"
              className="!text-clay"
              aria-label={`Take out part ${place + 1}`}
              onClick={() => set(parts.filter((_, at) => at !== place))}
            >
              ×
            </Button>
          )}
        </div>
      ))}
      <Button
        look="quiet"
        className="-ml-1.5"
        onClick={() => set([...parts, { compare: firstComparison(draft.dialogue, first) }])}
      >
        {parts.length > 1 ? (joined === "all" ? "and …" : "or …") : "and / or …"}
      </Button>
      {parts.length > 0 && depth < 4 && (
        <Button
          look="quiet"
          onClick={() => {
            const other = joined === "all" ? "any" : "all";
            const comparison: Condition = { compare: firstComparison(draft.dialogue, first) };
            set([...parts, groupOf(other, [comparison, comparison])]);
          }}
        >
          {joined === "all" ? "and (… or …)" : "or (… and …)"}
        </Button>
      )}
    </div>
  );
}

function ComparisonEditor({
  comparison,
  onChange,
}: {
  comparison: Comparison;
  onChange: (comparison: Comparison) => void;
}) {
  const { draft } = useShownDraft();
  const { dialogue } = draft;
  const { field, type, listed } = subject(dialogue, comparison.what);
  const operators = operatorsFor(type);
  const values = Array.isArray(comparison.to)
    ? comparison.to
    : comparison.to === null || comparison.to === undefined
      ? []
      : [comparison.to];
  const known = contexts.some(([what]) => what === comparison.what);
  return (
    <>
      <Select
        aria-label="What"
        className={inline}
        value={comparison.what}
        onChange={(event) => onChange(firstComparison(dialogue, event.target.value))}
      >
        {dialogue.fields?.map((one) => (
          <option key={one.id} value={one.key}>
            {one.label}
          </option>
        ))}
        <optgroup label="Known without asking">
          {contexts.map(([what, label]) => (
            <option key={what} value={what}>
              {label}
            </option>
          ))}
        </optgroup>
        {!field && !known && <option value={comparison.what}>{comparison.what}</option>}
      </Select>
      <Select
        aria-label="How"
        className={inline}
        value={comparison.is}
        onChange={(event) => onChange(withOperator(comparison, event.target.value as Operator, listed, type))}
      >
        {[...new Set([...operators, comparison.is])].map((is) => (
          <option key={is} value={is}>
            {operatorWords[is]}
          </option>
        ))}
      </Select>
      {values.length > 0 && listed.length > 0 && !Array.isArray(comparison.to) && (
        <Select
          aria-label="Value"
          className={inline}
          value={values[0]}
          onChange={(event) => onChange({ ...comparison, to: event.target.value })}
        >
          {listed.map(([key, label]) => (
            <option key={key} value={key}>
              {label}
            </option>
          ))}
        </Select>
      )}
      {Array.isArray(comparison.to) &&
        listed.length > 0 &&
        listed.map(([key, label]) => (
          <label key={key} className="flex items-center gap-1">
            <input
              type="checkbox"
              className="size-5"
              checked={values.includes(key)}
              onChange={(event) => {
                const next = event.target.checked ? [...values, key] : values.filter((other) => other !== key);
                if (next.length > 0) onChange({ ...comparison, to: next });
              }}
            />
            {label}
          </label>
        ))}
      {listed.length === 0 &&
        values.map((value, place) => (
          <TextInput
            // oxlint-disable-next-line react/no-array-index-key -- the ends of a span have no other name
            key={place}
            aria-label={place === 0 ? "Value" : "Highest"}
            className="!w-28 !py-0.5"
            value={value}
            onChange={(event) => {
              const next = values.map((one, at) => (at === place ? event.target.value : one));
              onChange({ ...comparison, to: Array.isArray(comparison.to) ? next : (next[0] ?? "") });
            }}
          />
        ))}
    </>
  );
}
