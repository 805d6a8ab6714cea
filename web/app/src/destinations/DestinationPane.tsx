import { Link } from "@tanstack/react-router";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button } from "../../../kit/ui";
import { destinationsQuery, queries } from "../lib/query";
import { useAttempt } from "../lib/useAttempt";
import { Backfill } from "./Backfill";
import { DestinationForm } from "./DestinationForm";
import { Scrolled } from "./Scrolled";
import { SendingLog } from "./SendingLog";
import { bothWords, eventWords, kindWords, mapped, pretty, stateOf, toneLooks } from "./words";

/** One destination: what it is, trying it, and its log. */
export function DestinationPane({
  row,
  administers,
  onSecret,
}: {
  row: Schemas["DestinationRow"];
  administers: boolean;
  onSecret: (secret: string | null) => void;
}) {
  const [editing, setEditing] = useState(false);
  const [tested, setTested] = useState<Schemas["Tested"] | null>(null);
  const [testing, setTesting] = useState(false);
  const { says, attempt } = useAttempt();
  const destination = row.set.id ?? "";
  const at = { params: { path: { destination } } };
  const reload = () => queries.invalidateQueries({ queryKey: destinationsQuery.queryKey });
  const act = async (what: Schemas["DestinationAct"]) => {
    await attempt(() => ask(client.POST("/api/destinations/{destination}", { ...at, body: { act: what } })));
    await reload();
  };
  const test = async () => {
    setTesting(true);
    setTested(await attempt(() => ask(client.POST("/api/destinations/{destination}/test", at))));
    setTesting(false);
  };
  const rotate = async () => {
    const made = await attempt(() => ask(client.POST("/api/destinations/{destination}/secret", at)));
    if (made) onSecret(made.secret ?? null);
    await reload();
  };
  const state = stateOf(row);
  if (editing) {
    return <DestinationForm known={row.set} onDone={() => setEditing(false)} onCancel={() => setEditing(false)} />;
  }
  return (
    <>
      <div className="flex items-baseline gap-2">
        <h2 className="font-serif text-lg font-semibold">{row.set.name}</h2>
        <span className={`ml-auto text-sm font-medium ${toneLooks[state.tone]}`}>{state.words}</span>
      </div>
      <p className="text-soft">
        {kindWords[row.set.kind].label} at <span className="font-mono text-[12.5px] break-all">{row.set.address}</span>
      </p>
      {row.paused_why && (
        <p role="alert" className="mt-1 text-clay">
          It is paused: {row.paused_why}.
        </p>
      )}
      {row.before_until && <p className="mt-1 text-soft">{bothWords(row.before_until)}</p>}
      <ul className="mt-1 text-sm">
        {row.set.events.map((event) => (
          <li key={event}>{eventWords[event]}</li>
        ))}
      </ul>
      {administers && (
        <div className="mt-3 flex flex-wrap gap-1.5">
          <Button disabled={testing} onClick={() => void test()}>
            {testing ? "Sending a test" : "Send a test"}
          </Button>
          <Button onClick={() => setEditing(true)}>Change</Button>
          <Button onClick={() => void act(row.paused_at ? "go_on" : "pause")}>
            {row.paused_at ? "Let it go on" : "Pause"}
          </Button>
          {mapped(row.set.kind) && (
            <Link
              to="/settings/destinations/$destination"
              params={{ destination }}
              className="rounded-md border border-line bg-paper px-3 py-1 text-sm font-medium hover:border-soft"
            >
              What goes where
            </Link>
          )}
          {row.set.kind === "webhook" && <Button onClick={() => void rotate()}>New secret</Button>}
          <Button
            look="warn"
            title="Nothing goes there any more; what waits is kept aside"
            onClick={() => void act("take_out")}
          >
            Take out
          </Button>
        </div>
      )}
      {says && (
        <p role="alert" className="mt-2 text-clay">
          {says}
        </p>
      )}
      {administers && <Backfill destination={destination} onSent={reload} />}
      {tested && <TestView tested={tested} onClose={() => setTested(null)} />}
      <SendingLog destination={destination} parked={row.parked} administers={administers} onChange={reload} />
    </>
  );
}

/** Request and answer of a test, as they were. */
function TestView({ tested, onClose }: { tested: Schemas["Tested"]; onClose: () => void }) {
  return (
    <div role="status" className="mt-3 border border-line bg-oat px-3 py-2 text-sm">
      <div className="flex">
        <p className={tested.arrived ? "font-medium text-spruce" : "font-medium text-clay"}>
          {tested.arrived ? "The test arrived" : "The test did not arrive"}
          {tested.answer.status ? `: answered ${tested.answer.status}` : ""} in {tested.answer.took_ms} ms.
        </p>
        <Button look="quiet" className="ml-auto" onClick={onClose}>
          Close
        </Button>
      </div>
      <p className="mt-1 text-xs text-soft">
        {tested.method === "GET"
          ? "Request: it only asks what the customer system holds, and writes nothing"
          : "Request, with your newest lead and marked as a test"}
      </p>
      <Scrolled label="Request" className="max-h-56">
        {`${tested.method} ${tested.address}\n${tested.headers.join("\n")}\n\n${pretty(tested.body)}`.trim()}
      </Scrolled>
      <p className="mt-1 text-xs text-soft">Answer</p>
      <Scrolled label="Answer" className="max-h-32">
        {pretty(tested.answer.answer) || "It held nothing."}
      </Scrolled>
    </div>
  );
}
