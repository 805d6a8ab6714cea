import { clsx } from "clsx";

import type { Schemas } from "../../../api";
import { formWords, rate, stateWords, whereWords } from "./words";

type View = Schemas["PlacementView"];

/** The workspace's placements in their order: of several that fit a page, the first goes. */
export function PlacementTable({
  rows,
  dialogue,
  picked,
  onPick,
}: {
  rows: View[];
  dialogue: string;
  picked: string | null;
  onPick: (id: string) => void;
}) {
  return (
    <table className="w-full text-sm">
      <thead>
        <tr className="border-b border-line text-left text-xs text-soft [&_th]:py-1 [&_th]:font-normal">
          <th className="w-7" aria-label="Place" />
          <th>Placement</th>
          <th>Form</th>
          <th className="w-28 text-right whitespace-nowrap">Shown, 7 days</th>
          <th className="w-20 text-right">Started</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row, place) => {
          const state = stateWords(row);
          const other = row.dialogue !== dialogue;
          return (
            <tr
              key={row.id}
              aria-selected={row.id === picked}
              className={clsx("border-b border-hair align-top", row.id === picked && "bg-picked")}
            >
              <td className="py-1.5 pl-1 text-xs text-soft tabular-nums">{place + 1}</td>
              <td className="py-1.5 pr-3">
                <button
                  type="button"
                  aria-pressed={row.id === picked}
                  className={clsx("text-left font-semibold", other && "text-soft")}
                  onClick={() => onPick(row.id)}
                >
                  {row.draft.name}
                </button>
                {state.words && <span className={clsx("ml-2 text-xs", state.tone)}>{state.words}</span>}
                <div className="text-xs text-soft">{other ? `of “${row.title}”` : whereWords(row.draft)}</div>
              </td>
              <td className="py-1.5 pr-3 whitespace-nowrap">{formWords[row.draft.form].label}</td>
              <td className="py-1.5 text-right tabular-nums">{row.shown.toLocaleString("en-GB")}</td>
              <td className="py-1.5 pr-1 text-right tabular-nums" title={`${row.started} started, ${row.filed} filed`}>
                {rate(row.started, row.shown)}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
