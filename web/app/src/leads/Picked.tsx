import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";

import { ask, client } from "../../../api";
import { Button, Select, TextInput } from "../../../kit/ui";
import { queries, tagsQuery, takersQuery } from "../lib/query";
import type { Named, Progress } from "./several";
import { eachOf } from "./several";

const at = (id: string) => ({ params: { path: { lead: id } } });

/** What can be done to several leads that were picked from the list: pass them on, or tag them. */
export function Picked({
  leads,
  onPicked,
  onClose,
}: {
  leads: Named[];
  onPicked: (ids: string[]) => void;
  onClose: () => void;
}) {
  const takers = useQuery(takersQuery).data ?? [];
  const [tag, setTag] = useState("");
  const [progress, setProgress] = useState<Progress | null>(null);
  const stop = useRef(false);
  const busy = progress !== null && !progress.ended;
  const all = async (act: (id: string) => Promise<unknown>) => {
    stop.current = false;
    setProgress({ done: 0, of: leads.length, failed: [], ended: false });
    const done = await eachOf(leads, act, setProgress, () => stop.current);
    // What could not be done stays picked.
    onPicked(leads.map((lead) => lead.id).filter((id) => !done.includes(id)));
    for (const queryKey of [["leads"], ["lead"], tagsQuery.queryKey]) void queries.invalidateQueries({ queryKey });
  };
  const pass = (to: string) =>
    all(async (id) => {
      const { revision, row } = await ask(client.GET("/api/leads/{lead}", at(id)));
      const there = takers.find((taker) => taker.id === to)?.name === row.owner;
      if (!there) await ask(client.POST("/api/leads/{lead}/owner", { ...at(id), body: { revision, to } }));
    });
  return (
    <section
      aria-label="Picked leads"
      className="mt-1.5 mr-4 rounded-md border border-line bg-paper px-3 py-1.5 text-sm"
    >
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <span>
          <b className="font-semibold figures">{leads.length}</b> picked
        </span>
        <Select
          aria-label="Pass them to"
          className="!py-0.5"
          disabled={busy || leads.length === 0}
          value=""
          onChange={(event) => void pass(event.target.value)}
        >
          <option value="">Pass to…</option>
          {takers.map((taker) => (
            <option key={taker.id} value={taker.id}>
              {taker.name}
              {taker.paused ? " (takes no new leads)" : ""}
            </option>
          ))}
        </Select>
        <form
          className="flex gap-1.5"
          onSubmit={(event) => {
            event.preventDefault();
            const typed = tag.trim();
            if (!typed || busy) return;
            setTag("");
            void all((id) => ask(client.POST("/api/leads/{lead}/tags", { ...at(id), body: { tag: typed, on: true } })));
          }}
        >
          <TextInput
            aria-label="Tag them"
            placeholder="Tag them"
            className="!w-32 !py-0.5"
            maxLength={31}
            value={tag}
            onChange={(event) => setTag(event.target.value)}
            onKeyDown={(event) => event.key === "Escape" && event.currentTarget.blur()}
          />
        </form>
        {busy && (
          <Button look="quiet" onClick={() => (stop.current = true)}>
            Stop
          </Button>
        )}
        <Button look="quiet" className="ml-auto" disabled={busy} onClick={onClose}>
          Let go
        </Button>
      </div>
      <div role="status" className="text-xs">
        {progress && (
          <p className="text-soft">
            {progress.ended ? `Done with ${progress.done} of ${progress.of}.` : `${progress.done} of ${progress.of}`}
          </p>
        )}
        {progress?.failed.map((says) => (
          <p key={says} className="text-clay">
            {says}
          </p>
        ))}
      </div>
    </section>
  );
}
