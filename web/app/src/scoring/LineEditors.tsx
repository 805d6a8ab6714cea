import { Button, Labelled, Select, TextInput } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { ConditionEditor } from "../outline/edit/ConditionEditor";
import type { Condition } from "../outline/edit/operators";
import { firstComparison } from "../outline/edit/operators";
import { useAutosave } from "../outline/edit/useAutosave";
import type { Field } from "../outline/names";
import { optionChoices, typeLabels } from "../outline/names";
import { FormulaText } from "../text/TextBox";
import { Points } from "./Points";
import type { Card, Criterion, Dimension, MustHave, RuleOut, TableRow } from "./card";
import { changeCriterion, changeDimension, changeMust, changeOut } from "./card";

type Kept = { card: Card; onChange: (card: Card) => void };

/** A whole number that may be left out. */
function End({
  label,
  value,
  onChange,
}: {
  label: string;
  value: number | null | undefined;
  onChange: (value: number | null) => void;
}) {
  return (
    <label className="flex items-center gap-1.5 text-xs text-soft">
      {label}
      <TextInput
        className="!w-16 !py-0.5 text-right figures"
        inputMode="numeric"
        placeholder="none"
        defaultValue={value ?? ""}
        key={value ?? "none"}
        onBlur={(event) => {
          const typed = event.target.value.replace("−", "-").trim();
          const next = typed === "" ? null : Number(typed);
          if (next !== null && !Number.isInteger(next)) event.target.value = String(value ?? "");
          else if (next !== (value ?? null)) onChange(next);
        }}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
      />
    </label>
  );
}

export function DimensionEditor({ dimension, card, onChange }: Kept & { dimension: Dimension }) {
  const keep = (next: Dimension) => onChange(changeDimension(card, dimension.id, () => next));
  const { value, change, flush } = useAutosave(dimension.title, (title) => keep({ ...dimension, title }));
  return (
    <div className="flex flex-wrap items-center gap-4">
      <TextInput
        aria-label="Name of the dimension"
        autoFocus
        maxLength={60}
        className="!w-56"
        value={value}
        onBlur={flush}
        onChange={(event) => change(event.target.value)}
      />
      <End label="counts at least" value={dimension.floor} onChange={(floor) => keep({ ...dimension, floor })} />
      <End label="at most" value={dimension.ceiling} onChange={(ceiling) => keep({ ...dimension, ceiling })} />
    </div>
  );
}

type How = "when" | "table" | "formula";

const howOf = (criterion: Criterion): How =>
  "when" in criterion.gives ? "when" : "table" in criterion.gives ? "table" : "formula";

/** Fields whose values a table of points can tell apart. */
const inTables = (field: Field) =>
  ["choice", "choices", "whole_number", "quantity", "money", "scale", "date"].includes(field.type);

export function CriterionEditor({ criterion, card, onChange }: Kept & { criterion: Criterion }) {
  const { draft } = useShownDraft();
  const keep = (next: Criterion) => onChange(changeCriterion(card, criterion.id, () => next));
  const fields = (draft.dialogue.fields ?? []).filter(inTables);
  const { gives } = criterion;
  const another = (how: How): Criterion["gives"] => {
    const what = fields[0]?.key ?? "@page";
    if (how === "formula") return { formula: "0" };
    if (how === "table") return { table: { field: what, rows: firstRows(fields[0]) } };
    return { when: { holds: { compare: firstComparison(draft.dialogue, what) }, points: 10 } };
  };
  return (
    <>
      <Labelled label="Gives points">
        {(id) => (
          <Select
            id={id}
            value={howOf(criterion)}
            onChange={(event) => keep({ ...criterion, gives: another(event.target.value as How) })}
          >
            <option value="when">when a condition holds</option>
            <option value="table" disabled={fields.length === 0}>
              by ranges or values of a field
            </option>
            <option value="formula">by a formula</option>
          </Select>
        )}
      </Labelled>
      {"when" in gives && (
        <ConditionEditor
          condition={gives.when.holds}
          onChange={(holds) => keep({ ...criterion, gives: { when: { ...gives.when, holds } } })}
        />
      )}
      {"table" in gives && (
        <TableEditor
          table={gives.table}
          fields={fields}
          onChange={(table) => keep({ ...criterion, gives: { table } })}
        />
      )}
      {"formula" in gives && (
        <FormulaPoints formula={gives.formula} onChange={(formula) => keep({ ...criterion, gives: { formula } })} />
      )}
      <OwnWords label={criterion.label} onChange={(label) => keep({ ...criterion, label })} />
    </>
  );
}

