import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { clsx } from "clsx";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Notice } from "../../../kit/ui";
import { Tags } from "../leads/Tags";
import { givenWords } from "../leads/words";
import { contactQuery, meQuery, queries, tagsQuery } from "../lib/query";
import { ago, stamp } from "../lib/time";
import { useAttempt } from "../lib/useAttempt";
import { Alike } from "./Alike";
import { Erase } from "./Erase";
import { Permissions } from "./Permissions";
import { Reach } from "./Reach";
import { Editable, Heading, Leads, Values } from "./parts";
import { nameOf, standingSentence, standingTone } from "./words";

/** One contact: who they are, their leads, what is on file and where it came from. */
export function ContactPane({ id, onGone }: { id: string; onGone: () => void }) {
  const { data: contact, error, isPending } = useQuery(contactQuery(id));
  const me = useQuery(meQuery).data;
  const { says, attempt } = useAttempt();
  const [erasing, setErasing] = useState(false);
  if (error) return <Notice tone="wrong">{error.message}</Notice>;
  if (isPending) return <p className="p-5 text-soft">Reading the contact</p>;
  const change = me?.works_leads
    ? (what: Schemas["AlsoGiven"]) => async (value: string) => {
        const body = { what, value };
        const now = await attempt(() =>
          ask(client.POST("/api/contacts/{contact}", { params: { path: { contact: id } }, body })),
        );
        if (!now) return false;
        queries.setQueryData(contactQuery(id).queryKey, now);
        void queries.invalidateQueries({ queryKey: ["contacts"] });
        return true;
      }
    : undefined;
  const tag = async (word: string, on: boolean) => {
    const params = { path: { contact: id } };
    const now = await attempt(() =>
      ask(client.POST("/api/contacts/{contact}/tags", { params, body: { tag: word, on } })),
    );
    if (!now) return false;
    queries.setQueryData(contactQuery(id).queryKey, now);
    void queries.invalidateQueries({ queryKey: tagsQuery.queryKey });
    return true;
  };
  // Who they are stands above; the rest is what they told of themselves.
  const told = contact.values.filter((value) => !value.field.startsWith("@"));
  const who = contact.values.filter((value) => value.field.startsWith("@"));
  return (
    <div className="px-5 py-4">
      <h1 className="font-serif text-xl font-semibold break-words">{nameOf(contact)}</h1>
      {contact.company && (
        <p className="text-sm">
          <Link
            to="/companies/$company"
            params={{ company: contact.company.id }}
            className="text-spruce hover:underline"
          >
            {contact.company.name}
          </Link>
          {contact.standing !== "none" && (
            <span className={clsx("ml-2", standingTone[contact.standing])}>
              is {standingSentence[contact.standing]}
            </span>
          )}
        </p>
      )}
      <p className="text-xs text-soft">
        On file since {stamp(contact.made_at)}
        {contact.known_on_site && " · signs in on your site"}
      </p>
      <Tags tags={contact.tags} works={me?.works_leads ?? false} onTag={tag} />
      {says && (
        <p role="alert" className="mt-2 text-sm text-clay">
          {says}
        </p>
      )}
      <dl className="mt-3 grid grid-cols-[8rem_1fr] gap-x-3 gap-y-1 text-sm">
        <Editable label="Name" value={contact.name} onChange={change?.("name")} />
        <Editable
          label="E-mail"
          value={contact.email}
          link={`mailto:${contact.email ?? ""}`}
          onChange={change?.("email")}
        />
        <Editable
          label="Phone"
          value={contact.phone}
          link={`tel:${contact.phone ?? ""}`}
          onChange={change?.("phone")}
        />
      </dl>
      {contact.given.length > 0 && (
        <>
          <Heading>Also given, and not settled</Heading>
          <ul className="text-sm">
            {contact.given.map((given) => (
              <li key={`${given.what} ${given.value}`} className="flex flex-wrap gap-x-2 py-0.5">
                <span className="text-soft">{givenWords[given.what]}</span>
                <span className="break-all">{given.value}</span>
                <Link to="/leads/$lead" params={{ lead: given.lead }} className="ml-auto text-spruce hover:underline">
                  settle it on the lead, {ago(given.given_at)}
                </Link>
              </li>
            ))}
          </ul>
        </>
      )}
      <Reach contact={contact} works={me?.works_leads ?? false} />
      <Permissions contact={contact} works={me?.works_leads ?? false} />
      {me?.works_leads && <Alike contact={contact} />}
      <Heading>Leads</Heading>
      <Leads leads={contact.leads} named={false} />
      <Heading>What they told of themselves</Heading>
      <Values values={told} />
      <Heading>Where their name and address came from</Heading>
      <Values values={who} />
      <div className="mt-6 flex flex-wrap items-center gap-2 border-t border-line pt-3 text-sm">
        <a
          className="rounded-md border border-line bg-paper px-3 py-1 font-medium hover:border-soft"
          href={`/api/contacts/${id}/card`}
          download
        >
          Contact card
        </a>
        {me?.administers && (
          <>
            <a
              className="rounded-md border border-line bg-paper px-3 py-1 font-medium hover:border-soft"
              href={`/api/contacts/${id}/held`}
              download
            >
              Everything held on them
            </a>
            <a
              className="rounded-md border border-line bg-paper px-3 py-1 font-medium hover:border-soft"
              href={`/api/contacts/${id}/held?form=page`}
              download
            >
              The same as a page
            </a>
            <Button look="quiet" className="!text-clay" onClick={() => setErasing(true)}>
              Erase…
            </Button>
          </>
        )}
      </div>
      {erasing && <Erase id={id} name={nameOf(contact)} onClose={() => setErasing(false)} onGone={onGone} />}
    </div>
  );
}
