import { useMutation } from "@tanstack/react-query";
import { clsx } from "clsx";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Labelled, Select, TextArea, TextInput } from "../../../kit/ui";
import { queries, queuesQuery, routingQuery } from "../lib/query";
import { hoursWords, officeHours, openingsOf, openingsText, picksWords, weekdays } from "./words";

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
        next: queue.next,
        members: queue.members.map(({ person, weight, untried_limit, day_limit }) => ({
          person,
          weight,
          untried_limit,
          day_limit,
        })),
      }
    : { name: "", picks: "rotation", members: [] };

/** Keeps what was read after a change, wherever queues are shown. */
function took(settings: Settings) {
  queries.setQueryData(routingQuery.queryKey, settings);
  void queries.invalidateQueries({ queryKey: queuesQuery.queryKey });
  void queries.invalidateQueries({ queryKey: ["route-again"] });
  void queries.invalidateQueries({ queryKey: ["try-route"] });
}

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

function Members({ settings, queue }: { settings: Settings; queue: Queue }) {
  const put = useMutation({
    mutationFn: ({ person, paused, skills }: { person: string; paused: boolean; skills: string[] }) =>
      ask(client.POST("/api/routing/people/{person}", { params: { path: { person } }, body: { paused, skills } })),
    onSuccess: took,
  });
  const owner = settings.colleagues.find((colleague) => colleague.id === queue.fixed_owner);
  if (queue.picks === "fixed_owner") return <p className="mt-2 text-sm">Every lead is {owner?.name ?? "nobody"}’s.</p>;
  if (queue.members.length === 0) return <p className="mt-2 text-sm text-amber">Nobody takes part: its leads wait.</p>;
  return (
    <>
      <table className="mt-2 w-full border-collapse text-sm">
        <thead>
          <tr className="border-b border-line text-xs text-soft [&_th]:pb-1.5 [&_th]:font-normal">
            <th className="text-left">Member</th>
            <th className="text-right">Weight</th>
            <th className="text-right">Untried</th>
            <th className="text-right">A day</th>
            <th className="text-right">Open</th>
            <th className="pl-4 text-left">Skills</th>
            <th className="text-right">New leads</th>
          </tr>
        </thead>
        <tbody>
          {queue.members.map((member) => {
            const full =
              member.untried_limit !== null &&
              member.untried_limit !== undefined &&
              member.untried >= member.untried_limit;
            return (
              <tr
                key={member.person}
                className={clsx("border-b border-hair [&>td]:py-1", member.paused && "text-soft")}
              >
                <td>{member.name}</td>
                <td className="text-right figures">{member.weight}</td>
                <td className={clsx("text-right figures", full && "text-amber")}>
                  {member.untried}
                  {member.untried_limit ? ` of ${member.untried_limit}` : ""}
                </td>
                <td className="text-right figures">{member.day_limit ? `at most ${member.day_limit}` : "no limit"}</td>
                <td className="text-right figures">{member.open}</td>
                <td className="pl-4">
                  <TextInput
                    aria-label={`Skills of ${member.name}`}
                    placeholder="none"
                    className="!border-transparent !bg-transparent !px-0 !py-0.5 !text-xs hover:!border-line focus:!border-line"
                    key={member.skills.join(", ")}
                    defaultValue={member.skills.join(", ")}
                    onBlur={(event) => {
                      const skills = event.target.value.split(",").map((skill) => skill.trim());
                      if (event.target.value !== member.skills.join(", "))
                        put.mutate({ person: member.person, paused: member.paused, skills: skills.filter(Boolean) });
                    }}
                    onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
                  />
                </td>
                <td className="text-right">
                  <Button
                    look="quiet"
                    className="!py-0"
                    aria-label={member.paused ? `Let ${member.name} take leads again` : `Pause ${member.name}`}
                    onClick={() => put.mutate({ person: member.person, paused: !member.paused, skills: member.skills })}
                  >
                    {member.paused ? "paused: resume" : "pause"}
                  </Button>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {put.error && <p className="mt-1 text-sm text-clay">{put.error.message}</p>}
    </>
  );
}

function QueueForm({
  body,
  settings,
  own,
  busy,
  error,
  onChange,
  onKeep,
  onCancel,
}: {
  body: Body;
  settings: Settings;
  own: string | null;
  busy: boolean;
  error: Error | null;
  onChange: (body: Body) => void;
  onKeep: () => void;
  onCancel: () => void;
}) {
  const members = body.members ?? [];
  const setMember = (person: string, part: Partial<Schemas["MemberBody"]>) =>
    onChange({ ...body, members: members.map((known) => (known.person === person ? { ...known, ...part } : known)) });
  const others = settings.colleagues.filter((colleague) => !members.some((known) => known.person === colleague.id));
  const nameOf = (person: string) =>
    settings.colleagues.find((colleague) => colleague.id === person)?.name ?? "Somebody";
  return (
    <form
      className="mt-2 rounded-md border border-line p-3"
      onSubmit={(event) => {
        event.preventDefault();
        onKeep();
      }}
    >
      <Labelled label="Name">
        {(id) => (
          <TextInput
            id={id}
            autoFocus
            required
            maxLength={60}
            className="!w-64"
            value={body.name}
            onChange={(event) => onChange({ ...body, name: event.target.value })}
          />
        )}
      </Labelled>
      <Labelled label="Picks">
        {(id) => (
          <Select
            id={id}
            value={body.picks}
            onChange={(event) => onChange({ ...body, picks: event.target.value as Body["picks"] })}
          >
            {Object.entries(picksWords).map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </Select>
        )}
      </Labelled>
      {body.picks === "fixed_owner" ? (
        <Labelled label="Whose they are">
          {(id) => (
            <Select
              id={id}
              required
              value={body.fixed_owner ?? ""}
              onChange={(event) => onChange({ ...body, fixed_owner: event.target.value || null })}
            >
              <option value="">pick a person</option>
              {settings.colleagues.map((colleague) => (
                <option key={colleague.id} value={colleague.id}>
                  {colleague.name}
                </option>
              ))}
            </Select>
          )}
        </Labelled>
      ) : (
        <fieldset className="py-1">
          <legend className="text-xs text-soft">Who takes part</legend>
          {members.map((member) => (
            <div key={member.person} className="flex flex-wrap items-center gap-3 py-0.5 text-sm">
              <span className="w-36 truncate">{nameOf(member.person)}</span>
              <Count
                label="weight"
                value={member.weight}
                onChange={(weight) => setMember(member.person, { weight: weight ?? 1 })}
              />
              <Count
                label="untried at once"
                value={member.untried_limit}
                onChange={(untried_limit) => setMember(member.person, { untried_limit })}
              />
              <Count
                label="a day"
                value={member.day_limit}
                onChange={(day_limit) => setMember(member.person, { day_limit })}
              />
              <Button
                look="quiet"
                className="!text-clay"
                aria-label={`Take out ${nameOf(member.person)}`}
                onClick={() =>
                  onChange({ ...body, members: members.filter((known) => known.person !== member.person) })
                }
              >
                ×
              </Button>
            </div>
          ))}
          {others.length > 0 && (
            <Select
              aria-label="Add a member"
              className="!border-transparent !text-spruce"
              value=""
              onChange={(event) =>
                onChange({
                  ...body,
                  members: [...members, { person: event.target.value, weight: 1, untried_limit: 10, day_limit: 25 }],
                })
              }
            >
              <option value="">+ member</option>
              {others.map((colleague) => (
                <option key={colleague.id} value={colleague.id}>
                  {colleague.name}
                </option>
              ))}
            </Select>
          )}
        </fieldset>
      )}
      <HoursForm hours={body.hours ?? null} onChange={(hours) => onChange({ ...body, hours })} />
      <Labelled label="Nobody free">
        {(id) => (
          <Select
            id={id}
            value={body.next ?? ""}
            onChange={(event) => onChange({ ...body, next: event.target.value || null })}
          >
            <option value="">it waits in the queue</option>
            {settings.queues
              .filter((queue) => queue.key !== own)
              .map((queue) => (
                <option key={queue.key} value={queue.key}>
                  ask {queue.name}
                </option>
              ))}
          </Select>
        )}
      </Labelled>
      {body.next && body.hours && (
        <label className="flex items-center gap-1.5 py-1 text-sm">
          <input
            type="checkbox"
            className="size-5"
            checked={body.passes_on ?? false}
            onChange={(event) => onChange({ ...body, passes_on: event.target.checked })}
          />
          pass leads on while it is closed, instead of keeping them for the opening
        </label>
      )}
      {error && (
        <p role="alert" className="py-1 text-sm text-clay">
          {error.message}
        </p>
      )}
      <div className="mt-2 flex gap-2">
        <Button look="primary" type="submit" disabled={busy}>
          {busy ? "Keeping" : "Keep"}
        </Button>
        <Button onClick={onCancel}>Not now</Button>
      </div>
    </form>
  );
}

function Count({
  label,
  value,
  onChange,
}: {
  label: string;
  value: number | null | undefined;
  onChange: (value: number | null) => void;
}) {
  return (
    <span className="flex items-center gap-1.5 text-xs text-soft">
      {label}
      <TextInput
        aria-label={label}
        className="!w-14 !py-0.5 text-right figures"
        inputMode="numeric"
        placeholder="any"
        value={value ?? ""}
        onChange={(event) => {
          const typed = event.target.value.trim();
          const next = typed === "" ? null : Number(typed);
          if (next === null || (Number.isInteger(next) && next >= 0)) onChange(next);
        }}
      />
    </span>
  );
}

const zones = Intl.supportedValuesOf("timeZone");

function HoursForm({
  hours,
  onChange,
}: {
  hours: Schemas["Written"] | null;
  onChange: (hours: Schemas["Written"] | null) => void;
}) {
  const here = new Intl.DateTimeFormat().resolvedOptions().timeZone;
  return (
    <>
      <Labelled label="Open">
        {(id) => (
          <Select
            id={id}
            value={hours ? "hours" : ""}
            onChange={(event) => onChange(event.target.value ? officeHours(here) : null)}
          >
            <option value="">always</option>
            <option value="hours">at these hours</option>
          </Select>
        )}
      </Labelled>
      {hours && (
        <>
          <Labelled label="Time zone">
            {(id) => (
              <Select id={id} value={hours.zone} onChange={(event) => onChange({ ...hours, zone: event.target.value })}>
                {!zones.includes(hours.zone) && <option value={hours.zone}>{hours.zone}</option>}
                {zones.map((zone) => (
                  <option key={zone} value={zone}>
                    {zone.replaceAll("_", " ")}
                  </option>
                ))}
              </Select>
            )}
          </Labelled>
          {weekdays.map(([day, name]) => (
            <Labelled key={day} label={name}>
              {(id) => (
                <Openings
                  id={id}
                  value={hours.hours?.[day]}
                  onChange={(openings) => onChange({ ...hours, hours: { ...hours.hours, [day]: openings } })}
                />
              )}
            </Labelled>
          ))}
          <Labelled label="Holidays" hint="Days as 2026-12-25, with commas or line breaks between.">
            {(id) => (
              <TextArea
                id={id}
                value={hours.holidays?.join(", ") ?? ""}
                onChange={(event) =>
                  onChange({
                    ...hours,
                    holidays: event.target.value
                      .split(/[,\s]+/u)
                      .map((day) => day.trim())
                      .filter(Boolean),
                  })
                }
              />
            )}
          </Labelled>
        </>
      )}
    </>
  );
}

function Openings({
  id,
  value,
  onChange,
}: {
  id: string;
  value: string[][] | undefined;
  onChange: (openings: string[][]) => void;
}) {
  const [wrong, setWrong] = useState(false);
  return (
    <>
      <TextInput
        id={id}
        className="!w-64 !py-0.5"
        placeholder="closed"
        defaultValue={openingsText(value)}
        aria-invalid={wrong}
        onBlur={(event) => {
          const read = openingsOf(event.target.value);
          setWrong(read === null);
          if (read) onChange(read);
        }}
      />
      {wrong && <p className="text-xs text-clay">Write hours as 8:00–12:00, 13:00–17:30.</p>}
    </>
  );
}
