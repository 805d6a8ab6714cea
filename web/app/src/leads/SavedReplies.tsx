import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, TextArea, TextInput } from "../../../kit/ui";
import { mailQuery, queries, repliesQuery } from "../lib/query";
import { useAttempt } from "../lib/useAttempt";

type Reply = Schemas["SavedReply"];

/** The workspace's saved replies: made of what is written, changed, taken out and put back. */
export function SavedReplies({
  letter,
  chips,
  lead,
}: {
  letter: { subject: string; body: string };
  chips: Schemas["ReplyChip"][];
  lead: string;
}) {
  const replies = useQuery(repliesQuery).data ?? [];
  const [open, setOpen] = useState<Reply | null>(null);
  const [gone, setGone] = useState<Reply | null>(null);
  const { says, attempt } = useAttempt();
  const keep = async (change: () => Promise<Reply[]>) => {
    const now = await attempt(change);
    if (!now) return false;
    queries.setQueryData(repliesQuery.queryKey, now);
    void queries.invalidateQueries({ queryKey: mailQuery(lead).queryKey });
    return true;
  };
  const put = (reply: Reply) => keep(() => ask(client.POST("/api/replies", { body: reply })));
  const out = async (reply: Reply) => {
    const params = { path: { reply: reply.id } };
    if (await keep(() => ask(client.DELETE("/api/replies/{reply}", { params })))) setGone(reply);
  };
  return (
    <details className="mt-2 border-t border-hair pt-1.5">
      <summary className="cursor-pointer text-xs text-soft">Saved replies</summary>
      <ul className="mt-1">
        {replies.map((reply) => (
          <li key={reply.id} className="flex items-baseline gap-2 py-0.5">
            <span className="min-w-0 grow truncate">{reply.name}</span>
            <Button look="quiet" aria-label={`Change ${reply.name}`} onClick={() => setOpen(reply)}>
              Change
            </Button>
            <Button look="quiet" aria-label={`Take out ${reply.name}`} onClick={() => void out(reply)}>
              Take out
            </Button>
          </li>
        ))}
      </ul>
      {gone && (
        <p role="status" className="text-xs">
          “{gone.name}” is taken out.
          <Button look="quiet" onClick={() => void put({ ...gone, revision: 0 }).then((done) => done && setGone(null))}>
            Put it back
          </Button>
        </p>
      )}
      {says && (
        <p role="alert" className="text-xs text-clay">
          {says}
        </p>
      )}
      {open ? (
        <ReplyForm
          key={open.id}
          reply={open}
          chips={chips}
          onKeep={async (reply) => (await put(reply)) && setOpen(null)}
          onClose={() => setOpen(null)}
        />
      ) : (
        <Button
          look="quiet"
          className="-ml-1.5"
          onClick={() => setOpen({ id: crypto.randomUUID(), name: "", ...plain(letter), revision: 0 })}
        >
          Save what is written as a reply…
        </Button>
      )}
    </details>
  );
}

/** A brace that was typed is no chip. */
const plain = (letter: { subject: string; body: string }) => ({
  subject: letter.subject.replaceAll("{", "{{"),
  body: letter.body.replaceAll("{", "{{"),
});

function ReplyForm({
  reply,
  chips,
  onKeep,
  onClose,
}: {
  reply: Reply;
  chips: Schemas["ReplyChip"][];
  onKeep: (reply: Reply) => Promise<unknown>;
  onClose: () => void;
}) {
  const [now, setNow] = useState(reply);
  return (
    <form
      aria-label="A saved reply"
      className="mt-1 grid gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        void onKeep(now);
      }}
    >
      <TextInput
        aria-label="Name of the reply"
        placeholder="Name, for example: Price list"
        autoFocus
        maxLength={60}
        value={now.name}
        onChange={(event) => setNow({ ...now, name: event.target.value })}
      />
      <TextInput
        aria-label="Subject of the reply"
        placeholder="Subject"
        maxLength={150}
        value={now.subject}
        onChange={(event) => setNow({ ...now, subject: event.target.value })}
      />
      <TextArea
        aria-label="Text of the reply"
        className="min-h-28"
        maxLength={10_000}
        value={now.body}
        onChange={(event) => setNow({ ...now, body: event.target.value })}
      />
      <p className="text-xs text-soft">
        Words in braces show what is known of the lead: {"{name.given|there}"} shows “there” where no name is known. Of
        this one:{" "}
        {chips
          .slice(0, 12)
          .map(({ name }) => `{${name}}`)
          .join(", ")}
        .
      </p>
      <div className="flex gap-2">
        <Button type="submit">Keep the reply</Button>
        <Button look="quiet" onClick={onClose}>
          Not now
        </Button>
      </div>
    </form>
  );
}
