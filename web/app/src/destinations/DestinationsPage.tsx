import { useQuery } from "@tanstack/react-query";
import { clsx } from "clsx";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { Button, Notice } from "../../../kit/ui";
import { BottomLine } from "../frame/BottomLine";
import { destinationsQuery, meQuery } from "../lib/query";
import { DestinationForm } from "./DestinationForm";
import { DestinationPane } from "./DestinationPane";
import { kindWords, stateOf, toneLooks } from "./words";

/** Where leads are sent, how that goes, and what went there. */
export function DestinationsPage() {
  const { data, error, isPending } = useQuery({ ...destinationsQuery, refetchInterval: 5_000 });
  const me = useQuery(meQuery).data;
  const [picked, setPicked] = useState<string | null>(null);
  const [adding, setAdding] = useState(false);
  const [secret, setSecret] = useState<string | null>(null);
  const rows = data ?? [];
  const shown = adding ? undefined : (rows.find((row) => row.set.id === picked) ?? rows[0]);
  const failing = rows.filter((row) => stateOf(row).tone === "wrong").length;
  const parked = rows.reduce((sum, row) => sum + row.parked, 0);
  return (
    <>
      <div className="flex min-h-0 grow max-lg:flex-col max-lg:overflow-auto">
        <main className="min-w-0 grow overflow-auto px-4 pt-4 pb-6 max-lg:shrink-0">
          <div className="mb-2 flex items-center">
            <h1 className="font-serif text-lg font-semibold">Destinations</h1>
            {me?.administers && (
              <Button className="ml-auto" onClick={() => setAdding(true)}>
                New destination
              </Button>
            )}
          </div>
          <p className="mb-3 max-w-prose text-soft">
            Each lead goes to every destination that gets its event: at least once, in order, tried for five days where
            it fails.
          </p>
          {error && <Notice tone="wrong">{error.message}</Notice>}
          {isPending && <p className="text-soft">Reading where leads are sent</p>}
          {data && rows.length === 0 && !adding && (
            <p>
              Leads are sent nowhere yet.{" "}
              {me?.administers ? (
                <Button look="quiet" onClick={() => setAdding(true)}>
                  Add the first destination
                </Button>
              ) : (
                "An administrator adds destinations."
              )}
            </p>
          )}
          {rows.length > 0 && (
            <table className="w-full border-collapse">
              <thead>
                <tr className="border-b border-line text-left text-xs text-soft [&_th]:pr-3 [&_th]:pb-1.5 [&_th]:font-normal">
                  <th>Name</th>
                  <th>Kind</th>
                  <th>How it is</th>
                  <th className="text-right">On their way</th>
                  <th className="text-right">Kept aside</th>
                </tr>
              </thead>
              <tbody>
                {rows.map((row) => (
                  <Row
                    key={row.set.id}
                    row={row}
                    picked={row === shown}
                    onPick={() => {
                      setPicked(row.set.id ?? null);
                      setAdding(false);
                    }}
                  />
                ))}
              </tbody>
            </table>
          )}
        </main>
        <aside
          aria-label="Destination"
          className="w-[520px] shrink-0 overflow-auto border-l border-line bg-paper px-5 py-4 max-lg:w-full max-lg:border-t"
        >
          {secret && <NewSecret secret={secret} onHave={() => setSecret(null)} />}
          {adding ? (
            <DestinationForm
              onDone={(made) => {
                setAdding(false);
                setPicked(made.id);
                setSecret(made.secret ?? null);
              }}
              onCancel={() => setAdding(false)}
            />
          ) : shown ? (
            <DestinationPane
              key={shown.set.id}
              row={shown}
              administers={me?.administers ?? false}
              onSecret={setSecret}
            />
          ) : (
            <p className="text-soft">Pick a destination to see what went there.</p>
          )}
        </aside>
      </div>
      <BottomLine>
        <span>
          <b>{rows.length}</b> destination{rows.length === 1 ? "" : "s"}
        </span>
        {failing > 0 && (
          <span className="text-clay">
            <b>{failing}</b> failing
          </span>
        )}
        {parked > 0 && (
          <span>
            <b>{parked}</b> kept aside
          </span>
        )}
      </BottomLine>
    </>
  );
}

function Row({ row, picked, onPick }: { row: Schemas["DestinationRow"]; picked: boolean; onPick: () => void }) {
  const state = stateOf(row);
  return (
    <tr
      aria-selected={picked}
      onClick={onPick}
      className={clsx(
        "h-9 cursor-pointer border-b border-line [&_td]:pr-3",
        picked ? "bg-paper shadow-[inset_3px_0_0_var(--ink)]" : "hover:bg-paper/60",
      )}
    >
      <td className="pl-3">
        <button type="button" className="text-left font-semibold hover:underline" onClick={onPick}>
          {row.set.name}
        </button>
      </td>
      <td>{kindWords[row.set.kind].label}</td>
      <td className={toneLooks[state.tone]}>{state.words}</td>
      <td className="text-right tabular-nums">{row.waiting || <span className="text-soft">none</span>}</td>
      <td className="text-right tabular-nums">{row.parked || <span className="text-soft">none</span>}</td>
    </tr>
  );
}

function NewSecret({ secret, onHave }: { secret: string; onHave: () => void }) {
  return (
    <div role="status" className="mb-4 border border-line bg-oat px-4 py-3">
      <p>The receiver verifies with this secret. It is shown only now.</p>
      <p className="mt-1 font-mono text-[12.5px] break-all">{secret}</p>
      <Button className="mt-2" onClick={onHave}>
        I have it
      </Button>
    </div>
  );
}
