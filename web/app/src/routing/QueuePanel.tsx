import { useMutation } from "@tanstack/react-query";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Select } from "../../../kit/ui";
import { Members } from "./Members";
import { QueueForm } from "./QueueForm";
import { took } from "./kept";
import { hoursWords, picksWords } from "./words";

type Settings = Schemas["RoutingView"];
type Queue = Schemas["QueueSetting"];
type Body = Schemas["QueueBody"];

const bodyOf = (queue: Queue | null): Body =>
  queue
    ? {
        key: queue.key,
        revision: queue.revision,
        name: queue.name,
        picks: queue.picks,
        fixed_owner: queue.fixed_owner,
        hours: queue.hours,
        passes_on: queue.passes_on,
        offer_after: queue.offer_after,
        next: queue.next,
        members: queue.members.map(({ person, weight, untried_limit, day_limit }) => ({
          person,
          weight,
          untried_limit,
          day_limit,
        })),
      }
    : { name: "", picks: "rotation", members: [], offer_after: 10 };

/** A queue: how it picks, when it is open, whom it asks next, who takes part. Shared by the dialogues that name it. */
export function QueuePanel({
  settings,
  shown,
  onShow,
}: {
  settings: Settings;
  /** The queue; nothing for a new one. */
  shown: Queue | null;
  onShow: (key: string) => void;
}) {
  const [editing, setEditing] = useState<Body | null>(shown ? null : bodyOf(null));
  const put = useMutation({
    mutationFn: (body: Body) => ask(client.POST("/api/routing", { body })),
    onSuccess: (found, body) => {
      took(found);
      setEditing(null);
      const made = found.queues.find((queue) => queue.key === body.key || queue.name === body.name.trim());
      if (made) onShow(made.key);
    },
  });
  const next = settings.queues.find((queue) => queue.key === shown?.next);
  return (
    <section aria-label="Queue" className="mt-6">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <h2 className="font-serif text-base font-semibold">{shown ? shown.name : "A new queue"}</h2>
        <Select
          aria-label="Queue"
          className="!py-0 !text-xs"
          value={shown?.key ?? "@new"}
          onChange={(event) => onShow(event.target.value)}
        >
          {settings.queues.map((queue) => (
            <option key={queue.key} value={queue.key}>
              {queue.name}
            </option>
          ))}
          <option value="@new">a new queue</option>
        </Select>
        {shown && !editing && (
          <Button look="quiet" onClick={() => setEditing(bodyOf(shown))}>
            Change
          </Button>
        )}
      </div>
      {shown && !editing && (
        <>
          <p className="mt-0.5 text-xs text-soft">
            {sentence(picksWords[shown.picks])}, {hoursWords(shown.hours)}.{" "}
            {next
              ? `Nobody free${shown.passes_on ? " or closed" : ""}: ${next.name}, then the queue itself. `
              : "Nobody free: it waits in the queue. "}
            {shown.serves.length > 0 ? `Serves ${shown.serves.join(", ")}.` : "No dialogue names it."}
            {shown.waiting > 0 && ` ${shown.waiting} lead${shown.waiting === 1 ? "" : "s"} in it without an owner.`}
          </p>
          <Members settings={settings} queue={shown} />
        </>
      )}
      {editing && (
        <QueueForm
          body={editing}
          settings={settings}
          own={shown?.key ?? null}
          busy={put.isPending}
          error={put.error}
          onChange={setEditing}
          onKeep={() => put.mutate(editing)}
          onCancel={() => {
            put.reset();
            setEditing(null);
            if (!shown) onShow(settings.queues[0]?.key ?? "");
          }}
        />
      )}
    </section>
  );
}

const sentence = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);
