import type { Schemas } from "../../../../api";
import { Button, Select, TextInput } from "../../../../kit/ui";
import { useShownDraft } from "../../dialogue/DialogueScreen";
import type { Field } from "../names";
import { words } from "../names";

type Condition = Schemas["Condition"];
type Comparison = Schemas["Comparison"];
type Operator = Comparison["is"];

const operatorWords: Record<Operator, string> = {
  is: "is",
  is_not: "is not",
  is_one_of: "is one of",
  is_none_of: "is none of",
  at_least: "at least",
  at_most: "at most",
  more_than: "more than",
  less_than: "less than",
  between: "from … to",
  contains: "contains",
  within_days: "within days",
  is_missing: "is missing",
  is_known: "is known",
};

/** Operators that make sense for a type, as the core has them. */
export function operatorsFor(type: Field["type"] | "score" | "text"): Operator[] {
  const always: Operator[] = ["is_known", "is_missing"];
  switch (type) {
    case "whole_number":
    case "quantity":
    case "money":
    case "scale":
    case "score":
      return ["at_least", "at_most", "more_than", "less_than", "between", "is", "is_not", ...always];
    case "date":
      return ["is", "at_least", "at_most", "between", "within_days", ...always];
    case "choice":
      return ["is", "is_not", "is_one_of", "is_none_of", ...always];
    case "choices":
    case "list":
      return ["contains", ...always];
    case "yes_no":
    case "consent":
      return ["is", ...always];
    default:
      return ["is", "is_not", "contains", ...always];
  }
}

/** A condition as comparisons joined by and, or by or. Deeper groups are shown as they are and kept. */
export function ConditionEditor({
  condition,
  onChange,
}: {
  condition: Condition;
  onChange: (condition: Condition) => void;
}) {
  const joined = "all" in condition ? "all" : "any" in condition ? "any" : "all";
  const parts: Condition[] = "all" in condition ? condition.all : "any" in condition ? condition.any : [condition];
  const { draft } = useShownDraft();
  const set = (list: Condition[], how = joined) => {
    const [only] = list;
    onChange(list.length === 1 && only ? only : how === "all" ? { all: list } : { any: list });
  };
  const first = draft.dialogue.fields?.[0]?.key ?? "@score";
  return (
    <div className="mt-1.5 space-y-1">
      {parts.map((part, place) => (
        // oxlint-disable-next-line react/no-array-index-key -- comparisons have no other name
        <div key={place} className="flex flex-wrap items-center gap-2">
          {place > 0 && (
            <Select
              aria-label="Joined by"
              value={joined}
              onChange={(event) => set(parts, event.target.value as "all" | "any")}
            >
              <option value="all">and</option>
              <option value="any">or</option>
            </Select>
          )}
          {"compare" in part ? (
            <ComparisonEditor
              comparison={part.compare}
              onChange={(compare) => set(parts.map((known, at) => (at === place ? { compare } : known)))}
            />
          ) : (
            <span className="text-sm text-soft">
              a group of {"all" in part ? part.all.length : part.any.length}, edited in the file
            </span>
          )}
          {parts.length > 1 && (
            <Button look="quiet" className="!text-clay" onClick={() => set(parts.filter((_, at) => at !== place))}>
              Take out
            </Button>
          )}
        </div>
      ))}
      <Button
        look="quiet"
        className="-ml-1.5"
        onClick={() => set([...parts, { compare: { what: first, is: "is_known" } }])}
      >
        Add a comparison
      </Button>
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
  const field = dialogue.fields?.find((known) => known.key === comparison.what);
  const type = field?.type ?? (comparison.what === "@score" ? "score" : "text");
  const operators = operatorsFor(type);
  const values = Array.isArray(comparison.to) ? comparison.to : comparison.to ? [comparison.to] : [];
  const options =
    type === "yes_no" || type === "consent"
      ? [
          ["yes", "yes"],
          ["no", "no"],
        ]
      : (field?.options ?? []).map((option) => [option.key, words(option.label, dialogue.language)]);

  const setOperator = (is: Operator) => {
    const [low = "", high = ""] = values;
    if (is === "is_known" || is === "is_missing") onChange({ what: comparison.what, is });
    else if (is === "between") onChange({ what: comparison.what, is, to: [low || "1", high || low || "10"] });
    else if (is === "is_one_of" || is === "is_none_of")
      onChange({ what: comparison.what, is, to: values.length > 0 ? values : [options[0]?.[0] ?? ""] });
    else onChange({ what: comparison.what, is, to: low || options[0]?.[0] || (type === "text" ? "" : "1") });
  };
  return (
    <>
      <Select
        aria-label="What"
        value={comparison.what}
        onChange={(event) => onChange({ what: event.target.value, is: "is_known" })}
      >
        {dialogue.fields?.map((known) => (
          <option key={known.id} value={known.key}>
            {known.label}
          </option>
        ))}
        <option value="@score">Score</option>
        <option value="@page">Page</option>
        {!field && !["@score", "@page"].includes(comparison.what) && (
          <option value={comparison.what}>{comparison.what}</option>
        )}
      </Select>
      <Select aria-label="How" value={comparison.is} onChange={(event) => setOperator(event.target.value as Operator)}>
        {[...new Set([...operators, comparison.is])].map((known) => (
          <option key={known} value={known}>
            {operatorWords[known]}
          </option>
        ))}
      </Select>
      {values.length > 0 && options.length > 0 && !Array.isArray(comparison.to) && (
        <Select
          aria-label="Value"
          value={values[0]}
          onChange={(event) => onChange({ ...comparison, to: event.target.value })}
        >
          {options.map(([key, label]) => (
            <option key={key} value={key}>
              {label}
            </option>
          ))}
        </Select>
      )}
      {Array.isArray(comparison.to) &&
        options.length > 0 &&
        options.map(([key = "", label]) => (
          <label key={key} className="flex items-center gap-1">
            <input
              type="checkbox"
              className="size-6"
              checked={values.includes(key)}
              onChange={(event) => {
                const next = event.target.checked ? [...values, key] : values.filter((other) => other !== key);
                if (next.length > 0) onChange({ ...comparison, to: next });
              }}
            />
            {label}
          </label>
        ))}
      {options.length === 0 &&
        values.map((value, place) => (
          <TextInput
            // oxlint-disable-next-line react/no-array-index-key -- the ends of a span have no other name
            key={place}
            aria-label={place === 0 ? "Value" : "Highest"}
            className="!w-28"
            value={value}
            onChange={(event) => {
              const next = values.map((known, at) => (at === place ? event.target.value : known));
              onChange({ ...comparison, to: Array.isArray(comparison.to) ? next : (next[0] ?? "") });
            }}
          />
        ))}
    </>
  );
}
