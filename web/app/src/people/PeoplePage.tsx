import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Notice, Select, TextInput } from "../../../kit/ui";
import { BottomLine } from "../frame/BottomLine";
import { meQuery, peopleQuery, queries } from "../lib/query";
import { ago } from "../lib/time";
import { useAttempt } from "../lib/useAttempt";
import { Invitations } from "./Invitations";
import { faceOf } from "./faces";
import type { Role } from "./words";
import { roleWords, roles } from "./words";

/** Who is in the workspace, what they may do, and who is invited. */
export function PeoplePage() {
  const { data, error, isPending } = useQuery(peopleQuery);
  const me = useQuery(meQuery).data;
  const { says, setSays, attempt } = useAttempt();
  const [done, setDone] = useState("");
  const act = async (what: () => Promise<unknown>, then = "") => {
    setDone("");
    const worked = (await attempt(what)) !== null;
    if (worked && then) setDone(then);
    await queries.invalidateQueries({ queryKey: peopleQuery.queryKey });
    // One's own role may have changed.
    await queries.invalidateQueries({ queryKey: meQuery.queryKey });
  };
  const change = (person: string, body: Schemas["PersonChange"], then = "") =>
    act(() => ask(client.POST("/api/people/{person}", { params: { path: { person } }, body })), then);
  const shareOut = (row: Schemas["PersonRow"]) =>
    act(async () => {
      const { leads } = await ask(
        client.POST("/api/team/{person}/share-out", { params: { path: { person: row.id } } }),
      );
      setDone(`${leads} of ${row.name}’s leads ${leads === 1 ? "is" : "are"} being dealt anew by their queues.`);
    });
  const people = data?.people ?? [];
  const teams = [...new Set(people.flatMap((row) => row.team ?? []))].sort();
  const team = (person: Schemas["PersonRow"], name: string) =>
    void change(
      person.id,
      { team: name },
      name ? `${person.name} is in ${name} now.` : `${person.name} is in no team now.`,
    );
  const active = people.filter((row) => row.active);
  const left = people.filter((row) => !row.active);
  const row = (person: Schemas["PersonRow"]) => (
    <tr key={person.id} className="border-b border-line [&_td]:py-1.5 [&_td]:pr-3">
      <td>
        {person.picture && (
          <img
            src={faceOf(person.id, person.picture) ?? ""}
            alt=""
            className="float-left mt-0.5 mr-2 size-8 rounded-full object-cover"
          />
        )}
        <span className={person.active ? "" : "text-soft"}>{person.name}</span>
        {person.id === me?.id && <span className="text-soft"> (you)</span>}
        <span className="block text-xs text-soft">{person.email}</span>
      </td>
      <td>
        {person.active ? (
          <Select
            aria-label={`Role of ${person.name}`}
            className="!py-0.5"
            value={person.role}
            onChange={(event) => {
              const role = event.target.value as Role;
              void change(person.id, { role }, `${person.name} is ${roleWords[role].a} now.`);
            }}
          >
            {roles.map((role) => (
              <option key={role} value={role}>
                {roleWords[role].label}
              </option>
            ))}
          </Select>
        ) : (
          <span className="text-soft">{roleWords[person.role].label}, access ended</span>
        )}
      </td>
      <td>{person.active ? <TeamBox person={person} onTeam={team} /> : person.team}</td>
      <td>{person.seen_at ? ago(person.seen_at) : <span className="text-soft">not signed in</span>}</td>
      <td>{person.second_factor ? "On" : <span className="text-soft">Off</span>}</td>
      <td className="text-right tabular-nums">
        {person.open_leads || <span className="text-soft">none</span>}
        {!person.active && person.open_leads > 0 && (
          <Button look="quiet" onClick={() => void shareOut(person)}>
            Share out
          </Button>
        )}
      </td>
      <td className="text-right">
        {person.active ? (
          <Button
            look="quiet"
            className="!text-clay"
            onClick={() => void change(person.id, { active: false }, `${person.name} cannot sign in here any more.`)}
          >
            End access
          </Button>
        ) : (
          <Button
            look="quiet"
            onClick={() => void change(person.id, { active: true }, `${person.name} can sign in here again.`)}
          >
            Restore access
          </Button>
        )}
      </td>
    </tr>
  );
  return (
    <>
      <main className="min-h-0 grow overflow-auto px-4 pt-4 pb-6">
        <h1 className="mb-2 font-serif text-lg font-semibold">People</h1>
        {error && <Notice tone="wrong">{error.message}</Notice>}
        <div role="status" className="max-w-4xl">
          {says && <p className="mb-2 text-clay">{says}</p>}
          {done && <p className="mb-2 text-spruce">{done}</p>}
        </div>
        {isPending && <p className="text-soft">Reading who is here</p>}
        <datalist id="teams">
          {teams.map((name) => (
            <option key={name} value={name}>
              {name}
            </option>
          ))}
        </datalist>
        {people.length > 0 && (
          <table className="mb-6 w-full max-w-4xl border-collapse">
            <thead>
              <tr className="border-b border-line text-left text-xs text-soft [&_th]:pr-3 [&_th]:pb-1.5 [&_th]:font-normal">
                <th>Name</th>
                <th>Role</th>
                <th>Team</th>
                <th>Last here</th>
                <th>Second factor</th>
                <th className="text-right">Open leads</th>
                <th>
                  <span className="sr-only">What can be done</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {active.map(row)}
              {left.map(row)}
            </tbody>
          </table>
        )}
        {data && <Invitations rows={data.invitations} onChange={() => setSays("")} />}
      </main>
      <BottomLine>
        <span>
          <b>{active.length}</b> {active.length === 1 ? "person" : "people"}
        </span>
        <span>
          <b>{data?.invitations.length ?? 0}</b> invited
        </span>
        {left.length > 0 && (
          <span>
            <b>{left.length}</b> without access
          </span>
        )}
      </BottomLine>
    </>
  );
}

/** The team of somebody: typed, or one that there is; kept with Enter or on leaving the box. */
function TeamBox({
  person,
  onTeam,
}: {
  person: Schemas["PersonRow"];
  onTeam: (person: Schemas["PersonRow"], team: string) => void;
}) {
  const known = person.team ?? "";
  const [typed, setTyped] = useState<string | null>(null);
  const keep = () => {
    if (typed !== null && typed.trim() !== known) onTeam(person, typed.trim());
    setTyped(null);
  };
  return (
    <TextInput
      aria-label={`Team of ${person.name}`}
      className="!w-32 !py-0.5"
      list="teams"
      maxLength={80}
      placeholder="none"
      value={typed ?? known}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={keep}
      onKeyDown={(event) => {
        if (event.key === "Enter") keep();
        if (event.key === "Escape") setTyped(null);
      }}
    />
  );
}
