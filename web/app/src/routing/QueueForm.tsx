import type { Schemas } from "../../../api";
import { Button, Labelled, Select, TextInput } from "../../../kit/ui";
import { HoursForm } from "./HoursForm";
import { picksWords } from "./words";

type Body = Schemas["QueueBody"];

/** A queue as it is to be. */
export function QueueForm({
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
  settings: Schemas["RoutingView"];
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
      <Labelled
        label="Untouched"
        hint="A lead of the highest band that nobody has called is offered to the others of the queue; whoever takes it has it."
      >
        {(id) => (
          <span className="flex items-center gap-1.5 text-sm">
            offered on after
            <TextInput
              id={id}
              type="number"
              min={1}
              max={10_000}
              className="!w-20"
              placeholder="never"
              value={body.offer_after ?? ""}
              onChange={(event) =>
                onChange({ ...body, offer_after: event.target.value ? Number(event.target.value) : null })
              }
            />
            working minutes
          </span>
        )}
      </Labelled>
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
