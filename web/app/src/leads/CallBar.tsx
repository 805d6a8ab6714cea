import { useEffect, useState } from "react";

import type { Schemas } from "../../../api";
import { Button, TextInput } from "../../../kit/ui";
import { clockThere, due, stamp } from "../lib/time";
import { channelWords } from "../records/words";
import type { Work } from "./useWork";
import { callWords, nextWords, tryWords } from "./words";

/** The box that a note is written into; the screen's shortcut goes there. */
export const NOTE_BOX = "lead-note";

/** The phone first, then what came of the call, then what comes next. */
export function CallBar({ lead, work }: { lead: Schemas["LeadDetail"]; work: Work }) {
  const { row } = lead;
  return (
    <div className="mt-2.5">
      <Contact
        stopped={lead.company?.standing === "do_not_contact"}
        reach={lead.reach}
        phone={lead.phone}
        email={lead.email}
        untried={row.tries === 0}
      />
      <There row={row} />
      <div className="mt-2.5 flex flex-wrap gap-1.5" role="group" aria-label="What came of the call">
        {callWords.map(({ key, label, keys }) => (
          <Button key={key} title={`Shortcut ${keys}`} onClick={() => void work.call(key)}>
            {label} <kbd className="ml-1 font-sans text-xs text-soft">{keys}</kbd>
          </Button>
        ))}
      </div>
      <form
        className="mt-2 flex gap-1.5"
        onSubmit={(event) => {
          event.preventDefault();
          void work.keepNote();
        }}
      >
        <TextInput
          id={NOTE_BOX}
          aria-label="Note"
          placeholder="What was said; kept with the call, or by Enter as a note"
          maxLength={2_000}
          value={work.note}
          onChange={(event) => work.setNote(event.target.value)}
          onKeyDown={(event) => event.key === "Escape" && event.currentTarget.blur()}
        />
      </form>
      <Next key={`${row.next_at} ${lead.revision}`} lead={lead} work={work} />
    </div>
  );
}

/** "at 23:00", "in 12 min", "tomorrow 08:00". */
const begins = (when: string) => due(when).replace(/^(?=\d)/, "at ");

/** What their clock shows, where it is not the reader's; and until when nobody calls there. */
function There({ row }: { row: Schemas["LeadRow"] }) {
  const there = clockThere(row.zone);
  if (!row.callable_at) {
    return there ? <p className="mt-1 text-xs text-soft figures">It is {there} where they are.</p> : null;
  }
  return (
    <p className="mt-1 text-xs text-amber figures">
      {there ? `It is ${there} where they are, outside calling hours.` : "It is outside calling hours where they are."}{" "}
      They begin {begins(row.callable_at)}.
    </p>
  );
}

/** Phone and address, the way they prefer first; what they refused is not offered. */
function Contact({
  phone,
  email,
  untried,
  stopped,
  reach,
}: {
  phone?: string | null;
  email?: string | null;
  untried: boolean;
  /** True where the company is not to be contacted. */
  stopped: boolean;
  reach: Schemas["Reach"];
}) {
  if (stopped) return <p className="text-sm text-clay">Not to be called or written to.</p>;
  if (!phone && !email) return <p className="text-sm text-amber">They left neither a phone number nor an address.</p>;
  const { prefers, refuses, withdrawn } = reach;
  const stops = [...refuses, ...withdrawn];
  const call = phone && !stops.includes("call") && <Phone key="call" phone={phone} first={untried} />;
  const mail = email && !stops.includes("mail") && (
    <a key="mail" className="text-spruce hover:underline" href={`mailto:${email}`}>
      {email}
    </a>
  );
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        {prefers === "mail" ? [mail, call] : [call, mail]}
        {prefers && <span className="text-xs text-soft">They prefer {channelWords[prefers]}.</span>}
      </div>
      {refuses.length > 0 && (
        <p className="mt-1 text-sm text-clay">
          They want no {refuses.map((one) => channelWords[one]).join(" and no ")}.
        </p>
      )}
      {withdrawn.length > 0 && (
        <p className="mt-1 text-sm text-clay">
          They withdrew their permission for {withdrawn.map((one) => channelWords[one]).join(" and ")}.
        </p>
      )}
    </>
  );
}