/** The author’s own words for a line. */
function OwnWords({ label, onChange }: { label: string | null | undefined; onChange: (label: string | null) => void }) {
  const { value, change, flush } = useAutosave(label ?? "", (words) => onChange(words.trim() || null));
  return (
    <Labelled label="In your words">
      {(id) => (
        <TextInput
          id={id}
          maxLength={120}
          placeholder="as the condition says"
          className="!w-80"
          value={value}
          onBlur={flush}
          onChange={(event) => change(event.target.value)}
        />
      )}
    </Labelled>
  );
}

function FormulaPoints({ formula, onChange }: { formula: string; onChange: (formula: string) => void }) {
  const { value, change, flush } = useAutosave(formula, onChange);
  return (
    // Leaving the formula keeps it.
    <div onBlur={flush}>
      <FormulaText label="Formula for the points" autoFocus={false} value={value} onChange={change} />
      <p className="mt-1 text-xs text-soft">Rounded to whole points, halves away from zero.</p>
    </div>
  );
}

type Table = Extract<Criterion["gives"], { table: unknown }>["table"];

const isListed = (field: Field | undefined) => field?.type === "choice" || field?.type === "choices";

/** Rows for a field to begin with. */
function firstRows(field: Field | undefined): TableRow[] {
  if (isListed(field))
    return (field?.options ?? []).slice(0, 1).map((option) => ({ values: [option.key], points: 10 }));
  return [{ from: field?.type === "date" ? "2027-01-01" : "1", points: 10 }];
}

function TableEditor({ table, fields, onChange }: { table: Table; fields: Field[]; onChange: (table: Table) => void }) {
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

function Holds({ holds, onChange }: { holds: Condition; onChange: (holds: Condition) => void }) {
  return <ConditionEditor condition={holds} onChange={onChange} />;
}

export function MustEditor({ must, card, onChange }: Kept & { must: MustHave }) {
  const keep = (next: MustHave) => onChange(changeMust(card, next));
  return (
    <>
      <Holds holds={must.holds} onChange={(holds) => keep({ ...must, holds })} />
      <Labelled label="Without it, at most">
        {(id) => (
          <Select id={id} value={must.cap} onChange={(event) => keep({ ...must, cap: event.target.value })}>
            {card.bands.map((band) => (
              <option key={band.id} value={band.id}>
                {band.label}
              </option>
            ))}
          </Select>
        )}
      </Labelled>
      <OwnWords label={must.label} onChange={(label) => keep({ ...must, label })} />
    </>
  );
}

export function OutEditor({ out, card, onChange }: Kept & { out: RuleOut }) {
  const { draft } = useShownDraft();
  const { language } = draft.dialogue;
  const keep = (next: RuleOut) => onChange(changeOut(card, next));
  const { value, change, flush } = useAutosave(out.reason[language] ?? "", (reason) =>
    keep({ ...out, reason: { ...out.reason, [language]: reason } }),
  );
  return (
    <>
      <Holds holds={out.holds} onChange={(holds) => keep({ ...out, holds })} />
      <Labelled label="Why">
        {(id) => (
          <TextInput
            id={id}
            maxLength={200}
            className="!w-96"
            value={value}
            onBlur={flush}
            onChange={(event) => change(event.target.value)}
          />
        )}
      </Labelled>
      <Labelled label="Who reads it">
        {(id) => (
          <Select
            id={id}
            value={out.told ? "told" : "rep"}
            onChange={(event) => keep({ ...out, told: event.target.value === "told" })}
          >
            <option value="rep">only the rep</option>
            <option value="told">the prospect too, right after the filing</option>
          </Select>
        )}
      </Labelled>
      <OwnWords label={out.label} onChange={(label) => keep({ ...out, label })} />
    </>
  );
}
