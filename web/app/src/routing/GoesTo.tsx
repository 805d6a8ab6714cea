import type { Schemas } from "../../../api";
import { Labelled, Select } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import type { Rule } from "./rules";
import { whereTypes } from "./territories";

/** Where a rule sends leads: to a queue, or to the one that a table of territories names. */
export function GoesTo({
  rule,
  queues,
  tables,
  onChange,
}: {
  rule: Rule;
  queues: Schemas["QueueSetting"][];
  tables: Schemas["TerritoriesView"][];
  onChange: (rule: Rule) => void;
}) {
  const { draft } = useShownDraft();
  const fields = (draft.dialogue.fields ?? []).filter((field) => whereTypes.includes(field.type));
  const by = rule.table;
  const there = by
    ? tables.some(({ table }) => table.key === by.table)
    : queues.some((queue) => queue.key === rule.queue);
  const { table: _table, queue: _queue, ...rest } = rule;
  const choose = (value: string) => {
    const [kind, key = ""] = value.split(/:(.*)/s);
    if (kind === "queue") return onChange({ ...rest, queue: key });
    const field = by?.field ?? fields[0]?.key;
    if (field) onChange({ ...rest, table: { table: key, field } });
  };
  return (
    <>
      <Labelled label="Goes to">
        {(id) => (
          <Select
            id={id}
            value={by ? `table:${by.table}` : `queue:${rule.queue ?? ""}`}
            onChange={(event) => choose(event.target.value)}
          >
            {!there && (
              <option value={by ? `table:${by.table}` : `queue:${rule.queue ?? ""}`}>
                {(by ? by.table : rule.queue) || "no queue"}, which is not there
              </option>
            )}
            {queues.map((queue) => (
              <option key={queue.key} value={`queue:${queue.key}`}>
                {queue.name}
              </option>
            ))}
            {tables.length > 0 && fields.length > 0 && (
              <optgroup label="The queue of a territory, by">
                {tables.map(({ table }) => (
                  <option key={table.key} value={`table:${table.key}`}>
                    {table.name}
                  </option>
                ))}
              </optgroup>
            )}
          </Select>
        )}
      </Labelled>
      {by && (
        <Labelled label="Looks up" hint="Where no row fits, the next rules are tried.">
          {(id) => (
            <Select
              id={id}
              value={by.field}
              onChange={(event) => onChange({ ...rest, table: { ...by, field: event.target.value } })}
            >
              {!fields.some((field) => field.key === by.field) && <option value={by.field}>{by.field}</option>}
              {fields.map((field) => (
                <option key={field.key} value={field.key}>
                  {field.label}
                </option>
              ))}
            </Select>
          )}
        </Labelled>
      )}
    </>
  );
}
