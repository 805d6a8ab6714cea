import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Notice, useTitle } from "../../../kit/ui";
import { BottomLine } from "../frame/BottomLine";
import { queries, teamQuery } from "../lib/query";
import { ago } from "../lib/time";
import { useAttempt } from "../lib/useAttempt";
import { useLive } from "../live/useLive";
import { Away } from "./Away";
import { awayWords, minutesWords, ofWords, weekWords } from "./words";

const head =
  "border-b border-line text-left text-xs text-soft [&_th]:py-1.5 [&_th]:pr-4 [&_th]:font-normal [&_th.n]:text-right";
const line = "h-9 border-b border-line [&_td]:pr-4 [&_td.n]:text-right [&_td.n]:tabular-nums";

const Count = ({ of, watch = false }: { of: number; watch?: boolean }) =>
  of === 0 ? <span className="text-soft">0</span> : <span className={watch ? "font-medium text-clay" : ""}>{of}</span>;

/** The team: who has how much and how soon they call, what waits in the queues, how the weeks went. */
export function TeamScreen() {
  useTitle("Team");
  const { data, error, isPending } = useQuery({ ...teamQuery, refetchInterval: 60_000 });
  const { says, attempt } = useAttempt();
  const [done, setDone] = useState("");
  const [away, setAway] = useState<string | null>(null);
  const reload = () => queries.invalidateQueries({ queryKey: teamQuery.queryKey });
  useLive("leads", () => void reload());
  const pause = async (row: Schemas["TeamRow"]) => {
    setDone("");
    const path = { params: { path: { person: row.id } }, body: { paused: !row.paused } };
    await attempt(() => ask(client.POST("/api/team/{person}", path)));
    await reload();
  };
  const shareOut = async (row: Schemas["TeamRow"]) => {
    const path = { params: { path: { person: row.id } } };
    const shared = await attempt(() => ask(client.POST("/api/team/{person}/share-out", path)));
    if (shared) setDone(`${shared.leads} of ${row.name}’s leads are being dealt anew by their queues.`);
    await reload();
  };
  const people = data?.people ?? [];
  const sum = (of: (row: Schemas["TeamRow"]) => number) => people.reduce((total, row) => total + of(row), 0);
  const waiting = (data?.queues ?? []).reduce((total, row) => total + row.waiting, 0);
  return (
    <>
      <main className="min-h-0 grow overflow-auto px-4 pt-4 pb-6">
        <h1 className="mb-1 font-serif text-lg font-semibold">Team</h1>
        {error && <Notice tone="wrong">{error.message}</Notice>}
        <div role="status">
          {says && <p className="text-clay">{says}</p>}
          {done && <p className="text-spruce">{done}</p>}
        </div>
        {isPending && <p className="text-soft">Counting</p>}
        {data && people.length === 0 && (
          <p>Nobody works leads yet. An administrator invites reps under Settings, People.</p>
        )}
        {people.length > 0 && (
          <table className="w-full max-w-6xl border-collapse">
            <thead className={head}>
              <tr>
                <th>Rep</th>
                <th className="n">Open</th>
                <th className="n">Not called</th>
                <th className="n">Late</th>
                <th className="n">Due now</th>
                <th className="n" title="In the last seven days">
                  Calls, 7 days
                </th>
                <th className="n" title="Median of working time from filing, of the last 30 days">
                  First try
                </th>
                <th className="n" title="Median of working time from filing, of the last 30 days">
                  First contact
                </th>
                <th className="n" title="Of the leads filed in the last 30 days">
                  Accepted or won
                </th>
                <th>
                  <span className="sr-only">What can be done</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {people.map((row) => (
                <tr key={row.id} className={line}>
                  <td>
                    {row.name}
                    {row.paused && <span className="ml-2 text-xs text-amber">takes no new leads</span>}
                    {data?.absences
                      .filter((absence) => absence.person === row.id)
                      .slice(0, 1)
                      .map((absence) => (
                        <span key={absence.id} className={`ml-2 text-xs ${absence.now ? "text-amber" : "text-soft"}`}>
                          away {awayWords(absence)}
                        </span>
                      ))}
                  </td>
                  <td className="n">
                    <Count of={row.open} />
                  </td>
                  <td className="n">
                    <Count of={row.untried} />
                  </td>
                  <td className="n">
                    <Count of={row.late} watch />
                  </td>
                  <td className="n">
                    <Count of={row.due} />
                  </td>
                  <td className="n">
                    <Count of={row.calls} />
                  </td>
                  <td className="n">{minutesWords(row.first_try)}</td>
                  <td className="n">{minutesWords(row.first_contact)}</td>
                  <td className="n">{ofWords(row.accepted, row.filed)}</td>
                  <td className="text-right whitespace-nowrap">
                    {row.paused && row.open > 0 && (
                      <Button look="quiet" onClick={() => void shareOut(row)}>
                        Share out
                      </Button>
                    )}
                    <Button look="quiet" onClick={() => setAway(row.id)}>
                      Away…
                    </Button>
                    <Button look="quiet" onClick={() => void pause(row)}>
                      {row.paused ? "Let go on" : "Pause"}
                    </Button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {data && (
          <div className="mt-6 flex max-w-6xl flex-wrap gap-x-12 gap-y-6">
            <Queues rows={data.queues} />
            <Weeks rows={data.weeks} />
          </div>
        )}
      </main>
      {data &&
        people
          .filter((row) => row.id === away)
          .map((row) => <Away key={row.id} row={row} team={data} onDone={reload} onClose={() => setAway(null)} />)}
      <BottomLine>
        <span>
          <b>{sum((row) => row.open)}</b> open
        </span>
        <span>
          <b>{sum((row) => row.late)}</b> late
        </span>
        <span>
          <b>{waiting}</b> waiting for somebody
        </span>
      </BottomLine>
    </>
  );
}

function Queues({ rows }: { rows: Schemas["TeamQueueRow"][] }) {
  return (
    <section aria-labelledby="queues-head" className="min-w-80 grow">
      <h2 id="queues-head" className="font-serif font-semibold">
        Queues
      </h2>
      {rows.length === 0 && <p className="text-soft">There is no queue yet.</p>}
      {rows.length > 0 && (
        <table className="w-full border-collapse">
          <thead className={head}>
            <tr>
              <th>Queue</th>
              <th className="n">Waiting</th>
              <th>Oldest</th>
              <th className="n">Take leads</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.name} className={line}>
                <td>{row.name}</td>
                <td className="n">
                  <Count of={row.waiting} />
                </td>
                <td>{row.oldest_at ? ago(row.oldest_at) : <span className="text-soft">none waits</span>}</td>
                <td className={row.takers === 0 ? "n font-medium text-clay" : "n"}>{row.takers || "nobody"}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

function Weeks({ rows }: { rows: Schemas["WeekRow"][] }) {
  return (
    <section aria-labelledby="weeks-head" className="min-w-96 grow">
      <h2 id="weeks-head" className="font-serif font-semibold">
        This week and those before
      </h2>
      <table className="w-full border-collapse">
        <thead className={head}>
          <tr>
            <th>Week from</th>
            <th className="n">Filed</th>
            <th className="n">Called in time</th>
            <th className="n">Reached</th>
            <th className="n">Accepted or won</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row, place) => (
            <tr key={row.monday} className={line}>
              <td>{place === 0 ? `${weekWords(row.monday)}, so far` : weekWords(row.monday)}</td>
              <td className="n">
                <Count of={row.filed} />
              </td>
              <td className="n">{ofWords(row.in_time, row.targeted)}</td>
              <td className="n">{ofWords(row.reached, row.filed)}</td>
              <td className="n">{ofWords(row.accepted, row.filed)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
