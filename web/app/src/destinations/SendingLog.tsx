import { useInfiniteQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Select } from "../../../kit/ui";
import { queries, sendingsQuery } from "../lib/query";
import { ago, stamp } from "../lib/time";
import { useAttempt } from "../lib/useAttempt";
import { Scrolled } from "./Scrolled";
import { attemptWords, pretty, stateWords } from "./words";

type State = Schemas["SendingState"];

const looks: Record<State, string> = { waiting: "text-amber", done: "text-spruce", parked: "text-clay" };

/** What went to a destination, newest first, and sending again what was kept aside. */
export function SendingLog({
  destination,
  parked,
  administers,
  onChange,
}: {
  destination: string;
  parked: number;
  administers: boolean;
  onChange: () => Promise<unknown>;
}) {
  const [state, setState] = useState<State | "">("");
  const pages = useInfiniteQuery({ ...sendingsQuery(destination, state), refetchInterval: 5_000 });
  const { says, attempt } = useAttempt();
  const rows = pages.data?.pages.flatMap((page) => page.sendings) ?? [];
  const again = async (sending?: string) => {
    const path = { params: { path: { destination } }, body: sending ? { sending } : {} };
    await attempt(() => ask(client.POST("/api/destinations/{destination}/again", path)));
    await queries.invalidateQueries({ queryKey: ["sendings", destination] });
    await onChange();
  };
  const pick = async (sending: string, outside_id: string) => {
    const path = { params: { path: { destination } }, body: { sending, outside_id } };
    await attempt(() => ask(client.POST("/api/destinations/{destination}/choice", path)));
    await queries.invalidateQueries({ queryKey: ["sendings", destination] });
    await onChange();
  };
  return (
    <section className="mt-5" aria-labelledby="log-head">
      <div className="mb-1 flex items-center gap-2">
        <h3 id="log-head" className="text-xs font-semibold text-soft">
          What went there
        </h3>
        <Select
          aria-label="Show"
          className="ml-auto !py-0.5 text-sm"
          value={state}
          onChange={(event) => setState(event.target.value as State | "")}
        >
          <option value="">Everything</option>
          <option value="waiting">{stateWords.waiting}</option>
          <option value="done">{stateWords.done}</option>
          <option value="parked">{stateWords.parked}</option>
        </Select>
        {administers && parked > 1 && <Button onClick={() => void again()}>Send all {parked} again</Button>}
      </div>
      {says && <p className="text-clay">{says}</p>}
      {pages.error && <p className="text-clay">{pages.error.message}</p>}
      {pages.isPending && <p className="text-soft">Reading the log</p>}
      {pages.data && rows.length === 0 && <p className="text-soft">Nothing{state ? " that stands there" : " yet"}.</p>}
      <ol>
        {rows.map((row) => (
          <li key={row.id} className="border-b border-line py-1">
            <details>
              <summary className="flex cursor-pointer items-baseline gap-2 text-sm">
                <span className={`w-22 shrink-0 font-medium ${looks[row.state]}`}>{stateWords[row.state]}</span>
                <span className="w-24 shrink-0 font-mono text-xs">{row.event}</span>
                <span className="truncate">{row.name ?? "No name given"}</span>
                <span className="ml-auto shrink-0 text-xs text-soft" title={stamp(row.made_at)}>
                  {ago(row.made_at)}
                </span>
              </summary>
              <div className="mt-1 mb-2 pl-2 text-sm">
                <p>
                  <Link to="/leads/$lead" params={{ lead: row.lead }} className="text-spruce hover:underline">
                    Open the lead
                  </Link>
                  {administers && row.state === "parked" && (
                    <Button look="quiet" onClick={() => void again(row.id)}>
                      Send it again as the lead is today
                    </Button>
                  )}
                </p>
                {row.choose && (
                  <Choose
                    row={row}
                    choose={row.choose}
                    administers={administers}
                    onPick={(id) => void pick(row.id, id)}
                  />
                )}
                <ul>
                  {row.attempts.map((attempt) => (
                    <li key={attempt.at}>
                      <span className="text-soft figures">{stamp(attempt.at)}</span> {attemptWords(attempt)}
                      {attempt.status && attempt.status >= 300 && attempt.answer && (
                        <span className="text-soft">: {attempt.answer.slice(0, 200)}</span>
                      )}
                      {attempt.status && attempt.status < 300 && row.body && attempt.answer.includes("\n") && (
                        <span className="block pl-2 font-mono text-xs whitespace-pre-wrap text-soft">
                          {attempt.answer.split("\n").toReversed().join("\n")}
                        </span>
                      )}
                    </li>
                  ))}
                  {row.attempts.length === 0 && <li className="text-soft">Not tried yet</li>}
                </ul>
                {row.body && (
                  <Scrolled label="What was sent" className="mt-1 max-h-56 bg-oat p-2">
                    {pretty(row.body)}
                  </Scrolled>
                )}
              </div>
            </details>
          </li>
        ))}
      </ol>
      {pages.hasNextPage && (
        <Button look="quiet" disabled={pages.isFetchingNextPage} onClick={() => void pages.fetchNextPage()}>
          Show older ones
        </Button>
      )}
    </section>
  );
}

/** Records there that could be the lead's: a person says which. */
function Choose({
  row,
  choose,
  administers,
  onPick,
}: {
  row: Schemas["SendingRow"];
  choose: Schemas["RecordChoice"];
  administers: boolean;
  onPick: (id: string) => void;
}) {
  return (
    <div className="my-1 border border-line bg-oat px-3 py-2">
      <p>
        {choose.candidates.length} {choose.object === "company" ? "companies" : `${choose.object}s`} there could be{" "}
        {row.name ?? "theirs"}. Which one is it?
      </p>
      <ul>
        {choose.candidates.map((candidate) => (
          <li key={candidate.id} className="flex items-baseline gap-2 py-0.5">
            {administers && (
              <Button onClick={() => onPick(candidate.id)} aria-label={`It is ${candidate.id}`}>
                This one
              </Button>
            )}
            {candidate.link ? (
              <a href={candidate.link} target="_blank" rel="noreferrer" className="text-spruce hover:underline">
                {candidate.id}
              </a>
            ) : (
              candidate.id
            )}
            <span className="min-w-0 truncate text-soft">
              {Object.values(candidate.properties ?? {})
                .filter((value) => typeof value === "string")
                .join(" · ")}
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}
