import { Labelled } from "../../../../kit/ui";
import type { Field } from "../names";
import { words } from "../names";

/** Which of a field's options an ask offers; none ticked off means all. */
export function OnlyOptions({
  field,
  only,
  language,
  onChange,
}: {
  field: Field;
  only: string[];
  language: string;
  onChange: (only: string[]) => void;
}) {
  const options = field.options ?? [];
  const offered = (key: string) => only.length === 0 || only.includes(key);
  const toggle = (key: string) => {
    const next = options.map((option) => option.key).filter((known) => offered(known) !== (known === key));
    if (next.length > 0) onChange(next.length === options.length ? [] : next);
  };
  return (
    <Labelled label="Offers here">
      {(id) => (
        <div id={id} className="flex flex-wrap gap-x-4 gap-y-1 pt-1">
          {options.map((option) => (
            <label key={option.key} className="flex items-center gap-1.5">
              <input type="checkbox" checked={offered(option.key)} onChange={() => toggle(option.key)} />
              <span className="font-serif">{words(option.label, language)}</span>
            </label>
          ))}
        </div>
      )}
    </Labelled>
  );
}
