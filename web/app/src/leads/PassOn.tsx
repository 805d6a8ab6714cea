import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { Button, Select, TextInput } from "../../../kit/ui";
import { meQuery, takersQuery } from "../lib/query";
import type { Work } from "./useWork";

/** Taking a lead that is nobody's or a colleague's, and passing one on with a word. */
export function PassOn({ lead, work }: { lead: Schemas["LeadDetail"]; work: Work }) {
  const me = useQuery(meQuery).data;
  const [open, setOpen] = useState(false);
  const takers = useQuery({ ...takersQuery, enabled: open }).data ?? [];
  const [to, setTo] = useState("");
  const [note, setNote] = useState("");
  const { row } = lead;
  return (
    <div className="mt-1.5 text-sm">
      <span className="text-soft">Owner: </span>
      {row.mine ? "you" : (row.owner ?? "nobody yet")}
      {row.queue && <span className="text-soft">, {row.queue}</span>}
      {!row.mine && me && (
        <Button look="quiet" title="Shortcut T" onClick={() => void work.give(me.id, "")}>
          Take it
        </Button>
      )}
      <Button look="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
        Pass on…
      </Button>
      {open && (
        <form
          className="mt-1 flex flex-wrap gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void work.give(to, note.trim()).then((done) => done && setOpen(false));
          }}
        >
          <Select aria-label="To whom" required value={to} onChange={(event) => setTo(event.target.value)}>
            <option value="" disabled>
              To whom
            </option>
            {takers
              .filter((taker) => taker.id !== me?.id || !row.mine)
              .map((taker) => (
                <option key={taker.id} value={taker.id}>
                  {taker.name}
                  {taker.paused ? " (takes no new leads)" : ""}
                </option>
              ))}
          </Select>
          <TextInput
            aria-label="What they should know"
            placeholder="What they should know"
            className="!w-56"
            maxLength={2_000}
            value={note}
            onChange={(event) => setNote(event.target.value)}
          />
          <Button type="submit" disabled={!to}>
            Pass on
          </Button>
        </form>
      )}
    </div>
  );
}
