import { useQuery } from "@tanstack/react-query";
import { clsx } from "clsx";
import { type KeyboardEvent, useState } from "react";

import type { Schemas } from "../../../api";
import { Button, Select, TextInput } from "../../../kit/ui";
import { meQuery, takersQuery } from "../lib/query";
import { due, isLate, stamp } from "../lib/time";
import type { Work } from "./useWork";
import { atNine } from "./words";

/** What people owe on a lead: open tasks first, ticked off when they are done. */
export function Tasks({ lead, work }: { lead: Schemas["LeadDetail"]; work: Work }) {
  const me = useQuery(meQuery).data;
  const [writing, setWriting] = useState(false);
  // A tick shows at once; what the server says of it comes a moment later.
  const [ticks, setTicks] = useState<Record<string, boolean>>({});
  const settle = async (task: string, done: boolean) => {
    setTicks((known) => ({ ...known, [task]: done }));
    await work.settleTask(task, done);
    setTicks((known) => Object.fromEntries(Object.entries(known).filter(([id]) => id !== task)));
  };
  const works = me?.works_leads ?? false;
  if (!works && lead.tasks.length === 0) return null;
  return (
    <section aria-label="Tasks" className="mt-3 text-sm">
      {lead.tasks.map((task) => (
        <label key={task.id} className="flex min-h-6 items-center gap-2">
          <input
            type="checkbox"
            className="m-1 size-4 shrink-0"
            checked={ticks[task.id] ?? Boolean(task.done_at)}
            disabled={!works || !(task.mine || me?.leads_team)}
            onChange={(event) => void settle(task.id, event.target.checked)}
          />
          <span className={clsx("min-w-0 break-words", task.done_at && "text-soft line-through")}>{task.says}</span>
          <span className={clsx("ml-auto text-xs whitespace-nowrap", lateTask(task) ? "text-clay" : "text-soft")}>
            {task.done_at ? `done ${stamp(task.done_at)}` : due(task.due_at)}
            {!task.mine && `, ${task.person}`}
          </span>
        </label>
      ))}
      {works && !writing && (
        <Button look="quiet" className="-ml-1.5" onClick={() => setWriting(true)}>
          Add a task
        </Button>
      )}
      {writing && <NewTask work={work} own={me?.id ?? ""} onDone={() => setWriting(false)} />}
    </section>
  );
}

const lateTask = (task: Schemas["TaskRow"]) => !task.done_at && isLate(task.due_at);

function NewTask({ work, own, onDone }: { work: Work; own: string; onDone: () => void }) {
  const takers = useQuery(takersQuery).data ?? [];
  const [says, setSays] = useState("");
  const [when, setWhen] = useState(() => atNine(new Date()));
  const [person, setPerson] = useState(own);
  const leave = (event: KeyboardEvent) => {
    if (event.key !== "Escape") return;
    event.stopPropagation();
    onDone();
  };
  return (
    <form
      className="mt-1 flex flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void work.addTask({ says, due_at: new Date(when).toISOString(), person }).then((done) => done && onDone());
      }}
    >
      <TextInput
        aria-label="What is to be done"
        placeholder="What is to be done"
        autoFocus
        required
        maxLength={300}
        className="min-w-0 flex-1"
        value={says}
        onChange={(event) => setSays(event.target.value)}
        onKeyDown={leave}
      />
      <Button look="quiet" aria-label="Not now" onClick={onDone}>
        ×
      </Button>
      <span className="basis-full" />
      <TextInput
        aria-label="By when"
        type="datetime-local"
        required
        className="!w-52"
        value={when}
        onChange={(event) => setWhen(event.target.value)}
        onKeyDown={leave}
      />
      <Select aria-label="Who does it" value={person} onChange={(event) => setPerson(event.target.value)}>
        <option value={own}>me</option>
        {takers
          .filter((taker) => taker.id !== own)
          .map((taker) => (
            <option key={taker.id} value={taker.id}>
              {taker.name}
            </option>
          ))}
      </Select>
      <Button type="submit" disabled={!says.trim() || !when}>
        Add it
      </Button>
    </form>
  );
}
