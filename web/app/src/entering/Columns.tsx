import type { Schemas } from "../../../api";
import { Select } from "../../../kit/ui";

/** A CSV file of one's own, by a button. */
export function PickFile({ onPick }: { onPick: (file: File) => void }) {
  return (
    <label className="mt-4 block">
      <span className="block text-xs text-soft">A CSV file, its first line naming the columns; 5,000 rows at most</span>
      <input
        type="file"
        accept=".csv,text/csv,text/plain"
        className="mt-1 text-soft file:mr-3 file:rounded-md file:border file:border-line file:bg-paper file:px-3 file:py-1 file:text-sm file:font-medium file:text-ink"
        onChange={(event) => {
          const picked = event.target.files?.[0];
          if (picked) onPick(picked);
          event.target.value = "";
        }}
      />
    </label>
  );
}

/** What each column of a file holds, with what stands in it. */
export function Columns({
  columns,
  fields,
  mapping,
  onChange,
}: {
  columns: Schemas["Column"][];
  fields: { key: string; label: string }[];
  mapping: Record<number, string>;
  onChange: (mapping: Record<number, string>) => void;
}) {
  return (
    <table className="w-full border-collapse text-sm">
      <thead>
        <tr className="border-b border-line text-left text-xs text-soft [&_th]:pr-3 [&_th]:pb-1 [&_th]:font-normal">
          <th>Column</th>
          <th>Holds</th>
          <th>In it</th>
        </tr>
      </thead>
      <tbody>
        {columns.map((column, place) => (
          // oxlint-disable-next-line react/no-array-index-key -- columns are told apart by their place
          <tr key={place} className="border-b border-line [&_td]:py-1 [&_td]:pr-3">
            <td>{column.name || `Column ${place + 1}`}</td>
            <td>
              <Select
                aria-label={`${column.name || `Column ${place + 1}`} holds`}
                className="w-52 !py-0.5 text-sm"
                value={mapping[place] ?? ""}
                onChange={(event) => {
                  const next = { ...mapping };
                  if (event.target.value) next[place] = event.target.value;
                  else delete next[place];
                  onChange(next);
                }}
              >
                <option value="">nothing that is kept</option>
                {fields.map((field) => (
                  <option key={field.key} value={field.key}>
                    {field.label}
                  </option>
                ))}
              </Select>
            </td>
            <td className="w-1/2 max-w-0 truncate text-soft">{column.words.slice(0, 6).join(" · ")}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
