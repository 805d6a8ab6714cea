import { clsx } from "clsx";

import { BandMark } from "../../../kit/ui";
import { stamp } from "../lib/time";
import type { Column, Row } from "./words";

const head = "sticky top-0 z-[1] bg-oat";

/** Conversations, a line each: when, how it ended, what it is worth, and the chosen answers. */
export function Table({
  rows,
  columns,
  picked,
  onPick,
}: {
  rows: Row[];
  columns: Column[];
  picked: string | undefined;
  onPick: (id: string) => void;
}) {
  return (
    <table className="w-max min-w-full border-separate border-spacing-0 text-sm">
      <thead>
        <tr className="text-left text-xs text-soft [&_th]:border-b [&_th]:border-line [&_th]:py-1.5 [&_th]:pr-4 [&_th]:font-normal">
          <th className={clsx(head, "left-0 z-[2] w-28 pl-4")}>Began</th>
          <th className={head}>Ended</th>
          <th className={head}>Score</th>
          {columns.map((column) => (
            <th key={column.id} className={head} title={column.key}>
              {column.label}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr
            key={row.id}
            aria-selected={row.id === picked}
            data-row={row.id}
            onClick={() => onPick(row.id)}
            className={clsx(
              "h-8 cursor-pointer [&_td]:border-b [&_td]:border-hair [&_td]:py-1 [&_td]:pr-4",
              row.id === picked ? "bg-picked" : "hover:bg-paper/60",
            )}
          >
            <td
              className={clsx(
                "sticky left-0 pl-4 whitespace-nowrap",
                row.id === picked ? "bg-picked shadow-[inset_3px_0_0_var(--ink)]" : "bg-oat",
              )}
            >
              <button type="button" className="figures hover:underline" onClick={() => onPick(row.id)}>
                {stamp(row.started_at)}
              </button>
            </td>
            <td className={clsx("max-w-52 truncate", row.how !== "ended" && "text-soft")} title={row.ended}>
              {row.ended}
            </td>
            <td className="whitespace-nowrap figures">
              {row.total !== null && row.total !== undefined && (
                <b className="mr-2 inline-block w-6 text-right font-semibold">{row.total}</b>
              )}
              {row.band && <BandMark label={row.band} rank={row.band_rank ?? 0} />}
              {row.unfinished && <span className="ml-1.5 text-xs text-amber">unfinished</span>}
            </td>
            {row.erased ? (
              <td colSpan={Math.max(columns.length, 1)} className="text-soft">
                erased
              </td>
            ) : (
              columns.map((column) => <Cell key={column.id} row={row} column={column} />)
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const NUMBERS = new Set(["whole_number", "quantity", "scale", "money"]);

function Cell({ row, column }: { row: Row; column: Column }) {
  const value = row.values[column.id];
  const why = row.open[column.id];
  return (
    <td
      className={clsx("max-w-56 truncate", NUMBERS.has(column.type) && "text-right figures")}
      title={value ?? (why ? `${column.label}: ${why}` : undefined)}
    >
      {value ?? (why && <span className="text-xs text-soft">{why}</span>)}
    </td>
  );
}
