import { Dialog } from "radix-ui";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Modal } from "../../../kit/Modal";
import { Button, Labelled, Select, TextInput } from "../../../kit/ui";
import { useAttempt } from "../lib/useAttempt";
import { awayWords } from "./words";

/** Days on which somebody is away, and who stands in for them. */
export function Away({
  row,
  team,
  onDone,
  onClose,
}: {
  row: Schemas["TeamRow"];
  team: Schemas["TeamView"];
  onDone: () => Promise<unknown>;
  onClose: () => void;
}) {
  const [from, setFrom] = useState("");
  const [until, setUntil] = useState("");
  const [deputy, setDeputy] = useState("");
  const { says, attempt } = useAttempt();
  const absences = team.absences.filter((absence) => absence.person === row.id);
  const person = { params: { path: { person: row.id } } };
  const add = async () => {
    const body = { from, until: until || from, ...(deputy ? { deputy } : {}) };
    const done = await attempt(() =>
      ask(client.POST("/api/team/{person}/absences", { ...person, body })).then(() => true),
    );
    if (!done) return;
    await onDone();
    setFrom("");
    setUntil("");
  };
  const remove = async (absence: string) => {
    const path = { params: { path: { person: row.id, absence } } };
    await attempt(() => ask(client.DELETE("/api/team/{person}/absences/{absence}", path)));
    await onDone();
  };
  return (
    <Modal open onOpenChange={(open) => !open && onClose()} className="w-[30rem] p-5">
      <Dialog.Title className="mb-2 font-serif text-lg">When {row.name} is away</Dialog.Title>
      {absences.length > 0 && (
        <ul className="mb-3">
          {absences.map((absence) => (
            <li key={absence.id} className="flex items-baseline gap-2 border-b border-line py-1">
              <span>
                {awayWords(absence)}
                {absence.now && <span className="ml-2 text-xs text-amber">now</span>}
              </span>
              <Button
                look="quiet"
                className="ml-auto"
                aria-label={`Take out ${awayWords(absence)}`}
                onClick={() => void remove(absence.id)}
              >
                Take out
              </Button>
            </li>
          ))}
        </ul>
      )}
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void add();
        }}
      >
        <Labelled label="First day">
          {(id) => (
            <TextInput id={id} type="date" required value={from} onChange={(event) => setFrom(event.target.value)} />
          )}
        </Labelled>
        <Labelled label="Last day" hint="The first day alone where it is empty.">
          {(id) => (
            <TextInput
              id={id}
              type="date"
              min={from}
              value={until}
              onChange={(event) => setUntil(event.target.value)}
            />
          )}
        </Labelled>
        <Labelled
          label="Stands in"
          hint="Gets what would be theirs alone: leads of people and firms they look after, and notices. Turns of a queue go to its others."
        >
          {(id) => (
            <Select id={id} value={deputy} onChange={(event) => setDeputy(event.target.value)}>
              <option value="">Nobody</option>
              {team.deputies
                .filter((each) => each.id !== row.id)
                .map((each) => (
                  <option key={each.id} value={each.id}>
                    {each.name}
                  </option>
                ))}
            </Select>
          )}
        </Labelled>
        {says && (
          <p role="alert" className="mt-1 text-clay">
            {says}
          </p>
        )}
        <div className="mt-3 flex gap-2">
          <Button look="primary" type="submit">
            Enter these days
          </Button>
          <Button onClick={onClose}>Close</Button>
        </div>
      </form>
    </Modal>
  );
}
