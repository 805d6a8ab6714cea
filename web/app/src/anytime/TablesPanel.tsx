import type { Schemas } from "../../../api";
import { Button, TextInput } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { keyOf } from "../outline/make";
import { readRows } from "./rows";
import { useAutosave } from "../outline/edit/useAutosave";

type Table = Schemas["Table"];

/** Rows and columns that one table may have. */
const LIMIT = { rows: 1_000, columns: 20 };

/** Tables the author keeps, read by LOOKUP(value, table, column). */
export function TablesPanel() {
  const { draft, change } = useShownDraft();
  const {
    value,
    change: edit,
    flush,
  } = useAutosave<Table[]>(draft.dialogue.tables ?? [], (tables) => change({ op: "set_tables", tables }));
  const set = (place: number, table: Table, now = false) =>
    edit(
      value.map((known, at) => (at === place ? table : known)),
      now,
    );
  const add = () => {
    const key = keyOf(
      "prices",
      value.map((table) => table.key),
    );
    edit(
      [
        ...value,
        {
          key,
          columns: ["product", "price", "link"],
          rows: [["frozen", "4.10", "https://example.com/frozen"]],
        },
      ],
      true,
    );
  };
  return (
    <div className="max-w-4xl" onBlur={flush}>
      <h2 className="font-serif text-lg font-semibold">Tables</h2>
      <p className="mb-3 text-sm text-soft">
        Rows that formulas read: <code className="font-mono text-xs">LOOKUP(temperature, prices, price)</code> looks the
        first column up. A column whose cells are all numbers is a number. Rows copied from a spreadsheet can be pasted
        into any cell.
      </p>
      {value.length === 0 && <p className="mb-2">No table yet. Prices by product are a good first one.</p>}
      {value.map((table, place) => (
        // oxlint-disable-next-line react/no-array-index-key -- a table's key is being edited
        <section key={place} className="border-t border-line py-3">
          <div className="mb-2 flex items-center gap-2">
            <TextInput
              aria-label="Name in formulas"
              className="!w-44 font-mono text-xs"
              maxLength={30}
              value={table.key}
              onChange={(event) =>
                set(place, {
                  ...table,
                  key:
                    event.target.value
                      .toLowerCase()
                      .replace(/[^a-z0-9_]/g, "_")
                      .replace(/^[^a-z]+/, "") || "table",
                })
              }
            />
            <span className="text-xs text-soft">
              {table.rows.length} row{table.rows.length === 1 ? "" : "s"}
            </span>
            <Button
              look="quiet"
              className="ml-auto !text-clay"
              onClick={() =>
                edit(
                  value.filter((_, at) => at !== place),
                  true,
                )
              }
            >
              Take the table out
            </Button>
          </div>
          <TableGrid table={table} onChange={(next, now) => set(place, next, now)} />
        </section>
      ))}
      <Button onClick={add}>Add a table</Button>
    </div>
  );
}

function TableGrid({ table, onChange }: { table: Table; onChange: (table: Table, now?: boolean) => void }) {
  const cell = (row: number, column: number, text: string) =>
    onChange({
      ...table,
      rows: table.rows.map((known, at) =>
        at === row ? known.map((value, one) => (one === column ? text : value)) : known,
      ),
    });
  const paste = (row: number, column: number, text: string): boolean => {
    const pasted = readRows(text);
    if (pasted.length < 2 && (pasted[0]?.length ?? 0) < 2) return false;
    const width = Math.min(
      LIMIT.columns,
      Math.max(table.columns.length, column + Math.max(...pasted.map((r) => r.length))),
    );
    const columns = Array.from({ length: width }, (_, at) => table.columns[at] ?? `column_${at + 1}`);
    const height = Math.min(LIMIT.rows, Math.max(table.rows.length, row + pasted.length));
    const rows = Array.from({ length: height }, (_, at) =>
      columns.map((__, one) => pasted[at - row]?.[one - column] ?? table.rows[at]?.[one] ?? ""),
    );
    onChange({ ...table, columns, rows }, true);
    return true;
  };
  const box = "w-full border-0 bg-transparent px-1.5 py-1 font-serif";
  return (
    <div className="overflow-auto">
      <table className="border-collapse text-sm">
        <thead>
          <tr>
            {table.columns.map((column, at) => (
              // oxlint-disable-next-line react/no-array-index-key -- a column's key is being edited
              <th key={at} className="border border-line bg-oat p-0">
                <input
                  aria-label={`Column ${at + 1}`}
                  className="w-full border-0 bg-transparent px-1.5 py-1 font-mono text-xs"
                  value={column}
                  onChange={(event) =>
                    onChange({
                      ...table,
                      columns: table.columns.map((known, one) => (one === at ? event.target.value : known)),
                    })
                  }
                />
              </th>
            ))}
            <th className="pl-2">
              <Button
                look="quiet"
                className="!text-xs"
                disabled={table.columns.length >= LIMIT.columns}
                onClick={() =>
                  onChange(
                    {
                      ...table,
                      columns: [...table.columns, `column_${table.columns.length + 1}`],
                      rows: table.rows.map((row) => [...row, ""]),
                    },
                    true,
                  )
                }
              >
                Add a column
              </Button>
            </th>
          </tr>
        </thead>
        <tbody>
          {table.rows.map((row, at) => (
            // oxlint-disable-next-line react/no-array-index-key -- rows have no other name
            <tr key={at}>
              {row.map((value, one) => (
                // oxlint-disable-next-line react/no-array-index-key -- cells have no other name
                <td key={one} className="border border-line p-0">
                  <input
                    aria-label={`${table.columns[one] ?? "cell"}, row ${at + 1}`}
                    className={box}
                    value={value}
                    onChange={(event) => cell(at, one, event.target.value)}
                    onPaste={(event) => {
                      if (paste(at, one, event.clipboardData.getData("text/plain"))) event.preventDefault();
                    }}
                  />
                </td>
              ))}
              <td className="pl-2">
                <Button
                  look="quiet"
                  className="!text-xs !text-clay"
                  aria-label={`Take out row ${at + 1}`}
                  onClick={() => onChange({ ...table, rows: table.rows.filter((_, other) => other !== at) }, true)}
                >
                  ×
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Button
        look="quiet"
        className="-ml-1.5"
        disabled={table.rows.length >= LIMIT.rows}
        onClick={() => onChange({ ...table, rows: [...table.rows, table.columns.map(() => "")] }, true)}
      >
        Add a row
      </Button>
    </div>
  );
}
