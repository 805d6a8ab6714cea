import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { Button, Select, TextInput } from "../../../kit/ui";
import { lookedForQuery } from "../lib/query";
import type { Look, LookField, Test } from "./looks";
import { COLUMNS, lookFields, opWords, opsOf, sortFields, takesValue, testWords, withTest, withoutTest } from "./looks";

/** What a list is looked at by: filters over any field, columns of choice, what it is sorted by. */
export function LookRow({ look, onChange }: { look: Look; onChange: (look: Look) => void }) {
  const from = useQuery(lookedForQuery);
  if (from.error) return <p className="py-1.5 text-sm text-clay">{from.error.message}</p>;
  if (!from.data) return <p className="py-1.5 text-sm text-soft">Reading what leads can be looked for by</p>;
  const fields = lookFields(from.data);
  const label = (id: string) => fields.find((field) => field.id === id)?.label ?? "A field that is gone";
  const columns = look.columns ?? [];
  const free = fields.filter((field) => !field.id.startsWith("@") && !columns.includes(field.id));
  return (
    <div role="group" aria-label="Filters, columns and order" className="border-b border-line py-1.5 pr-4 text-sm">
      <div className="flex flex-wrap items-center gap-x-2 gap-y-1">
        {(look.tests ?? []).map((test, place) => (
          <Chip
            key={`${test.field} ${test.op}`}
            words={testWords(test, fields)}
            onTakeOut={() => onChange(withoutTest(look, place))}
          />
        ))}
        <AddTest fields={fields} onAdd={(test) => onChange(withTest(look, test))} />
      </div>
      <div className="mt-1 flex flex-wrap items-center gap-x-2 gap-y-1">
        <span className="text-xs text-soft">Columns</span>
        {columns.map((id) => (
          <Chip
            key={id}
            words={label(id)}
            onTakeOut={() => onChange({ ...look, columns: columns.filter((known) => known !== id) })}
          />
        ))}
        {columns.length < COLUMNS && (
          <Select
            aria-label="Add a column"
            className="!py-0.5"
            value=""
            onChange={(event) => onChange({ ...look, columns: [...columns, event.target.value] })}
          >
            <option value="">add one</option>
            {free.map((field) => (
              <option key={field.id} value={field.id}>
                {field.label}
              </option>
            ))}
          </Select>
        )}
        <span className="ml-4 text-xs text-soft">Order</span>
        <Select
          aria-label="Order"
          className="!py-0.5"
          value={look.sort?.by ?? ""}
          onChange={(event) => {
            const by = event.target.value;
            onChange({ ...look, sort: by ? { by, down: look.sort?.down ?? true } : null });
          }}
        >
          <option value="">to call</option>
          {sortFields(fields).map((field) => (
            <option key={field.id} value={field.id}>
              by {field.label}
            </option>
          ))}
        </Select>
        {look.sort && (
          <Button
            look="quiet"
            onClick={() => look.sort && onChange({ ...look, sort: { ...look.sort, down: !look.sort.down } })}
          >
            {look.sort.down ? "highest or newest first" : "lowest or oldest first"}
          </Button>
        )}
      </div>
    </div>
  );
}

function Chip({ words, onTakeOut }: { words: string; onTakeOut: () => void }) {
  return (
    <span className="flex items-center rounded-sm border border-line bg-paper pl-2">
      {words}
      <button
        type="button"
        aria-label={`Take out: ${words}`}
        className="grid size-6 place-items-center text-soft hover:text-clay"
        onClick={onTakeOut}
      >
        ×
      </button>
    </span>
  );
}

function AddTest({ fields, onAdd }: { fields: LookField[]; onAdd: (test: Test) => void }) {
  const [draft, setDraft] = useState<{ field: string; op: Test["op"]; value: string } | null>(null);
  const field = fields.find((known) => known.id === draft?.field);
  const choose = (id: string) => {
    const chosen = fields.find((known) => known.id === id);
    const op = chosen && opsOf(chosen)[0];
    setDraft(op ? { field: id, op, value: "" } : null);
  };
  const ready = draft && (!takesValue(draft.op) || draft.value !== "" || isListed(field, draft.op));
  return (
    <form
      className="flex flex-wrap items-center gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        if (!draft || !ready) return;
        onAdd({ field: draft.field, op: draft.op, ...(takesValue(draft.op) && { values: [valueOf(draft, field)] }) });
        setDraft(null);
      }}
    >
      <Select
        aria-label="Filter by"
        className="!py-0.5"
        value={draft?.field ?? ""}
        onChange={(event) => choose(event.target.value)}
      >
        <option value="">filter by…</option>
        {fields.map((known) => (
          <option key={known.id} value={known.id}>
            {known.label}
          </option>
        ))}
      </Select>
      {draft && field && (
        <>
          <Select
            aria-label="How"
            className="!py-0.5"
            value={draft.op}
            onChange={(event) => {
              const op = opsOf(field).find((known) => known === event.target.value);
              if (op) setDraft({ ...draft, op });
            }}
          >
            {opsOf(field).map((op) => (
              <option key={op} value={op}>
                {opWords(op, field.holds)}
              </option>
            ))}
          </Select>
          {takesValue(draft.op) && (
            <ValueBox field={field} value={draft.value} onChange={(value) => setDraft({ ...draft, value })} />
          )}
          <Button type="submit" className="!py-0.5" disabled={!ready}>
            Add
          </Button>
        </>
      )}
    </form>
  );
}

const isListed = (field: LookField | undefined, op: Test["op"]): boolean =>
  takesValue(op) && (field?.holds === "yes_no" || (field?.holds === "listed" && field.options.length > 0));

/** What was chosen; the first of a list where it was left as it stood. */
function valueOf(draft: { value: string }, field: LookField | undefined): string {
  if (field?.holds === "yes_no") return draft.value || "yes";
  if (field?.holds === "listed") {
    const chosen = field.options.find((option) => optionKey(option.key) === draft.value) ?? field.options[0];
    return chosen?.key ?? "";
  }
  return draft.value.trim();
}

/** Nobody's key is empty, which a list of options cannot tell from nothing chosen. */
const optionKey = (key: string): string => `=${key}`;

function ValueBox({ field, value, onChange }: { field: LookField; value: string; onChange: (value: string) => void }) {
  if (field.holds === "listed" || field.holds === "yes_no") {
    const options =
      field.holds === "yes_no"
        ? [
            { value: "yes", label: "yes" },
            { value: "no", label: "no" },
          ]
        : field.options.map((option) => ({ value: optionKey(option.key), label: option.label }));
    return (
      <Select
        aria-label="Value"
        className="!max-w-44 !py-0.5"
        value={value || options[0]?.value}
        onChange={(event) => onChange(event.target.value)}
      >
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.label}
          </option>
        ))}
      </Select>
    );
  }
  const type = field.holds === "date" ? "date" : field.holds === "number" ? "number" : "text";
  return (
    <TextInput
      aria-label="Value"
      autoFocus
      type={type}
      step="any"
      maxLength={200}
      className="!w-36 !py-0.5"
      value={value}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}
