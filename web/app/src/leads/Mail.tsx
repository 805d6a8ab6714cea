import { useQuery } from "@tanstack/react-query";
import type { KeyboardEvent } from "react";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { Button, Select, TextArea, TextInput } from "../../../kit/ui";
import { mailQuery } from "../lib/query";
import { stamp } from "../lib/time";
import { SavedReplies } from "./SavedReplies";
import type { Letter } from "./mails";
import { freshLetter } from "./mails";
import type { Work } from "./useWork";

/** What is being written, by lead: looking at another one loses nothing. */
const drafts = new Map<string, Letter>();

/** Mails from a lead: a button, the mail that is written, and those that were. */
export function Mail({ lead, work }: { lead: Schemas["LeadDetail"]; work: Work }) {
  const id = lead.row.id;
  const [open, setOpen] = useState(() => drafts.has(id));
  return (
    <div className="mt-1.5 text-sm">
      {lead.email && (
        <Button
          look="quiet"
          className="-ml-1.5"
          data-write
          aria-expanded={open}
          title="Shortcut E"
          onClick={() => setOpen(!open)}
        >
          Write a mail…
        </Button>
      )}
      {open && <Compose lead={lead} work={work} onClose={() => setOpen(false)} />}
      {lead.mails.length > 0 && <Mails lead={lead} work={work} />}
    </div>
  );
}

function Compose({ lead, work, onClose }: { lead: Schemas["LeadDetail"]; work: Work; onClose: () => void }) {
  const id = lead.row.id;
  const { data: begun, error } = useQuery(mailQuery(id));
  const [letter, setLetter] = useState(() => drafts.get(id) ?? freshLetter());
  const [missing, setMissing] = useState<string[]>([]);
  const change = (part: Partial<Letter>) => {
    const next = { ...letter, ...part };
    drafts.set(id, next);
    setLetter(next);
  };
  const drop = () => {
    drafts.delete(id);
    onClose();
  };
  if (error) return <p className="text-clay">{error.message}</p>;
  if (!begun) return <p className="text-soft">Looking for saved replies</p>;
  if (begun.stopped) return <p className="text-clay">{begun.stopped}</p>;
  const send = async () => {
    if (!letter.subject.trim() || !letter.body.trim()) return;
    if (await work.write(letter)) drop();
  };
  const keys = (event: KeyboardEvent) => {
    if (event.key === "Enter" && (event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      void send();
    }
    if (event.key === "Escape") onClose();
  };
  return (
    <div className="mt-1 rounded-md border border-line bg-oat/60 px-3 py-2.5">
      <form
        aria-label="A mail to them"
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        <div className="flex flex-wrap items-center gap-2">
          <span className="text-soft">To</span> <span className="break-all">{begun.recipient}</span>
          {begun.replies.length > 0 && (
            <Select
              aria-label="Begin with a saved reply"
              className="ml-auto !py-0.5 !text-xs"
              value=""
              onChange={(event) => {
                const reply = begun.replies.find((known) => known.id === event.target.value);
                if (!reply) return;
                change({ subject: reply.subject, body: reply.body });
                setMissing(reply.missing);
              }}
            >
              <option value="">Begin with a saved reply</option>
              {begun.replies.map((reply) => (
                <option key={reply.id} value={reply.id}>
                  {reply.name}
                </option>
              ))}
            </Select>
          )}
        </div>
        <TextInput
          aria-label="Subject"
          placeholder="Subject"
          className="mt-1.5"
          autoFocus
          maxLength={150}
          value={letter.subject}
          onChange={(event) => change({ subject: event.target.value })}
          onKeyDown={keys}
        />
        <TextArea
          aria-label="What you write"
          placeholder="What you write"
          className="mt-1.5 min-h-32"
          maxLength={10_000}
          value={letter.body}
          onChange={(event) => change({ body: event.target.value })}
          onKeyDown={keys}
        />
        {missing.length > 0 && (
          <p className="mt-1 text-xs text-amber">Not known of this lead, and left out: {missing.join(", ")}.</p>
        )}
        <div className="mt-1.5 flex flex-wrap items-center gap-2">
          <Button
            look="primary"
            type="submit"
            title="Ctrl Enter"
            disabled={!letter.subject.trim() || !letter.body.trim()}
          >
            Send
          </Button>
          <Button onClick={drop}>Drop it</Button>
          <span className="text-xs text-soft">Under your name; what they answer comes to your own mailbox.</span>
        </div>
      </form>
      <SavedReplies letter={letter} chips={begun.chips} lead={id} />
    </div>
  );
}

function Mails({ lead, work }: { lead: Schemas["LeadDetail"]; work: Work }) {
  return (
    <ul aria-label="Mails to them" className="mt-1">
      {lead.mails.map((mail) => (
        <li key={mail.id} className="border-t border-hair py-1">
          <details>
            <summary className="flex cursor-pointer flex-wrap items-baseline gap-x-2">
              <span className="min-w-0 truncate font-medium">{mail.subject}</span>
              <span className={`text-xs ${mail.state === "refused" ? "text-clay" : "text-soft"}`}>{stateOf(mail)}</span>
            </summary>
            <p className="mt-1 break-words whitespace-pre-wrap">{mail.body}</p>
            {mail.answer && <p className="mt-1 text-xs text-clay">Their mail server said: {mail.answer}</p>}
          </details>
          {mail.state === "waiting" && mail.mine && (
            <Button look="quiet" className="-ml-1.5" onClick={() => void work.takeMailBack(mail.id)}>
              Do not send it
            </Button>
          )}
        </li>
      ))}
    </ul>
  );
}

function stateOf(mail: Schemas["MailRow"]): string {
  const by = mail.mine ? "you" : mail.person;
  if (mail.state === "waiting") return "leaves in a few seconds";
  if (mail.state === "refused") return `refused by their mail server, ${stamp(mail.at)}, ${by}`;
  return `sent ${stamp(mail.at)}, ${by}`;
}
