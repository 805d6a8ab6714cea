import { Link } from "@tanstack/react-router";
import type { ReactNode } from "react";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { BandMark, Button, TextInput } from "../../../kit/ui";
import { statusWords } from "../leads/words";
import { ago, stamp } from "../lib/time";
import { sourceWords } from "./words";

export function Heading({ children }: { children: ReactNode }) {
  return <h2 className="mt-5 mb-1.5 text-xs font-semibold text-soft">{children}</h2>;
}

/** Leads of a contact or a company, the newest first, each opened by its name. */
export function Leads({ leads, named }: { leads: Schemas["ContactLead"][]; named: boolean }) {
  if (leads.length === 0) return <p className="text-sm text-soft">None that you may see.</p>;
  return (
    <ul className="text-sm">
      {leads.map((lead) => (
        <li key={lead.id} className="flex items-baseline gap-3 border-b border-hair py-1">
          <span className="w-20 shrink-0 text-soft figures" title={stamp(lead.filed_at)}>
            {ago(lead.filed_at)}
          </span>
          <Link
            to="/leads/$lead"
            params={{ lead: lead.id }}
            className="min-w-0 grow truncate text-spruce hover:underline"
            title={lead.wants}
          >
            {(named && lead.name) || lead.wants || lead.dialogue}
          </Link>
          {lead.band && (
            <span className="shrink-0 whitespace-nowrap figures">
              {lead.total} <BandMark label={lead.band} rank={lead.band_rank} />
            </span>
          )}
          <span className="w-32 shrink-0 text-right whitespace-nowrap text-soft">
            {lead.unfinished ? "Unfinished" : statusWords[lead.status]}
          </span>
        </li>
      ))}
    </ul>
  );
}

/** What is on file, each value with where it came from; what stood there before on demand. */
export function Values({ values }: { values: Schemas["RecordValue"][] }) {
  if (values.length === 0) return <p className="text-sm text-soft">Nothing yet.</p>;
  return (
    <dl className="grid grid-cols-[8rem_1fr] gap-x-3 gap-y-1 text-sm">
      {values.map((value) => (
        <div key={value.field} className="contents">
          <dt className="text-soft">{value.label}</dt>
          <dd className="min-w-0">
            <span className="break-words">{value.shown}</span>
            <span className="block text-xs text-soft">
              {sourceWords(value)}, {ago(value.at)}
              {value.before && <> · before: {value.before}</>}
            </span>
          </dd>
        </div>
      ))}
    </dl>
  );
}

/** A part of who they are that is changed in place. */
export function Editable({
  label,
  value,
  link,
  onChange,
}: {
  label: string;
  value: string | null | undefined;
  /** What pressing the value opens, where it opens something. */
  link?: string | undefined;
  /** Keeps the value; gives whether it was taken. Absent for somebody who may not change it. */
  onChange: ((value: string) => Promise<boolean>) | undefined;
}) {
  const [text, setText] = useState<string | null>(null);
  const id = `edit-${label.toLowerCase().replaceAll(" ", "-")}`;
  return (
    <>
      <dt className="self-baseline text-soft">{text === null ? label : <label htmlFor={id}>{label}</label>}</dt>
      <dd className="min-w-0 self-baseline">
        {text === null ? (
          <span className="flex items-baseline gap-2">
            {value && link ? (
              <a className="inline-block min-h-6 truncate text-spruce hover:underline" href={link}>
                {value}
              </a>
            ) : (
              <span className="min-h-6 break-words">{value ?? <span className="text-soft">not known</span>}</span>
            )}
            {onChange && (
              <Button
                look="quiet"
                className="!px-1 !py-0 text-xs"
                aria-label={`Change ${label.toLowerCase()}`}
                onClick={() => setText(value ?? "")}
              >
                Change
              </Button>
            )}
          </span>
        ) : (
          <form
            className="flex gap-1.5"
            onSubmit={(event) => {
              event.preventDefault();
              void onChange?.(text).then((taken) => taken && setText(null));
            }}
          >
            <TextInput
              id={id}
              autoFocus
              maxLength={200}
              value={text}
              onChange={(event) => setText(event.target.value)}
              onKeyDown={(event) => {
                if (event.key === "Escape") setText(null);
              }}
            />
            <Button type="submit">Keep</Button>
            <Button look="quiet" onClick={() => setText(null)}>
              Leave it
            </Button>
          </form>
        )}
      </dd>
    </>
  );
}
