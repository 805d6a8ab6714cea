import { Select } from "../../../../kit/ui";
import type { Field } from "../names";
import { typeLabels } from "../names";

/** Adds one of the fields that are not there yet; nothing where there is none. */
export function AddField({ label, open, onAdd }: { label: string; open: Field[]; onAdd: (key: string) => void }) {
  if (open.length === 0) return null;
  return (
    <Select
      aria-label={`${label}: add a field`}
      className="!w-24 !border-transparent !text-spruce"
      value=""
      onChange={(event) => onAdd(event.target.value)}
    >
      <option value="">+ field</option>
      {open.map((field) => (
        <option key={field.id} value={field.key}>
          {field.label}, {typeLabels[field.type]}
        </option>
      ))}
    </Select>
  );
}
