import { clsx } from "clsx";

import type { Schemas } from "../../../api";
import { BandMark } from "../../../kit/ui";
import type { LeadFilter } from "../lib/query";
import { ago, clockThere, due, stamp } from "../lib/time";
import { isOpen, nextWords, statusWords, tryWords } from "./words";

/** A line of the list of leads. */
export function LeadLine({
  row,
  show,
  shown,
  picked,
  onOpen,
  onPick,
}: {
  row: Schemas["LeadRow"];
  show: LeadFilter;
  /** True for the one beside the list. */
  shown: boolean;
  /** Whether it is one of several; nothing while one is not picking. */
  picked: boolean | null;
  onOpen: () => void;
  onPick: () => void;
}) {
  return (
    <tr
      aria-selected={shown}
      onClick={onOpen}
      className={clsx(
        "h-9 cursor-pointer border-b border-line [&_td]:py-1",
        shown ? "bg-paper shadow-[inset_3px_0_0_var(--ink)]" : "hover:bg-paper/60",
      )}
    >
      {picked !== null && (
        <td className="pl-3" onClick={(event) => event.stopPropagation()}>
          <input
            type="checkbox"
            className="size-4 align-middle"
            aria-label={`Pick ${row.name ?? "the lead without a name"}`}
            checked={picked}
            onChange={onPick}
          />
        </td>
      )}
      <td className="pl-3 whitespace-nowrap text-soft figures">
        <WhenWords row={row} />
      </td>
      {row.cells.length === 0 && (
        <td className="truncate max-md:hidden">
          {isOpen(row.status) ? nextWords(row) : statusWords[row.status]}
          <span className="ml-1.5 text-xs text-soft figures">{tryWords(row)}</span>
        </td>
      )}
      <td className="truncate pr-2">
        <button type="button" className="text-left font-semibold hover:underline" onClick={onOpen}>
          {row.name ?? "No name given"}
        </button>
        <span className="ml-1.5 text-xs text-soft">{row.company ?? ""}</span>
        {row.tags.length > 0 && <span className="ml-1.5 text-xs text-spruce">#{row.tags.join(" #")}</span>}
        {row.unfinished && <span className="ml-1.5 text-xs text-amber">unfinished</span>}
      </td>
      {row.cells.length === 0 && (
        <td className="truncate pr-3 max-md:hidden" title={row.wants}>
          {row.wants}
        </td>
      )}
      {row.cells.map((cell, place) => (
        // oxlint-disable-next-line react/no-array-index-key -- a cell is its column
        <td key={place} className="truncate pr-3 max-md:hidden" title={cell}>
          {cell}
        </td>
      ))}
      <td className="whitespace-nowrap figures">
        {row.total !== null && row.total !== undefined && (
          <b className="mr-2 inline-block w-6 text-right font-semibold">{row.total}</b>
        )}
        {row.band && <BandMark label={row.band} rank={row.band_rank} />}
      </td>
      {show !== "mine" && (
        <td className="truncate" title={row.queue ?? undefined}>
          {row.mine ? "you" : (row.owner ?? "nobody yet")}
        </td>
      )}
    </tr>
  );
}

/** When to call: once calling hours begin where they are, by the target where nobody tried yet, else the moment of what comes next; a closed one's filing. */
function WhenWords({ row }: { row: Schemas["LeadRow"] }) {
  if (row.callable_at) {
    const begins = `Outside calling hours where they are, until ${stamp(row.callable_at)}`;
    const there = clockThere(row.zone);
    return (
      <span title={`${begins}; filed ${ago(row.filed_at)}`}>
        {due(row.callable_at)}
        {there && <span className="ml-1.5 text-xs text-amber">{there} there</span>}
      </span>
    );
  }
  const at = row.status === "new" ? row.call_by : row.next_at;
  if (row.status === "new" && !row.call_by) return <span title={`Filed ${ago(row.filed_at)}`}>any time</span>;
  if (!isOpen(row.status) || !at) return <span title={`Filed ${stamp(row.filed_at)}`}>{ago(row.filed_at)}</span>;
  const words = due(at);
  const why = row.status === "new" ? "Call by" : nextWords(row);
  return (
    <span
      className={clsx("font-medium", words.endsWith("late") ? "text-clay" : "text-ink")}
      title={`${why} ${stamp(at)}; filed ${ago(row.filed_at)}`}
    >
      {words}
    </span>
  );
}
