import { useState } from "react";

import type { Schemas } from "../../../api";
import { RequestFailed, ask, client } from "../../../api";
import { Button } from "../../../kit/ui";
import { leadQuery, queries } from "../lib/query";
import { stamp } from "../lib/time";
import { givenWords } from "./words";

type Lead = Schemas["LeadDetail"];

/** What this conversation said otherwise than what is on file, and newer answers that wait: each wants a person's word. */
export function Differs({ lead, works }: { lead: Lead; works: boolean }) {
  const [says, setSays] = useState("");
  const waiting = lead.conversations.find((one) => one.waits);
  if (lead.also_given.length === 0 && !waiting) return null;
  const id = lead.row.id;
  const keep = async (request: Promise<Lead>) => {
    setSays("");
    try {
      queries.setQueryData(leadQuery(id).queryKey, await request);
      await queries.invalidateQueries({ queryKey: ["leads"] });
    } catch (failure) {
      if (!(failure instanceof RequestFailed)) throw failure;
      setSays(failure.message);
      await queries.refetchQueries({ queryKey: leadQuery(id).queryKey });
    }
  };
  const settle = (given: string, accepted: boolean) =>
    keep(
      ask(
        client.POST("/api/leads/{lead}/given/{given}", { params: { path: { lead: id, given } }, body: { accepted } }),
      ),
    );
  return (
    <section aria-label="Differs from what is on file" className="mt-4 border-l-2 border-amber pl-3">
      {waiting && (
        <div className="flex flex-wrap items-baseline gap-x-3 py-1">
          <p>
            They came back on {stamp(waiting.filed_at)} with lower answers: {waiting.wants}
            {waiting.total !== null && waiting.total !== undefined && `, ${waiting.total} points`}.
          </p>
          {works && (
            <Button
              look="quiet"
              className="-ml-1.5"
              onClick={() => void keep(ask(client.POST("/api/leads/{lead}/newer", { params: { path: { lead: id } } })))}
            >
              Use the newer answers
            </Button>
          )}
        </div>
      )}
      {lead.also_given.map((given) => (
        <div key={given.id} className="flex flex-wrap items-baseline gap-x-3 py-1">
          <p>
            {givenWords[given.what]} also given: <b className="font-semibold">{given.value}</b>
            {given.on_file && <span className="text-soft">; on file: {given.on_file}</span>}
          </p>
          {works && (
            <span className="whitespace-nowrap">
              <Button look="quiet" className="-ml-1.5" onClick={() => void settle(given.id, true)}>
                Put on file
              </Button>
              <Button look="quiet" onClick={() => void settle(given.id, false)}>
                Leave as it is
              </Button>
            </span>
          )}
        </div>
      ))}
      {says && (
        <p role="alert" className="text-sm text-clay">
          {says}
        </p>
      )}
    </section>
  );
}
