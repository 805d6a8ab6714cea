import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Select } from "../../../kit/ui";
import { queries } from "../lib/query";
import { useAttempt } from "../lib/useAttempt";

const spans = [
  { days: 7, words: "the last 7 days" },
  { days: 30, words: "the last 30 days" },
  { days: 90, words: "the last 90 days" },
  { days: 365, words: "the last year" },
];

/** Most that go at once; the server counts the rest for the next time. */
const atOnce = 5_000;

/** Earlier leads, sent after one has seen how many. */
export function Backfill({ destination, onSent }: { destination: string; onSent: () => Promise<unknown> }) {
  const [days, setDays] = useState(30);
  const [count, setCount] = useState<Schemas["BackfillCount"] | null>(null);
  const [sent, setSent] = useState(0);
  const { says, attempt } = useAttempt();
  const run = (send: boolean) =>
    attempt(() =>
      ask(
        client.POST("/api/destinations/{destination}/backfill", {
          params: { path: { destination } },
          body: { days, send },
        }),
      ),
    );
  const look = async () => {
    setSent(0);
    setCount(await run(false));
  };
  const send = async () => {
    const done = await run(true);
    if (!done) return;
    setCount(null);
    setSent(Math.min(done.created + done.changed, atOnce));
    await queries.invalidateQueries({ queryKey: ["sendings", destination] });
    await onSent();
  };
  const going = count ? count.created + count.changed : 0;
  return (
    <details className="mt-4">
      <summary className="cursor-pointer text-sm text-spruce">Send earlier leads</summary>
      <div className="mt-1 text-sm">
        <label>
          Leads filed in{" "}
          <Select
            className="!py-0.5 text-sm"
            value={days}
            onChange={(event) => {
              setDays(Number(event.target.value));
              setCount(null);
            }}
          >
            {spans.map((span) => (
              <option key={span.days} value={span.days}>
                {span.words}
              </option>
            ))}
          </Select>
        </label>{" "}
        <Button onClick={() => void look()}>Count them</Button>
        {count && (
          <p role="status" className="mt-1">
            <b>{count.created}</b> never went there, <b>{count.changed}</b> changed since they did,{" "}
            <b>{count.skipped}</b> are there as they are or on their way.
          </p>
        )}
        {going > 0 && (
          <Button look="primary" className="mt-1" onClick={() => void send()}>
            Send {going > atOnce ? `the first ${atOnce} of ${going}` : going}
          </Button>
        )}
        {sent > 0 && (
          <p role="status" className="mt-1">
            {sent} {sent === 1 ? "lead is" : "leads are"} on their way.
          </p>
        )}
        {says && (
          <p role="alert" className="mt-1 text-clay">
            {says}
          </p>
        )}
      </div>
    </details>
  );
}
