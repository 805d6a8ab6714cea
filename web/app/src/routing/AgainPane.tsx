import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { RequestFailed, ask, client } from "../../../api";
import { Notice, Select } from "../../../kit/ui";

/** Past leads given out again by the draft's rules and today's queues. */
export const useAgain = (dialogue: string, revision: number, days: number) =>
  useQuery({
    queryKey: ["route-again", dialogue, revision, days],
    queryFn: ({ signal }) =>
      ask(
        client.POST("/api/dialogues/{dialogue}/route/again", {
          params: { path: { dialogue } },
          body: { days },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    retry: (count, error) => error instanceof RequestFailed && error.code === "busy" && count < 5,
  });

export function AgainPane({
  view,
  error,
  days,
  onDays,
  stale,
}: {
  view: Schemas["AgainView"] | undefined;
  error: Error | null;
  days: number;
  onDays: (days: number) => void;
  stale: boolean;
}) {
  const [open, setOpen] = useState(false);
  if (error) return <Notice tone="wrong">{error.message}</Notice>;
  if (!view) return <p className="text-sm text-soft">Giving past leads out again</p>;
  const { again, people, queues, leads } = view;
  const queue = (id: string | null | undefined) => (id ? (queues[id] ?? "a queue that is gone") : "no queue");
  const name = (id: string | null | undefined) => (id ? (people[id] ?? "Somebody who left") : "Nobody");
  return (
    <div aria-busy={stale}>
      <div className="flex items-center gap-2">
        <h2 className="text-sm font-semibold">
          Past leads, given out again{" "}
          <span className="text-xs font-normal text-soft">
            {again.leads} leads, by these rules, today’s hours and people
          </span>
        </h2>
        <Select
          aria-label="How far back"
          className="ml-auto !py-0 !text-xs"
          value={days}
          onChange={(event) => onDays(Number(event.target.value))}
        >
          {[30, 90, 365].map((known) => (
            <option key={known} value={known}>
              last {known} days
            </option>
          ))}
        </Select>
      </div>
      {again.leads === 0 ? (
        <p className="mt-2 text-sm text-soft">No lead of this dialogue was filed in that time.</p>
      ) : (
        <>
          <table className="mt-3 w-full border-collapse text-sm">
            <thead>
              <tr className="border-b border-line text-xs text-soft [&_th]:pb-1.5 [&_th]:font-normal">
                <th className="text-left">Person</th>
                <th className="text-right">then</th>
                <th className="text-right">now</th>
                <th
                  className="text-right"
                  title="How often somebody would have been passed over because they were full"
                >
                  full
                </th>
              </tr>
            </thead>
            <tbody>
              {again.people.map((person) => (
                <tr key={person.person ?? "nobody"} className="border-b border-hair [&>td]:py-1.5">
                  <td>{name(person.person)}</td>
                  <td className="text-right figures">{person.then}</td>
                  <td className="text-right figures">{person.now}</td>
                  <td className={`text-right figures ${person.full > 0 ? "text-amber" : "text-soft"}`}>
                    {person.person ? person.full : ""}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="mt-3 text-sm text-soft">
            {again.outside_hours > 0 && `${again.outside_hours} came outside the hours of their queue. `}
            {again.changed === 0 ? (
              "No lead would go to another queue, and whoever had one could take it."
            ) : (
              <>
                {again.changed} lead{again.changed === 1 ? "" : "s"} would go to another queue, or to somebody else
                because their owner could not take them:{" "}
                <button
                  type="button"
                  aria-expanded={open}
                  className="font-medium text-spruce hover:underline"
                  onClick={() => setOpen(!open)}
                >
                  {open ? "hide them" : "show them"}
                </button>
              </>
            )}
          </p>
          {open && (
            <ul className="mt-1 max-h-72 overflow-auto text-sm">
              {again.newest.map((one) => (
                <li key={one.lead} className="flex gap-3 border-b border-hair py-1">
                  <Link to="/leads/$lead" params={{ lead: one.lead }} className="min-w-0 grow truncate hover:underline">
                    {leads[one.lead]}
                  </Link>
                  <span className="shrink-0 text-soft">
                    {one.from_queue === one.to_queue
                      ? `${name(one.from)} → ${name(one.to)}`
                      : `${queue(one.from_queue)} → ${queue(one.to_queue)}`}
                  </span>
                </li>
              ))}
            </ul>
          )}
          <p className="mt-3 text-xs text-soft">
            When each lead was first tried stays as it was. Rotations begin as they stand today, so who of a queue has a
            turn differs lead by lead.
          </p>
        </>
      )}
    </div>
  );
}
