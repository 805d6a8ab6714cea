import { Labelled, Select, TextInput } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { ConditionEditor } from "../outline/edit/ConditionEditor";
import { firstComparison } from "../outline/edit/operators";
import { useAutosave } from "../outline/edit/useAutosave";
import { FormulaText } from "../text/TextBox";
import { TableEditor, firstRows, inTables } from "./TableEditor";
import type { Card, Criterion, Dimension, MustHave, RuleOut } from "./card";
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

export function MustEditor({ must, card, onChange }: Kept & { must: MustHave }) {
  const keep = (next: MustHave) => onChange(changeMust(card, next));
  return (
    <>
      <ConditionEditor condition={must.holds} onChange={(holds) => keep({ ...must, holds })} />
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
      <ConditionEditor condition={out.holds} onChange={(holds) => keep({ ...out, holds })} />
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
