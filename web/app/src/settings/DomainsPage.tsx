import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Labelled, Notice, TextArea } from "../../../kit/ui";
import { BottomLine } from "../frame/BottomLine";
import { domainsQuery, queries } from "../lib/query";
import { useAttempt } from "../lib/useAttempt";

type Domains = Schemas["DomainsView"];
type Written = { allow: string; deny: string };

const written = (domains: Domains): Written => ({ allow: domains.allow.join("\n"), deny: domains.deny.join("\n") });
const listed = (text: string) => text.split(/[\s,;]+/).filter(Boolean);

/** The workspace's own e-mail domains: always taken, or never taken, as a company's. */
export function DomainsPage() {
  const { data, error, isPending } = useQuery(domainsQuery);
  const [own, setOwn] = useState<Written | null>(null);
  const [before, setBefore] = useState<Domains | null>(null);
  const { says, attempt } = useAttempt();
  const shown = own ?? (data ? written(data) : { allow: "", deny: "" });
  const send = async (lists: Written, undoes: Domains | null) => {
    if (!data) return;
    await attempt(async () => {
      const body = { base: data.revision, allow: listed(lists.allow), deny: listed(lists.deny) };
      const kept = await ask(client.POST("/api/settings/domains", { body }));
      queries.setQueryData(domainsQuery.queryKey, kept);
      setOwn(null);
      setBefore(undoes);
    });
  };
  const box = (side: keyof Written, label: string, hint: string) => (
    <Labelled label={label} hint={hint}>
      {(id) => (
        <TextArea
          id={id}
          spellCheck={false}
          className="min-h-32 font-mono text-[12.5px]"
          placeholder="harrow.example"
          value={shown[side]}
          onChange={(event) => setOwn({ ...shown, [side]: event.target.value })}
        />
      )}
    </Labelled>
  );
  return (
    <>
      <main className="min-h-0 grow overflow-auto px-4 pt-4 pb-6">
        <h1 className="mb-2 font-serif text-lg font-semibold">E-mail domains</h1>
        <p className="mb-3 max-w-3xl text-soft">
          Where an ask wants a company address, free-mail, throw-away and school domains are refused by lists that come
          with Lumbo. These domains go before those lists, in every dialogue and at once. A domain covers what stands
          under it.
        </p>
        {error && <Notice tone="wrong">{error.message}</Notice>}
        {says && <Notice tone="wrong">{says}</Notice>}
        {before && !own && (
          <Notice tone="plain">
            The lists were changed.{" "}
            <Button look="quiet" className="!py-0" onClick={() => void send(written(before), null)}>
              Undo
            </Button>
          </Notice>
        )}
        {isPending && <p className="text-soft">Reading the lists</p>}
        {data && (
          <form
            className="max-w-3xl"
            onSubmit={(event) => {
              event.preventDefault();
              void send(shown, data);
            }}
          >
            {box("allow", "Always taken", "One a line. For customers who write from a free-mail address of their own.")}
            {box("deny", "Never taken", "One a line. For rivals, or .example for every domain that ends so.")}
            <div className="mt-1 flex gap-2 pl-[9rem] max-md:pl-0">
              <Button look="primary" type="submit" disabled={!own} className="disabled:opacity-60">
                Keep the lists
              </Button>
              {own && <Button onClick={() => setOwn(null)}>Drop it</Button>}
            </div>
          </form>
        )}
      </main>
      <BottomLine>
        <span>
          <b>{data?.allow.length ?? 0}</b> always taken
        </span>
        <span>
          <b>{data?.deny.length ?? 0}</b> never taken
        </span>
      </BottomLine>
    </>
  );
}
