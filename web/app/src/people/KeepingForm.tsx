import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Labelled, Notice, TextInput } from "../../../kit/ui";
import { keepingQuery, queries } from "../lib/query";
import { useAttempt } from "../lib/useAttempt";

type Keeping = Schemas["DataKeeping"];

/** How long the workspace keeps what it is told. */
export function KeepingForm() {
  const { data, error } = useQuery(keepingQuery);
  // Stays when the form begins anew with what was kept.
  const [kept, setKept] = useState(false);
  return (
    <>
      <h2 className="mt-6 mb-1 font-serif text-lg font-semibold">How long things are kept</h2>
      <p className="mb-3 max-w-xl text-sm text-soft">
        After this time, words and answers are erased, once a day and for good. That there was a conversation or a lead,
        with its score and what became of it, stays for the numbers.
      </p>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {data && <Form key={JSON.stringify(data)} known={data} kept={kept} onKept={setKept} />}
    </>
  );
}

const rows: { key: keyof Keeping; label: string; unit: string; most: number; hint: string }[] = [
  {
    key: "unreached_days",
    label: "No lead",
    unit: "days",
    most: 3650,
    hint: "Conversations of which no lead came, from the last that was said.",
  },
  {
    key: "unfinished_days",
    label: "Unfinished",
    unit: "days",
    most: 3650,
    hint: "Leads that were left unfinished, and that nobody has worked.",
  },
  {
    key: "lead_months",
    label: "Leads",
    unit: "months",
    most: 120,
    hint: "All other leads, from the last that happened with them; a contact goes with the last lead.",
  },
];

function Form({ known, kept, onKept }: { known: Keeping; kept: boolean; onKept: (kept: boolean) => void }) {
  const [value, setValue] = useState(known);
  const { says, attempt } = useAttempt();
  const shorter = rows.some((row) => value[row.key] < known[row.key]);
  const same = JSON.stringify(value) === JSON.stringify(known);
  const save = async () => {
    const now = await attempt(() => ask(client.POST("/api/settings/keeping", { body: value })));
    onKept(now !== null);
    if (now) queries.setQueryData(keepingQuery.queryKey, now);
  };
  return (
    <form
      className="max-w-xl"
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      {rows.map((row) => (
        <Labelled key={row.key} label={row.label} hint={row.hint}>
          {(id) => (
            <span className="flex items-center gap-2">
              <TextInput
                id={id}
                type="number"
                required
                min={1}
                max={row.most}
                className="!w-24"
                value={value[row.key]}
                onChange={(event) => setValue({ ...value, [row.key]: Number(event.target.value) })}
              />
              {row.unit}
            </span>
          )}
        </Labelled>
      ))}
      <div className="pl-[9rem] max-md:pl-0" role="status">
        {says && <p className="mb-1 text-clay">{says}</p>}
        {shorter && <p className="mb-1 text-sm text-amber">What is older than that is erased within a day.</p>}
        <Button look="primary" type="submit" disabled={same}>
          Save
        </Button>
        {kept && same && <span className="ml-3 text-spruce">Saved</span>}
      </div>
    </form>
  );
}
