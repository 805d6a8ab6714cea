import { useMutation } from "@tanstack/react-query";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Select } from "../../../kit/ui";
import { TerritoryForm } from "./TerritoryForm";
import type { Body } from "./TerritoryForm";
import { took } from "./kept";
import { groupsOf } from "./territories";

type Settings = Schemas["RoutingView"];
type View = Schemas["TerritoriesView"];

const bodyOf = (shown: View | null): Body =>
  shown
    ? {
        key: shown.table.key,
        revision: shown.revision,
        name: shown.table.name,
        rows: shown.table.rows ?? [],
        otherwise: shown.table.otherwise,
      }
    : { name: "", rows: [] };

/** Tables of territories: which queue has which postcodes, countries or places. They change without a release. */
export function TerritoryPanel({
  settings,
  picked,
  onPick,
}: {
  settings: Settings;
  picked: string | null;
  onPick: (key: string | null) => void;
}) {
  const [editing, setEditing] = useState<Body | null>(null);
  // The table that was taken out last, so that it can be put back.
  const [gone, setGone] = useState<View | null>(null);
  const tables = settings.territories;
  const shown = tables.find((known) => known.table.key === picked) ?? tables[0] ?? null;
  const put = useMutation({
    mutationFn: (body: Body) => ask(client.POST("/api/routing/territories", { body })),
    onSuccess: (found, body) => {
      took(found);
      setEditing(null);
      setGone(null);
      const made = found.territories.find(({ table }) => table.key === body.key || table.name === body.name.trim());
      onPick(made?.table.key ?? null);
    },
  });
  const drop = useMutation({
    mutationFn: ({ table, revision }: View) =>
      ask(
        client.DELETE("/api/routing/territories/{table}", {
          params: { path: { table: table.key }, query: { revision } },
        }),
      ),
    onSuccess: (found, view) => {
      took(found);
      setGone(view);
      onPick(null);
    },
  });
  const name = (key: string | null | undefined) =>
    settings.queues.find((queue) => queue.key === key)?.name ?? `${key}, which is not there`;
  const open = (body: Body) => {
    put.reset();
    drop.reset();
    setEditing(body);
  };
  return (
    <section aria-labelledby="territories" className="mt-6">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <h2 id="territories" className="font-serif text-base font-semibold">
          Territories
        </h2>
        {tables.length > 1 && !editing && (
          <Select
            aria-label="Table of territories"
            className="!py-0 !text-xs"
            value={shown?.table.key}
            onChange={(event) => onPick(event.target.value)}
          >
            {tables.map(({ table }) => (
              <option key={table.key} value={table.key}>
                {table.name}
              </option>
            ))}
          </Select>
        )}
        {!editing && shown && (
          <>
            <Button look="quiet" onClick={() => open(bodyOf(shown))}>
              Change
            </Button>
            <Button look="quiet" disabled={drop.isPending} onClick={() => drop.mutate(shown)}>
              Take out
            </Button>
          </>
        )}
        {!editing && (
          <Button look="quiet" disabled={settings.queues.length === 0} onClick={() => open(bodyOf(null))}>
            + table
          </Button>
        )}
      </div>
      {drop.error && (
        <p role="alert" className="text-sm text-clay">
          {drop.error.message}
        </p>
      )}
      {gone && (
        <p role="status" className="text-sm">
          {gone.table.name} is taken out.{" "}
          <Button look="quiet" onClick={() => put.mutate({ ...bodyOf(gone), revision: undefined })}>
            Put it back
          </Button>
        </p>
      )}
      {editing ? (
        <TerritoryForm
          key={editing.key ?? "@new"}
          body={editing}
          queues={settings.queues}
          busy={put.isPending}
          error={put.error}
          onKeep={(body) => put.mutate(body)}
          onCancel={() => setEditing(null)}
        />
      ) : shown ? (
        <>
          <p className="mt-0.5 mb-1 text-xs text-soft">
            {tables.length === 1 && `${shown.table.name}. `}The longest beginning that fits goes first.{" "}
            {shown.serves.length > 0 ? `Serves ${shown.serves.join(", ")}.` : "No rule looks anything up in it yet."}
          </p>
          <dl className="text-sm">
            {groupsOf(shown.table.rows).map((group) => (
              <div key={group.queue} className="flex gap-3 border-b border-hair py-1">
                <dt className="w-40 shrink-0 font-semibold">{name(group.queue)}</dt>
                <dd className="max-h-24 overflow-auto break-words">{group.text}</dd>
              </div>
            ))}
            <div className="flex gap-3 py-1">
              <dt className="w-40 shrink-0 font-semibold">
                {shown.table.otherwise ? name(shown.table.otherwise) : "The next rules"}
              </dt>
              <dd className="text-soft">every place without a row</dd>
            </div>
          </dl>
          {shown.hidden.length > 0 && (
            <p className="text-xs text-clay">
              Never found, because the same stands before it:{" "}
              {shown.hidden.map((place) => shown.table.rows?.[place]?.starts).join(", ")}.
            </p>
          )}
        </>
      ) : (
        <p className="text-xs text-soft">
          A table says which queue has which postcodes, countries or towns. A rule can look its leads up in it instead
          of naming a queue.
        </p>
      )}
    </section>
  );
}
