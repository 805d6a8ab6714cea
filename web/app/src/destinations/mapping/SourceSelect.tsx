import type { Schemas } from "../../../../api";
import { Select, TextInput } from "../../../../kit/ui";
import type { From } from "./words";
import { factWords, facts, fromValue, toValue } from "./words";

/** What a property or a column comes from: an answer, something else about the lead, or the same words each time. */
export function SourceSelect({
  label,
  from,
  fields,
  disabled,
  none,
  onChange,
}: {
  label: string;
  from: From | undefined;
  fields: Schemas["OfferedField"][];
  disabled: boolean;
  /** Words for no source at all; without them there must be one. */
  none?: string;
  onChange: (from: From | null) => void;
}) {
  const known = from && "field" in from && !fields.some((field) => field.key === from.field) ? from.field : null;
  return (
    <span className="flex gap-1.5">
      <Select
        aria-label={label}
        className="w-52 !py-0.5 text-sm"
        disabled={disabled}
        value={toValue(from)}
        onChange={(event) => onChange(fromValue(event.target.value, from))}
      >
        {none && <option value="">{none}</option>}
        <optgroup label="Answers">
          {known && <option value={`field:${known}`}>{known} (in no dialogue)</option>}
          {fields.map((field) => (
            <option key={field.key} value={`field:${field.key}`}>
              {field.label}
            </option>
          ))}
        </optgroup>
        <optgroup label="About the lead">
          {facts.map((fact) => (
            <option key={fact} value={`fact:${fact}`}>
              {factWords[fact]}
            </option>
          ))}
        </optgroup>
        <option value="text">The same words each time</option>
      </Select>
      {from && "text" in from && (
        <TextInput
          aria-label={`${label}: words`}
          className="!w-40 !py-0.5 text-sm"
          disabled={disabled}
          maxLength={500}
          value={from.text}
          onChange={(event) => onChange({ text: event.target.value })}
        />
      )}
    </span>
  );
}
