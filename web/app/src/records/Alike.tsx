import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button } from "../../../kit/ui";
import { alikeQuery, contactQuery, queries } from "../lib/query";
import { ago } from "../lib/time";
import { useAttempt } from "../lib/useAttempt";
import { Merge } from "./Merge";
import { Heading } from "./parts";
import { alikeWords, leadsWords, nameOf } from "./words";

/** Contacts that may be the same person, and those that became one with this one. */
export function Alike({ contact }: { contact: Schemas["ContactDetail"] }) {
  const rows = useQuery(alikeQuery(contact.id)).data ?? [];
  const [merging, setMerging] = useState<Schemas["AlikeRow"] | null>(null);
  const { says, attempt } = useAttempt();
  const undo = async (merge: string) => {
    const now = await attempt(() => ask(client.POST("/api/merges/{merge}/undo", { params: { path: { merge } } })));
    if (!now) return;
    queries.setQueryData(contactQuery(contact.id).queryKey, now);
    await Promise.all(
      ["contacts", "alike", "leads", "lead"].map((key) => queries.invalidateQueries({ queryKey: [key] })),
    );
  };
  return (
    <>
      {says && (
        <p role="alert" className="mt-2 text-sm text-clay">
          {says}
        </p>
      )}
      {contact.merges.map((merge) => (
        <p key={merge.id} className="mt-2 text-sm">
          Became one with {merge.gone ?? "another contact"}
          <span className="text-soft">
            {merge.by ? ` by ${merge.by}` : ""}, {ago(merge.at)}
          </span>
          <Button look="quiet" className="!py-0" onClick={() => void undo(merge.id)}>
            Make them two again
          </Button>
        </p>
      ))}
      {rows.length > 0 && (
        <>
          <Heading>May be the same person</Heading>
          <ul className="text-sm">
            {rows.map((row) => (
              <li key={row.id} className="flex items-baseline gap-3 border-b border-hair py-1">
                <Link
                  to="/contacts/$contact"
                  params={{ contact: row.id }}
                  className="min-w-0 truncate text-spruce hover:underline"
                >
                  {nameOf(row)}
                </Link>
                <span className="min-w-0 truncate text-xs text-soft">
                  {alikeWords[row.why]} · {leadsWords(row.leads, 0)}
                </span>
                <Button look="quiet" className="ml-auto shrink-0 !py-0" onClick={() => setMerging(row)}>
                  Make them one…
                </Button>
              </li>
            ))}
          </ul>
        </>
      )}
      {merging && <Merge id={contact.id} name={nameOf(contact)} other={merging} onClose={() => setMerging(null)} />}
    </>
  );
}
