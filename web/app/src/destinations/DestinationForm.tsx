import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Labelled, Select, TextInput } from "../../../kit/ui";
import { destinationsQuery, dialoguesQuery, queries } from "../lib/query";
import { useAttempt } from "../lib/useAttempt";
import type { Event, Kind } from "./words";
import { eventWords, events, kindWords, kinds, mapped } from "./words";

const fresh: Schemas["DestinationSet"] = {
  revision: 0,
  name: "",
  kind: "webhook",
  address: "",
  events: ["lead.filed", "lead.updated", "lead.status"],
  dialogues: [],
};

/** A destination's settings; a new one where there is none yet. */
export function DestinationForm({
  known,
  onDone,
  onCancel,
}: {
  known?: Schemas["DestinationSet"];
  onDone: (made: Schemas["DestinationPut"]) => void;
  onCancel: () => void;
}) {
  const [set, setSet] = useState(known ?? fresh);
  const dialogues = useQuery(dialoguesQuery).data ?? [];
  const { says, attempt } = useAttempt();
  const put = (part: Partial<Schemas["DestinationSet"]>) => setSet({ ...set, ...part });
  const toggle = (event: Event) =>
    put({
      events: set.events.includes(event) ? set.events.filter((each) => each !== event) : [...set.events, event],
    });
  const save = async () => {
    const made = await attempt(() => ask(client.POST("/api/destinations", { body: set })));
    if (!made) return;
    await queries.invalidateQueries({ queryKey: destinationsQuery.queryKey });
    onDone(made);
  };
  const only = set.dialogues?.[0] ?? "";
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <h2 className="mb-2 font-serif text-lg font-semibold">{known ? known.name : "New destination"}</h2>
      <Labelled label="Name">
        {(id) => (
          <TextInput
            id={id}
            required
            autoFocus
            value={set.name}
            onChange={(event) => put({ name: event.target.value })}
          />
        )}
      </Labelled>
      {!known && (
        <Labelled label="Kind" hint={kindWords[set.kind].does}>
          {(id) => (
            <Select id={id} value={set.kind} onChange={(event) => put({ kind: event.target.value as Kind })}>
              {kinds.map((kind) => (
                <option key={kind} value={kind}>
                  {kindWords[kind].label}
                </option>
              ))}
            </Select>
          )}
        </Labelled>
      )}
      <Labelled
        label="Address"
        hint={
          set.kind === "mail" ? "A mail address, or the word owner for whoever has the lead." : "Public and over https."
        }
      >
        {(id) => (
          <TextInput
            id={id}
            required
            inputMode={set.kind === "mail" ? "email" : "url"}
            spellCheck={false}
            placeholder={kindWords[set.kind].address}
            value={set.address}
            onChange={(event) => put({ address: event.target.value })}
          />
        )}
      </Labelled>
      {mapped(set.kind) && (
        <Labelled
          label="Token"
          hint={known ? "Kept as it is where you type none." : "What it knows Lumbo by. It is never shown again."}
        >
          {(id) => (
            <TextInput
              id={id}
              type="password"
              autoComplete="off"
              spellCheck={false}
              value={set.token ?? ""}
              onChange={(event) => put({ token: event.target.value })}
            />
          )}
        </Labelled>
      )}
      <fieldset className="grid grid-cols-[8.25rem_minmax(0,1fr)] gap-x-3 py-1 max-md:grid-cols-1">
        <legend className="sr-only">What it gets</legend>
        <span aria-hidden className="pt-0.5 text-xs text-soft">
          What it gets
        </span>
        <div>
          {events.map((event) => (
            <label key={event} className="flex items-baseline gap-2 py-0.5">
              <input type="checkbox" checked={set.events.includes(event)} onChange={() => toggle(event)} />
              <span>
                {eventWords[event]} <span className="font-mono text-xs text-soft">{event}</span>
              </span>
            </label>
          ))}
        </div>
      </fieldset>
      <Labelled label="Whose leads">
        {(id) => (
          <Select
            id={id}
            value={only}
            onChange={(event) => put({ dialogues: event.target.value ? [event.target.value] : [] })}
          >
            <option value="">Every dialogue’s</option>
            {dialogues.map((dialogue) => (
              <option key={dialogue.id} value={dialogue.id}>
                {dialogue.title}
              </option>
            ))}
          </Select>
        )}
      </Labelled>
      <Labelled label="How good" hint="By the band that the lead has when it happens.">
        {(id) => (
          <Select
            id={id}
            value={set.from_rank ?? ""}
            onChange={(event) => put({ from_rank: event.target.value === "" ? null : Number(event.target.value) })}
          >
            <option value="">Every lead, also those ruled out</option>
            <option value={0}>Leads in a band, not those ruled out</option>
            <option value={1}>From the second lowest band on</option>
            <option value={2}>From the third lowest band on</option>
          </Select>
        )}
      </Labelled>
      <div className="mt-2 pl-[9rem] max-md:pl-0">
        {says && (
          <p role="alert" className="mb-1 text-clay">
            {says}
          </p>
        )}
        <Button look="primary" type="submit">
          {known ? "Save" : "Add it"}
        </Button>
        <Button className="ml-2" onClick={onCancel}>
          Not now
        </Button>
      </div>
    </form>
  );
}
