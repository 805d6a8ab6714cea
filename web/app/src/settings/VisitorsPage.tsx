import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Labelled, Notice, TextArea } from "../../../kit/ui";
import { BottomLine } from "../frame/BottomLine";
import { queries, visitorKeysQuery } from "../lib/query";
import { ago, stamp } from "../lib/time";
import { useAttempt } from "../lib/useAttempt";

/** Secrets with which the workspace's sites sign what they know of a signed-in visitor, and a place to try what they sign. */
export function VisitorsPage() {
  const { data, error, isPending } = useQuery(visitorKeysQuery);
  const [made, setMade] = useState<Schemas["NewVisitorKey"] | null>(null);
  const { says, attempt } = useAttempt();
  const keys = data ?? [];
  const act = async (what: () => Promise<unknown>) => {
    await attempt(what);
    await queries.invalidateQueries({ queryKey: visitorKeysQuery.queryKey });
  };
  const make = () => act(async () => setMade(await ask(client.POST("/api/settings/visitor-keys"))));
  const takeOut = (key: string) =>
    act(() => ask(client.DELETE("/api/settings/visitor-keys/{key}", { params: { path: { key } } })));
  return (
    <>
      <main className="min-h-0 grow overflow-auto px-4 pt-4 pb-6">
        <div className="mb-2 flex max-w-3xl items-center">
          <h1 className="font-serif text-lg font-semibold">Signed-in visitors</h1>
          <Button className="ml-auto" onClick={() => void make()}>
            New secret
          </Button>
        </div>
        <div className="mb-3 max-w-3xl text-soft">
          <p>
            A site that knows who is signed in can pass name, address and phone along, signed with one of these secrets.
            Their questions are then skipped, or asked only to confirm.
          </p>
          <p className="mt-1">
            Sign a JSON Web Token with HS256 for each page, with the secret’s id as{" "}
            <code className="font-mono">kid</code>, <code className="font-mono">exp</code> at most an hour ahead, and
            the claims <code className="font-mono">name</code>, <code className="font-mono">email</code>,{" "}
            <code className="font-mono">phone_number</code> or <code className="font-mono">fields</code> by key. Put it
            behind the page’s address as <code className="font-mono">#visitor=…</code> It counts for one conversation.
          </p>
        </div>
        {error && <Notice tone="wrong">{error.message}</Notice>}
        {says && <Notice tone="wrong">{says}</Notice>}
        {made && (
          <div role="status" className="mb-3 max-w-3xl border border-line bg-paper px-4 py-3">
            <p>This secret is shown only now. Keep it on your site’s server, never in a page.</p>
            <dl className="mt-1 grid grid-cols-[5rem_minmax(0,1fr)] gap-y-1">
              <dt className="text-soft">Id</dt>
              <dd className="font-mono">{made.id}</dd>
              <dt className="text-soft">Secret</dt>
              <dd className="font-mono break-all">{made.secret}</dd>
            </dl>
            <Button className="mt-2" onClick={() => setMade(null)}>
              I have it
            </Button>
          </div>
        )}
        {isPending && <p className="text-soft">Reading the secrets</p>}
        {data?.length === 0 && (
          <p className="mb-4">No secret yet. What a site passes along does nothing until there is one.</p>
        )}
        {keys.length > 0 && (
          <table className="mb-5 w-full max-w-3xl border-collapse">
            <thead>
              <tr className="border-b border-line text-left text-xs text-soft [&_th]:pb-1.5 [&_th]:font-normal">
                <th>Id</th>
                <th>Made</th>
                <th>Last used</th>
                <th>
                  <span className="sr-only">What can be done</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {keys.map((key) => (
                <tr key={key.id} className="border-b border-line [&_td]:py-1.5">
                  <td className="font-mono">{key.id}</td>
                  <td>
                    {stamp(key.made_at)}
                    {key.made_by && <span className="text-soft">, {key.made_by}</span>}
                  </td>
                  <td>{key.used_at ? ago(key.used_at) : <span className="text-soft">never</span>}</td>
                  <td className="text-right">
                    <Button
                      look="quiet"
                      className="!text-clay"
                      title="What is signed with it does nothing from then on; this cannot be undone"
                      onClick={() => void takeOut(key.id)}
                    >
                      Take out for good
                    </Button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        <TryToken />
      </main>
      <BottomLine>
        <span>
          <b>{keys.length}</b> secret{keys.length === 1 ? "" : "s"}
        </span>
      </BottomLine>
    </>
  );
}

/** Looks at a token as a prospect's page would bring it; nothing is used up. */
function TryToken() {
  const [token, setToken] = useState("");
  const [view, setView] = useState<Schemas["TokenView"] | null>(null);
  const { says, attempt } = useAttempt();
  const look = async () =>
    setView(await attempt(() => ask(client.POST("/api/settings/visitor-token", { body: { token } }))));
  return (
    <form
      className="max-w-3xl"
      onSubmit={(event) => {
        event.preventDefault();
        void look();
      }}
    >
      <h2 className="mb-1 font-serif text-lg font-semibold">Try a token</h2>
      <Labelled label="Token" hint="Looking at it does not use it up.">
        {(id) => (
          <TextArea
            id={id}
            spellCheck={false}
            className="min-h-16 font-mono text-[12.5px] break-all"
            value={token}
            onChange={(event) => {
              setToken(event.target.value);
              setView(null);
            }}
          />
        )}
      </Labelled>
      <div role="status" className="pl-[9rem] max-md:pl-0">
        {says && <p className="text-clay">{says}</p>}
        {view?.refused && <p className="text-clay">{view.refused}</p>}
        {view && !view.refused && view.known.length === 0 && (
          <p className="text-amber">The token is good, and says nothing that a field could keep.</p>
        )}
        {view && view.known.length > 0 && (
          <dl className="mb-1 grid grid-cols-[12rem_minmax(0,1fr)]">
            {view.known.map(({ to, text }) => (
              <div key={`${to} ${text}`} className="contents">
                <dt className="text-soft">{to}</dt>
                <dd className="font-serif">{text}</dd>
              </div>
            ))}
          </dl>
        )}
      </div>
      <div className="mt-1 pl-[9rem] max-md:pl-0">
        <Button type="submit" disabled={!token.trim()}>
          Look at it
        </Button>
      </div>
    </form>
  );
}
