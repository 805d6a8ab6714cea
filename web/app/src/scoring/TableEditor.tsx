import { Button, Labelled, Select, TextInput } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import type { Field } from "../outline/names";
import { optionChoices, typeLabels } from "../outline/names";
import { Points } from "./Points";
import type { Criterion, TableRow } from "./card";

/** Fields whose values a table of points can tell apart. */
export const inTables = (field: Field) =>
  ["choice", "choices", "whole_number", "quantity", "money", "scale", "date"].includes(field.type);

type Table = Extract<Criterion["gives"], { table: unknown }>["table"];

const isListed = (field: Field | undefined) => field?.type === "choice" || field?.type === "choices";

/** Rows for a field to begin with. */
export function firstRows(field: Field | undefined): TableRow[] {
  if (isListed(field))
    return (field?.options ?? []).slice(0, 1).map((option) => ({ values: [option.key], points: 10 }));
  return [{ from: field?.type === "date" ? "2027-01-01" : "1", points: 10 }];
}

/** Points by ranges or values of one field. */
export function TableEditor({
  table,
  fields,
  onChange,
}: {
  table: Table;
  fields: Field[];
  onChange: (table: Table) => void;
}) {
  const { draft } = useShownDraft();
  const field = fields.find((known) => known.key === table.field);
  const listed = isListed(field) && field ? optionChoices(draft.dialogue, field) : [];
  const set = (place: number, row: TableRow) =>
    onChange({ ...table, rows: table.rows.map((known, at) => (at === place ? row : known)) });
  const used = new Set(table.rows.flatMap((row) => row.values ?? []));
  const add = (): TableRow => {
    const left = listed.find(([key]) => !used.has(key));
    if (left) return { values: [left[0]], points: 10 };
    return { from: table.rows.at(-1)?.below ?? table.rows.at(-1)?.from ?? "1", points: 10 };
  };
  return (
    <>
      <Labelled label="Field">
        {(id) => (
          <Select
            id={id}
            value={table.field}
            onChange={(event) =>
              onChange({
                field: event.target.value,
                rows: firstRows(fields.find((known) => known.key === event.target.value)),
              })
            }
          >
            {!field && <option value={table.field}>{table.field}</option>}
            {fields.map((known) => (
              <option key={known.id} value={known.key}>
                {known.label}, {typeLabels[known.type]}
              </option>
            ))}
          </Select>
        )}
      </Labelled>
      {table.rows.map((row, place) => (
        // oxlint-disable-next-line react/no-array-index-key -- rows of a table have no other name
        <div key={place} className="flex flex-wrap items-center gap-x-3 gap-y-1 py-1 text-sm">
          {listed.length > 0 ? (
            listed.map(([key, label]) => (
              <label key={key} className="flex items-center gap-1">
                <input
                  type="checkbox"
                  className="size-5"
                  checked={row.values?.includes(key) ?? false}
                  onChange={(event) => {
                    const values = event.target.checked
                      ? [...(row.values ?? []), key]
                      : (row.values ?? []).filter((known) => known !== key);
                    if (values.length > 0) set(place, { ...row, values });
                  }}
                />
                {label}
              </label>
            ))
          ) : (
            <>
              <Range label="from" value={row.from} onChange={(from) => set(place, { ...row, from })} />
              <Range label="below" value={row.below} onChange={(below) => set(place, { ...row, below })} />
            </>
          )}
          <Points
            label={`Points of row ${place + 1}`}
            value={row.points}
            className="!border-line"
            onChange={(points) => set(place, { ...row, points })}
          />
          {table.rows.length > 1 && (
            <Button
              look="quiet"
              className="!text-clay"
              aria-label={`Take out row ${place + 1}`}
              onClick={() => onChange({ ...table, rows: table.rows.filter((_, at) => at !== place) })}
            >
              ×
            </Button>
          )}
        </div>
      ))}
      <Button look="quiet" className="-ml-1.5" onClick={() => onChange({ ...table, rows: [...table.rows, add()] })}>
        + row
      </Button>
    </>
  );
}

function Range({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string | null | undefined;
  onChange: (value: string | null) => void;
}) {
  return (
    <label className="flex items-center gap-1.5 text-xs text-soft">
      {label}
      <TextInput
        className="!w-24 !py-0.5 figures"
        placeholder="no end"
        defaultValue={value ?? ""}
        key={value ?? "none"}
        onBlur={(event) => {
          const typed = event.target.value.trim();
          if (typed !== (value ?? "")) onChange(typed || null);
        }}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
      />
    </label>
  );
}
