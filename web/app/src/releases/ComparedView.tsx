import { useQuery } from "@tanstack/react-query";
import { clsx } from "clsx";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { useShownDraft } from "../dialogue/DialogueScreen";

type Change = Schemas["Change"];

const changeWords: Record<Change, string> = {
  same: "",
  added: "added",
  removed: "taken out",
  reworded: "reworded",
  rerouted: "leads elsewhere",
  rescored: "other points",
  moved: "moved",
  changed: "changed",
};

const tones: Record<Change, string> = {
  same: "",
  added: "border-spruce",
  removed: "border-clay",
  reworded: "border-amber",
  rerouted: "border-indigo",
  rescored: "border-amber",
  moved: "border-line",
  changed: "border-amber",
};

/** Two versions as rows of the outline, with what became of each. */
export function ComparedView({ from, to }: { from: number; to: number | null }) {
  const { dialogue, draft } = useShownDraft();
  const [all, setAll] = useState(false);
  const { data, error } = useQuery({
    queryKey: ["compare", dialogue, from, to, to === null ? draft.revision : 0],
    queryFn: () =>
      ask(
        client.GET("/api/dialogues/{dialogue}/releases/compare", {
          params: { path: { dialogue }, query: { from, ...(to === null ? {} : { to }) } },
        }),
      ),
  });
  if (error) return <p className="mt-2 text-clay">{error.message}</p>;
  if (!data) return <p className="mt-2 text-soft">Comparing</p>;
  const changed = data.rows.filter((row) => row.change !== "same");
  const counts = new Map<Change, number>();
  for (const row of [...changed, ...data.others]) counts.set(row.change, (counts.get(row.change) ?? 0) + 1);
  if (changed.length === 0 && data.others.length === 0) return <p className="mt-2">They are the same.</p>;
  return (
    <div className="mt-2 max-w-5xl">
      <p className="mb-2 flex gap-4 text-sm">
        {[...counts].map(([change, count]) => (
          <span key={change}>
            <b className="font-semibold">{count}</b> {changeWords[change]}
          </span>
        ))}
        <label className="ml-auto flex items-center gap-1.5">
          <input type="checkbox" className="size-5" checked={all} onChange={(event) => setAll(event.target.checked)} />
          rows without a change as well
        </label>
      </p>
      <div className="border-t border-line bg-paper">
        {data.rows
          .filter((row) => all || row.change !== "same")
          .map((row) => (
            <div
              key={`${row.kind}:${row.id}:${row.change}`}
              className={clsx(
                "flex items-start gap-3 border-b border-hair py-1.5 pr-3",
                row.kind === "section" && "bg-oat/60",
              )}
              style={{ paddingLeft: 8 + row.depth * 22 }}
            >
              <span className="w-16 shrink-0 pt-0.5 text-xs text-soft">{row.label}</span>
              <ChangedWords change={row.change} before={row.before} after={row.after} />
            </div>
          ))}
      </div>
      {data.others.length > 0 && (
        <>
          <h3 className="mt-5 mb-1 text-sm font-semibold">Beside the outline</h3>
          <div className="border-t border-line bg-paper">
            {data.others.map((other, place) => (
              // oxlint-disable-next-line react/no-array-index-key -- changes are listed in this order
              <div key={place} className="flex items-start gap-3 border-b border-hair py-1.5 pr-3 pl-2">
                <span className="w-16 shrink-0 pt-0.5 text-xs text-soft">{other.part}</span>
                <ChangedWords change={other.change} before={other.before} after={other.after} />
              </div>
            ))}
          </div>
        </>
      )}
    </div>
  );
}

function ChangedWords({ change, before, after }: { change: Change; before?: string | null; after?: string | null }) {
  return (
    <>
      <span className={clsx("min-w-0 grow border-l-2 pl-2 font-serif", tones[change] || "border-transparent")}>
        {before && before !== after && <del className="block text-clay decoration-clay/50">{before}</del>}
        {after && <span className={clsx("block", change === "added" && "text-spruce")}>{after}</span>}
      </span>
      <span className="w-28 shrink-0 text-right text-xs text-soft">{changeWords[change]}</span>
    </>
  );
}
