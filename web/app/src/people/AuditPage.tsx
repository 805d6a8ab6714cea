import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { Button, Notice, Select, TextInput } from "../../../kit/ui";
import { BottomLine } from "../frame/BottomLine";
import type { AuditFilter } from "../lib/query";
import { auditQuery, peopleQuery } from "../lib/query";
import { stamp } from "../lib/time";
import { auditWords, audited } from "./words";

/** A day of a date box as the moment it begins here. */
const begins = (day: string, more = 0): string | undefined => {
  if (!day) return undefined;
  const [year, month, date] = day.split("-").map(Number) as [number, number, number];
  return new Date(year, month - 1, date + more).toISOString();
};

/** Who did what, newest first. */
export function AuditPage() {
  const people = useQuery(peopleQuery).data?.people ?? [];
  const [person, setPerson] = useState("");
  const [what, setWhat] = useState("");
  const [from, setFrom] = useState("");
  const [to, setTo] = useState("");
  const filter: AuditFilter = {
    person: person || undefined,
    what: (what || undefined) as Schemas["Audited"] | undefined,
    from: begins(from),
    to: begins(to, 1),
  };
  const pages = useInfiniteQuery(auditQuery(filter));
  const entries = pages.data?.pages.flatMap((page) => page.entries) ?? [];
  const query = new URLSearchParams(Object.entries(filter).filter((pair): pair is [string, string] => !!pair[1]));
  return (
    <>
      <main className="min-h-0 grow overflow-auto px-4 pt-4 pb-6">
        <div className="mb-2 flex max-w-4xl items-center">
          <h1 className="font-serif text-lg font-semibold">Audit</h1>
          <a
            className="ml-auto rounded-md border border-line bg-paper px-3 py-1 text-sm font-medium hover:border-soft"
            href={`/api/audit.csv?${query.toString()}`}
            download
          >
            Save as CSV
          </a>
        </div>
        <div className="mb-3 flex max-w-4xl flex-wrap items-end gap-3 text-xs text-soft">
          <div>
            <label className="block" htmlFor="audit-who">
              Who
            </label>
            <Select
              id="audit-who"
              className="text-sm"
              value={person}
              onChange={(event) => setPerson(event.target.value)}
            >
              <option value="">Anybody</option>
              {people.map((row) => (
                <option key={row.id} value={row.id}>
                  {row.name}
                </option>
              ))}
            </Select>
          </div>
          <div>
            <label className="block" htmlFor="audit-what">
              What
            </label>
            <Select id="audit-what" className="text-sm" value={what} onChange={(event) => setWhat(event.target.value)}>
              <option value="">Anything</option>
              {audited.map((each) => (
                <option key={each} value={each}>
                  {auditWords[each]}
                </option>
              ))}
            </Select>
          </div>
          <div>
            <label className="block" htmlFor="audit-from">
              From
            </label>
            <TextInput
              id="audit-from"
              type="date"
              className="text-sm"
              value={from}
              onChange={(event) => setFrom(event.target.value)}
            />
          </div>
          <div>
            <label className="block" htmlFor="audit-to">
              To
            </label>
            <TextInput
              id="audit-to"
              type="date"
              className="text-sm"
              value={to}
              onChange={(event) => setTo(event.target.value)}
            />
          </div>
        </div>
        {pages.error && <Notice tone="wrong">{pages.error.message}</Notice>}
        {pages.isPending && <p className="text-soft">Reading what was done</p>}
        {pages.data && entries.length === 0 && <p>Nothing was done that fits. Take a filter off to see more.</p>}
        {entries.length > 0 && (
          <table className="w-full max-w-4xl border-collapse">
            <thead>
              <tr className="border-b border-line text-left text-xs text-soft [&_th]:pr-3 [&_th]:pb-1.5 [&_th]:font-normal">
                <th>When</th>
                <th>Who</th>
                <th>What</th>
                <th>Network</th>
              </tr>
            </thead>
            <tbody>
              {entries.map((entry) => (
                <tr key={entry.id} className="h-8 border-b border-line align-top [&_td]:py-1 [&_td]:pr-3">
                  <td className="whitespace-nowrap text-soft tabular-nums">{stamp(entry.at)}</td>
                  <td className="whitespace-nowrap">{entry.person ?? "The command line"}</td>
                  <td>
                    {auditWords[entry.what as Schemas["Audited"]] ?? entry.what}
                    {entry.about && <span className="text-soft">: {entry.about}</span>}
                  </td>
                  <td className="text-soft">{entry.network}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {pages.hasNextPage && (
          <Button className="mt-3" disabled={pages.isFetchingNextPage} onClick={() => void pages.fetchNextPage()}>
            Show older ones
          </Button>
        )}
      </main>
      <BottomLine>
        <span>Kept for 24 months. It holds no value of a lead.</span>
      </BottomLine>
    </>
  );
}
