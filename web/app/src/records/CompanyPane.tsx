import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Notice, Select } from "../../../kit/ui";
import { companyQuery, meQuery, queries, takersQuery } from "../lib/query";
import { stamp } from "../lib/time";
import { useAttempt } from "../lib/useAttempt";
import { Editable, Heading, Leads, Values } from "./parts";
import type { Standing } from "./words";
import { leadsWords, nameOf, standingDoes, standingWords, standings } from "./words";

/** One company: what it is to us, who looks after it, its people and leads. */
export function CompanyPane({ id }: { id: string }) {
  const { data: company, error, isPending } = useQuery(companyQuery(id));
  const me = useQuery(meQuery).data;
  const works = me?.works_leads ?? false;
  const takers = useQuery({ ...takersQuery, enabled: works }).data ?? [];
  const { says, attempt } = useAttempt();
  if (error) return <Notice tone="wrong">{error.message}</Notice>;
  if (isPending) return <p className="p-5 text-soft">Reading the company</p>;
  const change = async (body: Schemas["CompanyChange"]) => {
    const now = await attempt(() =>
      ask(client.POST("/api/companies/{company}", { params: { path: { company: id } }, body })),
    );
    if (!now) return false;
    queries.setQueryData(companyQuery(id).queryKey, now);
    void queries.invalidateQueries({ queryKey: ["companies"] });
    return true;
  };
  const told = company.values.filter((value) => !value.field.startsWith("@"));
  const known = takers.some((taker) => taker.id === company.owner?.id);
  return (
    <div className="px-5 py-4">
      <h1 className="font-serif text-xl font-semibold break-words">
        {company.name ?? company.domain ?? "No name given"}
      </h1>
      <p className="text-xs text-soft">
        On file since {stamp(company.made_at)}
        {company.domain && ` · whoever writes from ${company.domain} belongs here`}
      </p>
      {says && (
        <p role="alert" className="mt-2 text-sm text-clay">
          {says}
        </p>
      )}
      <dl className="mt-3 grid grid-cols-[8rem_1fr] gap-x-3 gap-y-1.5 text-sm">
        <Editable label="Name" value={company.name} onChange={works ? (name) => change({ name }) : undefined} />
        <dt className="pt-1 text-soft">
          <label htmlFor="standing">What it is to us</label>
        </dt>
        <dd>
          {works ? (
            <Select
              id="standing"
              value={company.standing}
              onChange={(event) => void change({ standing: event.target.value as Standing })}
            >
              {standings.map((standing) => (
                <option key={standing} value={standing}>
                  {standingWords[standing]}
                </option>
              ))}
            </Select>
          ) : (
            standingWords[company.standing]
          )}
          <span className="block text-xs text-soft">{standingDoes[company.standing]}</span>
        </dd>
        <dt className="pt-1 text-soft">
          <label htmlFor="looks-after">Looked after by</label>
        </dt>
        <dd>
          {works ? (
            <Select
              id="looks-after"
              value={company.owner?.id ?? ""}
              onChange={(event) => void change({ changes_owner: true, owner: event.target.value || null })}
            >
              <option value="">nobody in particular</option>
              {company.owner && !known && <option value={company.owner.id}>{company.owner.name}</option>}
              {takers.map((taker) => (
                <option key={taker.id} value={taker.id}>
                  {taker.name}
                </option>
              ))}
            </Select>
          ) : (
            (company.owner?.name ?? "nobody in particular")
          )}
          <span className="block text-xs text-soft">
            {company.owner
              ? "New leads of the company go to them, unless the contact has a rep already."
              : "New leads of the company are given out by the rules."}
          </span>
        </dd>
      </dl>
      <Heading>People</Heading>
      {company.contacts.length === 0 && <p className="text-sm text-soft">Nobody that you may see.</p>}
      <ul className="text-sm">
        {company.contacts.map((contact) => (
          <li key={contact.id} className="flex items-baseline gap-3 border-b border-hair py-1">
            <Link
              to="/contacts/$contact"
              params={{ contact: contact.id }}
              className="min-w-0 truncate text-spruce hover:underline"
            >
              {nameOf(contact)}
            </Link>
            <span className="min-w-0 truncate text-xs text-soft">{contact.name ? contact.email : ""}</span>
            <span className="ml-auto shrink-0 text-soft figures">{leadsWords(contact.leads, 0)}</span>
          </li>
        ))}
      </ul>
      <Heading>Leads</Heading>
      <Leads leads={company.leads} named />
      <Heading>What they told of the company</Heading>
      <Values values={told} />
    </div>
  );
}
