import { Button, Select } from "../../../../kit/ui";
import { useShownDraft } from "../../dialogue/DialogueScreen";
import { FormulaText } from "../../text/TextBox";
import type { Turn } from "../names";
import { typeLabels } from "../names";

type WorkOut = Extract<Turn, { kind: "work_out" }>;

/** True for a counter: what it counts as while it is missing can be said beside it. */
const readsItself = (fill: WorkOut["fills"][number]) =>
  new RegExp(`(?<![\\p{L}\\p{N}_])${fill.field}(?![\\p{L}\\p{N}_])`, "u").test(fill.formula.replaceAll(/"[^"]*"/g, ""));

export function WorkOutEditor({ turn, onChange }: { turn: WorkOut; onChange: (turn: Turn, now?: boolean) => void }) {
  const { draft } = useShownDraft();
  const fields = draft.dialogue.fields ?? [];
  const set = (place: number, part: Partial<WorkOut["fills"][number]>, now = false) =>
    onChange({ ...turn, fills: turn.fills.map((known, at) => (at === place ? { ...known, ...part } : known)) }, now);
  return (
    <>
      {turn.fills.map((fill, place) => (
        // oxlint-disable-next-line react/no-array-index-key -- a fill has no other name
        <div key={place} className="mb-1.5 flex items-start gap-2 [&>span]:pt-1">
          <Select
            aria-label="Field"
            value={fill.field}
            onChange={(event) => set(place, { field: event.target.value }, true)}
          >
            {fields.map((field) => (
              <option key={field.id} value={field.key}>
                {field.label}, {typeLabels[field.type]}
              </option>
            ))}
          </Select>
          <span className="text-soft">=</span>
          <FormulaText
            label="Formula"
            autoFocus={place === 0}
            value={fill.formula}
            onChange={(formula) => set(place, { formula })}
          />
          {(fill.starts !== undefined || readsItself(fill)) && (
            <>
              <span className="whitespace-nowrap text-soft">starting at</span>
              <FormulaText
                label="Starting at"
                value={fill.starts ?? ""}
                onChange={(starts) => set(place, { starts: starts.trim() ? starts : undefined })}
              />
            </>
          )}
          <Button
            look="quiet"
            className="!text-clay"
            onClick={() => onChange({ ...turn, fills: turn.fills.filter((_, at) => at !== place) }, true)}
          >
            Take out
          </Button>
        </div>
      ))}
      <Button
        look="quiet"
        className="-ml-1.5"
        disabled={fields.length === 0}
        onClick={() =>
          onChange({ ...turn, fills: [...turn.fills, { field: fields[0]?.key ?? "", formula: "1" }] }, true)
        }
      >
        Add a formula
      </Button>
    </>
  );
}