function Phone({ phone, first }: { phone: string; first: boolean }) {
  const [copied, setCopied] = useState(false);
  return (
    <span className="flex items-center gap-x-3">
      <a
        href={`tel:${phone}`}
        data-dial
        className={
          first
            ? "rounded-md border border-spruce bg-spruce px-3 py-1 font-medium text-on-spruce"
            : "rounded-md border border-line bg-paper px-3 py-1 font-medium text-spruce hover:border-soft"
        }
      >
        Call <span className="figures">{phone}</span>
      </a>
      <Button
        look="quiet"
        onClick={() => {
          void navigator.clipboard.writeText(phone).then(() => setCopied(true));
        }}
      >
        {copied ? "Copied" : "Copy"}
      </Button>
    </span>
  );
}

/** Tomorrow at nine, by the reader's clock. */
function tomorrow(): Date {
  const day = new Date();
  day.setDate(day.getDate() + 1);
  day.setHours(9, 0, 0, 0);
  return day;
}

const inAnHour = () => new Date(Date.now() + 3_600_000);

/** What comes next and when; the plan proposes it, anything else is one press away. */
function Next({ lead, work }: { lead: Schemas["LeadDetail"]; work: Work }) {
  const [picking, setPicking] = useState(false);
  const { row } = lead;
  const undo = lead.step_back;
  if (!row.next_what || !row.next_at) return undo ? <StepBack work={work} /> : null;
  // Nothing is late while nobody calls there.
  const at = row.callable_at && row.callable_at > row.next_at ? row.callable_at : row.next_at;
  const words = due(at);
  const tries = tryWords(row);
  return (
    <div className="mt-2.5 border-t border-hair pt-2 text-sm">
      <div className="flex flex-wrap items-center gap-x-2">
        <span>
          <span className="text-soft">Next: </span>
          <b className="font-semibold">{nextWords(row)}</b>
          {tries && <span className="text-soft"> (try {tries})</span>}
          {", "}
          <span title={stamp(at)} className={words.endsWith("late") ? "text-clay" : ""}>
            {words.endsWith("late") && row.tries === 0 ? "now" : words}
          </span>
        </span>
        <span className="ml-auto flex">
          {row.next_what === "give_up" ? (
            <Button look="quiet" className="!text-clay" onClick={() => void work.say("not_reached")}>
              Not reached
            </Button>
          ) : (
            <Button look="quiet" onClick={() => void work.next(inAnHour())}>
              In an hour
            </Button>
          )}
          <Button look="quiet" onClick={() => void work.next(tomorrow())}>
            Tomorrow
          </Button>
          <Button look="quiet" aria-expanded={picking} onClick={() => setPicking(!picking)}>
            On…
          </Button>
        </span>
      </div>
      {picking && (
        <form
          className="mt-1 flex gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            const at = new Date(String(new FormData(event.currentTarget).get("at")));
            if (!Number.isNaN(at.getTime())) void work.next(at);
          }}
        >
          <TextInput aria-label="When" name="at" type="datetime-local" required autoFocus className="!w-56" />
          <Button type="submit">Keep</Button>
        </form>
      )}
      {undo && <StepBack work={work} />}
    </div>
  );
}

/** How long the way back is offered in words; the key works on for ten minutes. */
const OFFERED_MS = 10_000;

function StepBack({ work }: { work: Work }) {
  const [offered, setOffered] = useState(true);
  useEffect(() => {
    const timer = setTimeout(() => setOffered(false), OFFERED_MS);
    return () => clearTimeout(timer);
  }, []);
  if (!offered) return null;
  return (
    <p role="status" className="mt-1">
      <span className="text-spruce">Kept.</span>
      <Button look="quiet" title="Shortcut Z" onClick={() => void work.back()}>
        Undo
      </Button>
      <span className="text-soft">Enter opens the next to call.</span>
    </p>
  );
}
