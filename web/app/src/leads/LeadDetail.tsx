import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { clsx } from "clsx";

import type { Schemas } from "../../../api";
import { Notice } from "../../../kit/ui";
import { leadQuery, meQuery } from "../lib/query";
import { ago, day, stamp } from "../lib/time";
import { standingSentence, standingTone } from "../records/words";
import { Differs } from "./Differs";
import { WhyTheyQualify } from "./WhyTheyQualify";
import { CallBar } from "./CallBar";
import { AskFirst, Marks } from "./Outcome";
import { Mail } from "./Mail";
import { PassOn } from "./PassOn";
import { Tags } from "./Tags";
import { Tasks } from "./Tasks";
import { Transcript } from "./Transcript";
import type { Work } from "./useWork";
import type { Status } from "./words";
import { came, isAsking, notGivenWords, statusWords } from "./words";

/** A lead: why it qualifies, what they told us, in their words, why it is whose it is, what happened so far. */
export function LeadDetail({
  id,
  work,
  mark,
  onMark,
}: {
  id: string;
  work: Work;
  mark: Status | null;
  onMark: (mark: Status | null) => void;
}) {
  const { data: lead, error, isPending } = useQuery(leadQuery(id));
  const me = useQuery(meQuery).data;
  const { say, says } = work;
  const act = (status: Status) => {
    if (isAsking(status)) onMark(status);
    else void say(status);
  };

  if (error) return <Notice tone="wrong">{error.message}</Notice>;
  if (isPending || !lead) return <p className="p-5 text-soft">Reading the lead</p>;
  const { row } = lead;
  // What the person is: the first choice that belongs to the contact.
  const role = lead.fields.find((field) => field.record === "contact" && field.type === "choice");
  return (
    <div className="px-5 py-4">
      <div className="flex items-baseline gap-2">
        <h1 className="font-serif text-xl font-semibold">{row.name ?? "No name given"}</h1>
        <span
          className={clsx(
            "ml-auto text-sm font-semibold whitespace-nowrap",
            row.status === "new" ? "text-amber" : row.status === "won" ? "text-spruce" : "text-soft",
          )}
        >
          {statusWords[row.status]}
        </span>
      </div>
      <p className="text-sm text-soft">
        {[row.company, role?.shown.toLowerCase()].filter(Boolean).join(", ")}
        <span className="ml-2 inline-flex gap-2 text-xs">
          <Link to="/contacts/$contact" params={{ contact: lead.contact }} className="text-spruce hover:underline">
            Contact
          </Link>
          {lead.company && (
            <Link
              to="/companies/$company"
              params={{ company: lead.company.id }}
              className="text-spruce hover:underline"
            >
              Company
            </Link>
          )}
          {lead.elsewhere.map((there) => (
            <a
              key={there.link}
              href={there.link}
              target="_blank"
              rel="noreferrer"
              className="text-spruce hover:underline"
            >
              In {there.name}
            </a>
          ))}
        </span>
      </p>
      <Tags tags={row.tags} works={me?.works_leads ?? false} onTag={work.tag} />
      {lead.company && lead.company.standing !== "none" && (
        <p className={clsx("text-sm", standingTone[lead.company.standing])}>
          {lead.company.name} is {standingSentence[lead.company.standing]}.
        </p>
      )}
      {row.unfinished && (
        <p className="text-sm text-amber">
          Left before the end{lead.left_at ? `, at “${lead.left_at}”` : ""}. What is missing can be asked on the call.
        </p>
      )}
      {came(lead.came).length > 0 && <p className="text-xs break-words text-soft">{came(lead.came).join(" · ")}</p>}
      {me?.works_leads ? (
        <>
          <CallBar lead={lead} work={work} />
          <Mail key={row.id} lead={lead} work={work} />
          <Marks status={row.status} onMark={act} />
          <PassOn lead={lead} work={work} />
        </>
      ) : (
        <p className="mt-2 text-sm text-soft">Only reps and sales leads say what became of a lead.</p>
      )}
      {isAsking(mark) && (
        <AskFirst key={mark} status={mark} onSay={(details) => void say(mark, details)} onCancel={() => onMark(null)} />
      )}
      {says && (
        <p role="alert" className="mt-2 text-sm text-clay">
          {says}
        </p>
      )}
      {lead.reason && <p className="mt-2 text-sm">Because: {lead.reason}</p>}
      {lead.amount && (
        <p className="mt-2 text-sm">
          Worth <b className="font-semibold figures">{[lead.amount, lead.currency].filter(Boolean).join(" ")}</b>
        </p>
      )}
      {lead.later_on && <p className="mt-2 text-sm">Call again on {day(lead.later_on)}</p>}
      {lead.lacks.length > 0 && (
        <p className="mt-2 text-sm text-amber">Lacks {lead.lacks.join(", ")}: ask for it on the call.</p>
      )}
      {notGivenWords(lead.not_given).map((line) => (
        <p key={line} className="mt-1 text-sm text-amber">
          {line}
        </p>
      ))}
      <Tasks lead={lead} work={work} />
      <Differs lead={lead} works={me?.works_leads ?? false} />

      {lead.score && <WhyTheyQualify lead={lead} works={me?.works_leads ?? false} />}

      <Heading>What they told us</Heading>
      <dl className="grid grid-cols-[8rem_1fr] gap-x-3 gap-y-1">
        {lead.fields.map((field) => (
          <Told key={field.id} field={field} />
        ))}
      </dl>

      <Heading>Why {row.mine ? "you" : (row.owner ?? "nobody yet")}</Heading>
      <ol className="text-sm">
        {lead.decision.map((step) => (
          <li key={step}>{step}</li>
        ))}
      </ol>

      <Heading>In their words</Heading>
      <Transcript lines={lead.transcript} />

      <Heading>So far</Heading>
      <ol className="grid grid-cols-[8rem_1fr] gap-x-3 gap-y-0.5 text-sm">
        {lead.log.map((entry) => (
          <li key={entry.at + entry.what} className="contents">
            <span className="text-soft figures" title={ago(entry.at)}>
              {stamp(entry.at)}
            </span>
            <span>
              {entry.what}
              {entry.what.startsWith("Filed from") && `, release ${lead.release}`}
              {entry.person && <span className="text-soft">, {entry.person}</span>}
            </span>
          </li>
        ))}
      </ol>
    </div>
  );
}

function Heading({ children }: { children: React.ReactNode }) {
  return <h2 className="mt-5 mb-1.5 text-xs font-semibold text-soft">{children}</h2>;
}

function Told({ field }: { field: Schemas["RecordField"] }) {
  const link =
    field.type === "email" ? `mailto:${field.shown}` : field.type === "phone" ? `tel:${String(field.value)}` : null;
  return (
    <>
      <dt className="text-soft">{field.label}</dt>
      <dd className="break-words">
        {link ? (
          <a className="inline-block min-h-6 text-spruce hover:underline" href={link}>
            {field.shown}
          </a>
        ) : (
          field.shown
        )}
        {field.unsure && <span className="ml-1.5 text-xs text-amber">not sure of it</span>}
      </dd>
    </>
  );
}
