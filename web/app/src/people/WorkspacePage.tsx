import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Labelled, Notice, Select, TextInput } from "../../../kit/ui";
import { ZoneBox } from "../account/ZoneBox";
import { BottomLine } from "../frame/BottomLine";
import { meQuery, queries, workspaceQuery } from "../lib/query";
import { useAttempt } from "../lib/useAttempt";
import { FaceField } from "./FaceField";
import { KeepingForm } from "./KeepingForm";
import { workspaceFace } from "./faces";

/** The workspace's name and zone, and how long it keeps what it is told. */
export function WorkspacePage() {
  const { data, error, isPending } = useQuery(workspaceQuery);
  // Stays when the form begins anew with what was kept.
  const [kept, setKept] = useState(false);
  return (
    <>
      <main className="min-h-0 grow overflow-auto px-4 pt-4 pb-6">
        <h1 className="mb-2 font-serif text-lg font-semibold">Workspace</h1>
        {error && <Notice tone="wrong">{error.message}</Notice>}
        {isPending && <p className="text-soft">Reading the settings</p>}
        {data && <WorkspaceForm key={data.revision} known={data} kept={kept} onKept={setKept} />}
        {data && <OwnSign />}
        {data && <KeepingForm />}
      </main>
      <BottomLine>
        <span>Dialogues, leads and people of other workspaces are never seen here.</span>
      </BottomLine>
    </>
  );
}

/** The workspace's picture. */
function OwnSign() {
  const me = useQuery(meQuery).data;
  if (!me) return null;
  return (
    <div className="mt-4 max-w-xl">
      <FaceField
        hint="It stands before the workspace’s name in the top line, so that one sees at once where one is."
        source={workspaceFace(me.workspace_picture)}
        onKeep={async (content) => {
          await ask(client.POST("/api/workspace/picture", { body: content === null ? {} : { content } }));
          await queries.invalidateQueries({ queryKey: meQuery.queryKey });
        }}
      />
    </div>
  );
}

function WorkspaceForm({
  known,
  kept,
  onKept,
}: {
  known: Schemas["WorkspaceSettings"];
  kept: boolean;
  onKept: (kept: boolean) => void;
}) {
  const [name, setName] = useState(known.name);
  const [zone, setZone] = useState(known.zone);
  const [from, setFrom] = useState(known.calls_from ?? 8);
  const [until, setUntil] = useState(known.calls_until ?? 19);
  const [own, setOwn] = useState((known.own_mail_domains ?? []).join(", "));
  const [least, setLeast] = useState(known.least_seconds ?? 4);
  const [privacy, setPrivacy] = useState(known.privacy_link ?? "");
  const { says, attempt } = useAttempt();
  const domains = own.split(/[\s,;]+/).filter(Boolean);
  const same =
    name === known.name &&
    zone === known.zone &&
    from === known.calls_from &&
    until === known.calls_until &&
    least === (known.least_seconds ?? 4) &&
    privacy.trim() === (known.privacy_link ?? "") &&
    domains.join(" ") === (known.own_mail_domains ?? []).join(" ");
  const save = async () => {
    const body = {
      revision: known.revision,
      name,
      zone,
      calls_from: from,
      calls_until: until,
      own_mail_domains: domains,
      least_seconds: least,
      privacy_link: privacy.trim() || null,
    };
    const now = await attempt(() => ask(client.POST("/api/settings/workspace", { body })));
    onKept(now !== null);
    if (!now) return;
    queries.setQueryData(workspaceQuery.queryKey, now);
    await queries.invalidateQueries({ queryKey: meQuery.queryKey });
  };
  return (
    <form
      className="max-w-xl"
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <Labelled label="Name" hint="What people see beside their own name, and in invitations.">
        {(id) => <TextInput id={id} required value={name} onChange={(event) => setName(event.target.value)} />}
      </Labelled>
      <Labelled label="Time zone">{(id) => <ZoneBox bare id={id} value={zone} onZone={setZone} />}</Labelled>
      <Labelled
        label="Calling hours"
        hint="By the clock where the prospect is. Outside of them a lead waits further down the call list."
      >
        {(id) => (
          <span className="flex items-center gap-1.5">
            <HourSelect id={id} label="From" from={0} until={23} value={from} onHour={setFrom} />
            to
            <HourSelect label="To" from={from + 1} until={24} value={until} onHour={setUntil} />
          </span>
        )}
      </Labelled>
      <Labelled
        label="Your own mail domains"
        hint="Whoever answers with such an address is testing, as is whoever is signed in here: nothing is filed, no turn is taken."
      >
        {(id) => (
          <TextInput
            id={id}
            placeholder="winterlode.example"
            value={own}
            onChange={(event) => setOwn(event.target.value)}
          />
        )}
      </Labelled>
      <Labelled
        label="Privacy page"
        hint="Where prospects read what becomes of what they say. It stands at the foot of every dialogue."
      >
        {(id) => (
          <TextInput
            id={id}
            type="url"
            placeholder="https://winterlode.example/privacy"
            value={privacy}
            onChange={(event) => setPrivacy(event.target.value)}
          />
        )}
      </Labelled>
      <Labelled
        label="A person needs"
        hint="From the first line to the lead. What comes sooner is held back under Leads; 0 holds nothing back."
      >
        {(id) => (
          <span className="flex items-center gap-1.5">
            <TextInput
              id={id}
              type="number"
              min={0}
              max={600}
              className="!w-20"
              value={least}
              onChange={(event) => setLeast(Math.min(600, Math.max(0, Math.trunc(Number(event.target.value)) || 0)))}
            />
            seconds at least
          </span>
        )}
      </Labelled>
      <div className="pl-[9rem] max-md:pl-0" role="status">
        {says && <p className="mb-1 text-clay">{says}</p>}
        <Button look="primary" type="submit" disabled={same || until <= from}>
          Save
        </Button>
        {kept && same && <span className="ml-3 text-spruce">Saved</span>}
      </div>
    </form>
  );
}

/** An hour of the day. */
function HourSelect({
  id,
  label,
  from,
  until,
  value,
  onHour,
}: {
  id?: string;
  label: string;
  from: number;
  until: number;
  value: number;
  onHour: (hour: number) => void;
}) {
  const hours = Array.from({ length: until - from + 1 }, (_, place) => from + place);
  return (
    <Select id={id} aria-label={label} value={value} onChange={(event) => onHour(Number(event.target.value))}>
      {!hours.includes(value) && <option value={value}>pick an hour</option>}
      {hours.map((hour) => (
        <option key={hour} value={hour}>
          {String(hour).padStart(2, "0")}:00
        </option>
      ))}
    </Select>
  );
}
