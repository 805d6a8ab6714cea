import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "@tanstack/react-router";
import { useState } from "react";

import type { Schemas } from "../../../../api";
import { ask, client } from "../../../../api";
import { Button, Notice } from "../../../../kit/ui";
import { BottomLine } from "../../frame/BottomLine";
import { mappingQuery, meQuery, queries } from "../../lib/query";
import { ago } from "../../lib/time";
import { useAttempt } from "../../lib/useAttempt";
import { useRested } from "../../lib/useRested";
import { ColumnList } from "./ColumnList";
import { PropertyTable } from "./PropertyTable";
import { faultWords } from "./words";

const objects = ["company", "contact", "lead"] as const;

/** What goes where at a customer system or a sheet, held against the newest lead while one says it. */
export function MappingPage() {
  const { destination } = useParams({ from: "/frame/settings/destinations/$destination" });
  const kept = useQuery(mappingQuery(destination));
  const administers = useQuery(meQuery).data?.administers ?? false;
  const [changed, setChanged] = useState<Schemas["DestinationMapping"] | null>(null);
  const [busy, setBusy] = useState(false);
  const { says, attempt } = useAttempt();
  const at = { params: { path: { destination } } };
  const rested = useRested(changed, 250);
  const tried = useQuery({
    queryKey: ["mapping", destination, "tried", rested],
    enabled: rested !== null && kept.data !== undefined,
    placeholderData: (before: Schemas["MappingView"] | undefined) => before,
    queryFn: () =>
      ask(
        client.POST("/api/destinations/{destination}/mapping", {
          ...at,
          body: { revision: kept.data?.revision ?? 0, mapping: rested ?? {}, keep: false },
        }),
      ),
  });
  const view = changed ? (tried.data ?? kept.data) : kept.data;
  const mapping = changed ?? kept.data?.mapping ?? {};
  const put = (next: Schemas["MappingView"]) => queries.setQueryData(mappingQuery(destination).queryKey, next);
  const keep = async () => {
    setBusy(true);
    const body = { revision: kept.data?.revision ?? 0, mapping, keep: true };
    const done = await attempt(() => ask(client.POST("/api/destinations/{destination}/mapping", { ...at, body })));
    setBusy(false);
    if (!done) return;
    await queries.invalidateQueries({ queryKey: mappingQuery(destination).queryKey, exact: true });
    setChanged(null);
  };
  const read = async () => {
    setBusy(true);
    const next = await attempt(() => ask(client.POST("/api/destinations/{destination}/schema", at)));
    setBusy(false);
    if (next) put(next);
  };
  if (kept.error) return <Notice tone="wrong">{kept.error.message}</Notice>;
  if (!view) return <p className="p-4 text-soft">Reading what goes where</p>;
  const customer = view.kind === "customer_system";
  const stopping = view.faults.filter((fault) => faultWords(fault.what).stops).length;
  const rules = mapping.rules ?? [];
  return (
    <>
      <main className="min-h-0 grow overflow-auto px-4 pt-4 pb-6">
        <p className="text-sm">
          <Link to="/settings/destinations" className="text-spruce hover:underline">
            Destinations
          </Link>
        </p>
        <div className="flex flex-wrap items-center gap-2">
          <h1 className="font-serif text-lg font-semibold">{view.name}: what goes where</h1>
          {administers && (
            <span className="ml-auto flex flex-wrap gap-1.5">
              {customer && (
                <Button disabled={busy} onClick={() => void read()}>
                  {view.schema ? "Read its properties anew" : "Read its properties"}
                </Button>
              )}
              {changed && <Button onClick={() => setChanged(null)}>Drop the changes</Button>}
              <Button look="primary" disabled={!changed || busy} onClick={() => void keep()}>
                Keep
              </Button>
            </span>
          )}
        </div>
        {says && (
          <p role="alert" className="mt-1 text-clay">
            {says}
          </p>
        )}
        {tried.error && changed && <p className="mt-1 text-clay">{tried.error.message}</p>}
        <p className="max-w-prose text-soft">
          {customer
            ? "A value that a lead does not have is left out, never written empty. What is kept counts from the next sending on."
            : "Each lead is a row; an update changes its row. A value that a lead does not have leaves its cell alone."}
          {view.schema_read_at && ` Its properties were read ${ago(view.schema_read_at)}.`}
        </p>
        {customer && !view.schema && (
          <p className="mt-3">
            {administers
              ? "Read first which properties the customer system has: address and token are tried with it."
              : "An administrator reads which properties the customer system has."}
          </p>
        )}
        {customer && view.suggested.length > 0 && administers && (
          <p className="mt-2 border border-line bg-oat px-3 py-1.5 text-sm">
            {view.suggested.length === 1 ? "One more property goes" : `${view.suggested.length} more properties go`} by
            names that are known here.
            <Button look="quiet" onClick={() => setChanged({ ...mapping, rules: [...rules, ...view.suggested] })}>
              Fill {view.suggested.length === 1 ? "it" : "them"} in
            </Button>
          </p>
        )}
        {customer &&
          view.schema &&
          objects.map((holds) => (
            <PropertyTable
              key={holds}
              holds={holds}
              view={view}
              mapping={mapping}
              disabled={!administers}
              onChange={setChanged}
            />
          ))}
        {!customer && <ColumnList view={view} mapping={mapping} disabled={!administers} onChange={setChanged} />}
      </main>
      <BottomLine right={changed ? "Not kept yet" : rules.length > 0 ? "Kept" : ""}>
        <span>
          <b>{rules.length}</b> {customer ? "mapped" : rules.length === 1 ? "column" : "columns"}
        </span>
        {stopping > 0 && (
          <span className="text-clay">
            <b>{stopping}</b> to mend
          </span>
        )}
      </BottomLine>
    </>
  );
}
