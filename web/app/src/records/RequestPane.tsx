import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { clsx } from "clsx";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Notice, Select, TextInput } from "../../../kit/ui";
import { Transcript } from "../leads/Transcript";
import { meQuery, queries, requestQuery, takersQuery } from "../lib/query";
import { due, isLate, stamp } from "../lib/time";
import { useAttempt } from "../lib/useAttempt";
import { Heading } from "./parts";

/** One request: who asks, what, and whether it is answered. */
export function RequestPane({ id }: { id: string }) {
  const { data: request, error, isPending } = useQuery(requestQuery(id));
  const me = useQuery(meQuery).data;
  const works = me?.works_leads ?? false;
  const takers = useQuery({ ...takersQuery, enabled: works }).data ?? [];
  const [note, setNote] = useState("");
  const { says, attempt } = useAttempt();
  if (error) return <Notice tone="wrong">{error.message}</Notice>;
  if (isPending) return <p className="p-5 text-soft">Reading the request</p>;
  const { row } = request;
  const change = async (body: Omit<Schemas["RequestChange"], "revision">) => {
    const now = await attempt(() =>
      ask(
        client.POST("/api/requests/{request}", {
          params: { path: { request: id } },
          body: { ...body, revision: request.revision },
        }),
      ),
    );
    if (!now) {
      await queries.invalidateQueries({ queryKey: requestQuery(id).queryKey });
      return;
    }
    queries.setQueryData(requestQuery(id).queryKey, now);
    void queries.invalidateQueries({ queryKey: ["requests"] });
  };
  const when = due(row.due_at);
  return (
    <div className="px-5 py-4">
      <div className="flex items-baseline gap-2">
        <h1 className="font-serif text-xl font-semibold break-words">{row.name ?? "No name given"}</h1>
        <span
          className={clsx(
            "ml-auto text-sm font-semibold whitespace-nowrap",
            row.done_at ? "text-spruce" : isLate(row.due_at) ? "text-clay" : "text-amber",
          )}
        >
          {row.done_at ? "Done" : when}
        </span>
      </div>
      <p className="text-sm text-soft">{[row.company, row.label].filter(Boolean).join(", ")}</p>
      <p className="text-xs text-soft">
        From “{row.dialogue}”, {stamp(row.made_at)}
        {row.queue && ` · ${row.queue}`}
      </p>
      <p className="mt-3 flex flex-wrap gap-x-4 gap-y-1">
        {request.phone && (
          <a className="inline-block min-h-6 text-spruce hover:underline" href={`tel:${request.phone}`}>
            {request.phone}
          </a>
        )}
        {request.email && (
          <a className="inline-block min-h-6 text-spruce hover:underline" href={`mailto:${request.email}`}>
            {request.email}
          </a>
        )}
        {request.contact && (
          <Link
            to="/contacts/$contact"
            params={{ contact: request.contact }}
            className="text-sm text-spruce hover:underline"
          >
            Contact
          </Link>
        )}
      </p>
      {says && (
        <p role="alert" className="mt-2 text-sm text-clay">
          {says}
        </p>
      )}
      {works && (
        <div className="mt-3 flex flex-wrap items-center gap-2 text-sm">
          {row.done_at ? (
            <Button onClick={() => void change({ act: "reopen" })}>Open again</Button>
          ) : (
            <>
              {!row.mine && <Button onClick={() => void change({ act: "give" })}>Take it</Button>}
              <Select
                aria-label="Pass it on to"
                value=""
                onChange={(event) => void change({ act: "give", to: event.target.value })}
              >
                <option value="">{row.owner ? `taken by ${row.mine ? "you" : row.owner}` : "pass it on to"}</option>
                {takers.map((taker) => (
                  <option key={taker.id} value={taker.id}>
                    {taker.name}
                  </option>
                ))}
              </Select>
              <form
                className="flex w-full gap-2"
                onSubmit={(event) => {
                  event.preventDefault();
                  void change({ act: "done", ...(note.trim() ? { note: note.trim() } : {}) });
                }}
              >
                <TextInput
                  aria-label="What to remember of it"
                  placeholder="What to remember of it"
                  maxLength={2000}
                  value={note}
                  onChange={(event) => setNote(event.target.value)}
                />
                <Button look="primary" type="submit">
                  Done
                </Button>
              </form>
            </>
          )}
        </div>
      )}
      {request.done_by && row.done_at && (
        <p className="mt-2 text-sm">
          Answered by {request.done_by}, {stamp(row.done_at)}
          {request.note && <span className="block text-soft">{request.note}</span>}
        </p>
      )}
      <Heading>In their words</Heading>
      <Transcript lines={request.transcript} />
      <Heading>What they told us</Heading>
      <dl className="grid grid-cols-[8rem_1fr] gap-x-3 gap-y-1 text-sm">
        {request.fields.map((field) => (
          <div key={field.id} className="contents">
            <dt className="text-soft">{field.label}</dt>
            <dd className="break-words">{field.shown}</dd>
          </div>
        ))}
      </dl>
    </div>
  );
}
