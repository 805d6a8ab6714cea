import { useState } from "react";

import type { Schemas } from "../../../api";
import { Button, Labelled, Select, TextArea, TextInput } from "../../../kit/ui";
import { groupsOf, listed, rowsOf } from "./territories";

export type Body = Schemas["TerritoriesBody"];

/** A table of territories as it is to be: for each queue its beginnings, or a list pasted from elsewhere. */
export function TerritoryForm({
  body,
  queues,
  busy,
  error,
  onKeep,
  onCancel,
}: {
  body: Body;
  queues: { key: string; name: string }[];
  busy: boolean;
  error: Error | null;
  onKeep: (body: Body) => void;
  onCancel: () => void;
}) {
  const [name, setName] = useState(body.name);
  const [groups, setGroups] = useState(() => groupsOf(body.rows));
  const [otherwise, setOtherwise] = useState(body.otherwise ?? "");
  const [list, setList] = useState("");
  const [bad, setBad] = useState<string[]>([]);
  const nameOf = (key: string) => queues.find((queue) => queue.key === key)?.name ?? key;
  const free = queues.filter((queue) => !groups.some((group) => group.queue === queue.key));
  const takeList = () => {
    const found = listed(list, queues);
    setGroups(groupsOf([...rowsOf(groups), ...found.rows]));
    setList(found.bad.join("\n"));
    setBad(found.bad);
  };
  return (
    <form
      className="mt-2 rounded-md border border-line p-3"
      onSubmit={(event) => {
        event.preventDefault();
        onKeep({ ...body, name, rows: rowsOf(groups), otherwise: otherwise || null });
      }}
    >
      <Labelled label="Table’s name">
        {(id) => (
          <TextInput
            id={id}
            autoFocus
            required
            maxLength={60}
            className="!w-64"
            placeholder="British postcodes"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        )}
      </Labelled>
      {groups.map((group) => (
        <Labelled key={group.queue} label={nameOf(group.queue)}>
          {(id) => (
            <TextArea
              id={id}
              rows={2}
              className="!w-full"
              placeholder="SW, SE1, DE 10, Tarn Quay"
              value={group.text}
              onChange={(event) =>
                setGroups(
                  groups.map((known) => (known.queue === group.queue ? { ...known, text: event.target.value } : known)),
                )
              }
            />
          )}
        </Labelled>
      ))}
      <p className="text-xs text-soft md:pl-[9rem]">
        Beginnings of postcodes or phone numbers, or whole names of towns, regions and countries, with commas between.
        “DE 10” stands for German postcodes that begin with 10.
      </p>
      {free.length > 0 && (
        <Select
          aria-label="Add a queue"
          className="!border-transparent !text-spruce"
          value=""
          onChange={(event) => setGroups([...groups, { queue: event.target.value, text: "" }])}
        >
          <option value="">+ queue</option>
          {free.map((queue) => (
            <option key={queue.key} value={queue.key}>
              {queue.name}
            </option>
          ))}
        </Select>
      )}
      <Labelled label="Other places">
        {(id) => (
          <Select id={id} value={otherwise} onChange={(event) => setOtherwise(event.target.value)}>
            <option value="">go on to the next rules</option>
            {queues.map((queue) => (
              <option key={queue.key} value={queue.key}>
                {queue.name}
              </option>
            ))}
          </Select>
        )}
      </Labelled>
      <details className="py-1">
        <summary className="text-sm text-spruce">Paste a list</summary>
        <TextArea
          aria-label="A line for each place, with its queue behind a comma or a tab"
          rows={4}
          className="mt-1 !w-full"
          placeholder={`SW1, ${queues[0]?.name ?? "a queue"}`}
          value={list}
          onChange={(event) => setList(event.target.value)}
        />
        <div className="mt-1 flex items-center gap-3">
          <Button disabled={!list.trim()} onClick={takeList}>
            Add these lines
          </Button>
          <span role="status" className="text-xs text-clay">
            {bad.length > 0 &&
              `${bad.length === 1 ? "One line is" : `${bad.length} lines are`} left: each needs a place, then a comma or a tab, then the name of a queue.`}
          </span>
        </div>
      </details>
      {error && (
        <p role="alert" className="py-1 text-sm text-clay">
          {error.message}
        </p>
      )}
      <div className="mt-2 flex gap-2">
        <Button look="primary" type="submit" disabled={busy}>
          {busy ? "Keeping" : "Keep"}
        </Button>
        <Button onClick={onCancel}>Not now</Button>
      </div>
    </form>
  );
}
