import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Labelled, Notice, TextInput } from "../../../kit/ui";
import { ZoneBox } from "../account/ZoneBox";
import { BottomLine } from "../frame/BottomLine";
import { meQuery, queries, workspaceQuery } from "../lib/query";
import { useAttempt } from "../lib/useAttempt";
import { KeepingForm } from "./KeepingForm";

/** The workspace's name and zone, and how long it keeps what it is told. */
export function WorkspacePage() {
  const { data, error, isPending } = useQuery(workspaceQuery);
  return (
    <>
      <main className="min-h-0 grow overflow-auto px-4 pt-4 pb-6">
        <h1 className="mb-2 font-serif text-lg font-semibold">Workspace</h1>
        {error && <Notice tone="wrong">{error.message}</Notice>}
        {isPending && <p className="text-soft">Reading the settings</p>}
        {data && <WorkspaceForm key={data.revision} known={data} />}
        {data && <KeepingForm />}
      </main>
      <BottomLine>
        <span>Dialogues, leads and people of other workspaces are never seen here.</span>
      </BottomLine>
    </>
  );
}

function WorkspaceForm({ known }: { known: Schemas["WorkspaceSettings"] }) {
  const [name, setName] = useState(known.name);
  const [zone, setZone] = useState(known.zone);
  const [kept, setKept] = useState(false);
  const { says, attempt } = useAttempt();
  const save = async () => {
    const body = { revision: known.revision, name, zone };
    const now = await attempt(() => ask(client.POST("/api/settings/workspace", { body })));
    setKept(now !== null);
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
      <div className="pl-[9rem] max-md:pl-0" role="status">
        {says && <p className="mb-1 text-clay">{says}</p>}
        <Button look="primary" type="submit" disabled={name === known.name && zone === known.zone}>
          Save
        </Button>
        {kept && <span className="ml-3 text-spruce">Saved</span>}
      </div>
    </form>
  );
}
