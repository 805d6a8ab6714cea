import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Labelled, Notice, Select, TextInput } from "../../../kit/ui";
import { BottomLine } from "../frame/BottomLine";
import { queries, tokensQuery } from "../lib/query";
import { ago, stamp } from "../lib/time";
import { useAttempt } from "../lib/useAttempt";
import { lives, scopeWords, scopes, stateWords } from "./tokens";

/** Tokens with which programs of one's own use Lumbo: made, shown once, ended. */
export function TokensPage() {
  const { data, error, isPending } = useQuery(tokensQuery);
  const [making, setMaking] = useState(false);
  const [made, setMade] = useState<Schemas["MadeToken"] | null>(null);
  const { says, attempt } = useAttempt();
  const tokens = data ?? [];
  const working = tokens.filter((token) => token.state === "works").length;
  const end = async (token: string) => {
    await attempt(() => ask(client.POST("/api/tokens/{token}/end", { params: { path: { token } } })));
    await queries.invalidateQueries({ queryKey: tokensQuery.queryKey });
  };
  return (
    <>
      <main className="min-h-0 grow overflow-auto px-4 pt-4 pb-6">
        <div className="mb-2 flex max-w-4xl items-center">
          <h1 className="font-serif text-lg font-semibold">API tokens</h1>
          {!making && (
            <Button className="ml-auto" onClick={() => setMaking(true)}>
              New token
            </Button>
          )}
        </div>
        <p className="mb-3 max-w-4xl text-soft">
          A program of yours can use Lumbo with a token, as the person who made it and for what is ticked. It sends{" "}
          <code className="font-mono">Authorization: Bearer lumbo_…</code> What there is to ask for stands in{" "}
          <a className="text-spruce underline" href="/api/openapi.json">
            the API’s document
          </a>
          .
        </p>
        {error && <Notice tone="wrong">{error.message}</Notice>}
        {says && <Notice tone="wrong">{says}</Notice>}
        {made && <MadeToken made={made} onKept={() => setMade(null)} />}
        {making && (
          <MakeToken
            onMade={(token) => {
              setMaking(false);
              setMade(token);
            }}
            onNotNow={() => setMaking(false)}
          />
        )}
        {isPending && <p className="text-soft">Reading the tokens</p>}
        {data?.length === 0 && !making && <p>No token yet. No program can use Lumbo in your name.</p>}
        {tokens.length > 0 && <TokenTable tokens={tokens} onEnd={(token) => void end(token)} />}
      </main>
      <BottomLine>
        <span>
          <b>{working}</b> {working === 1 ? "token works" : "tokens work"}
        </span>
      </BottomLine>
    </>
  );
}

function MadeToken({ made, onKept }: { made: Schemas["MadeToken"]; onKept: () => void }) {
  return (
    <div role="status" className="mb-3 max-w-4xl border border-line bg-paper px-4 py-3">
      <p>This token is shown only now. Keep it where your program keeps its secrets.</p>
      <p className="mt-1 font-mono break-all">{made.token}</p>
      <p className="mt-1 text-soft">It works until {stamp(made.expires_at)}.</p>
      <Button className="mt-2" onClick={onKept}>
        I have it
      </Button>
    </div>
  );
}

function MakeToken({ onMade, onNotNow }: { onMade: (token: Schemas["MadeToken"]) => void; onNotNow: () => void }) {
  const [name, setName] = useState("");
  const [days, setDays] = useState(90);
  const [ticked, setTicked] = useState<Schemas["Scope"][]>([]);
  const { says, attempt } = useAttempt();
  const make = async () => {
    const token = await attempt(() => ask(client.POST("/api/tokens", { body: { name, scopes: ticked, days } })));
    if (!token) return;
    await queries.invalidateQueries({ queryKey: tokensQuery.queryKey });
    onMade(token);
  };
  const tick = (scope: Schemas["Scope"], on: boolean) =>
    setTicked((known) => (on ? [...known, scope] : known.filter((each) => each !== scope)));
  return (
    <form
      aria-label="New token"
      className="mb-5 max-w-2xl"
      onSubmit={(event) => {
        event.preventDefault();
        void make();
      }}
    >
      <Labelled label="What it is for" hint="For instance the nightly copy of leads into your reports.">
        {(id) => <TextInput id={id} required value={name} onChange={(event) => setName(event.target.value)} />}
      </Labelled>
      <fieldset className="mb-2 grid grid-cols-[9rem_minmax(0,1fr)] max-md:block">
        <legend className="sr-only">What it may be used for</legend>
        <span aria-hidden className="pt-1 text-xs text-soft">
          May be used to
        </span>
        <div>
          {scopes.map((scope) => (
            <label key={scope} className="flex min-h-6 items-center gap-2">
              <input
                type="checkbox"
                checked={ticked.includes(scope)}
                onChange={(event) => tick(scope, event.target.checked)}
              />
              {scopeWords[scope]}
            </label>
          ))}
        </div>
      </fieldset>
      <Labelled label="Works for">
        {(id) => (
          <Select id={id} value={days} onChange={(event) => setDays(Number(event.target.value))}>
            {lives.map((life) => (
              <option key={life.days} value={life.days}>
                {life.label}
              </option>
            ))}
          </Select>
        )}
      </Labelled>
      <div className="pl-[9rem] max-md:pl-0">
        {says && (
          <p role="alert" className="mb-1 text-clay">
            {says}
          </p>
        )}
        <Button look="primary" type="submit">
          Make the token
        </Button>
        <Button look="quiet" className="ml-2" onClick={onNotNow}>
          Not now
        </Button>
      </div>
    </form>
  );
}

function TokenTable({ tokens, onEnd }: { tokens: Schemas["ApiToken"][]; onEnd: (token: string) => void }) {
  return (
    <table className="w-full max-w-4xl border-collapse">
      <thead>
        <tr className="border-b border-line text-left text-xs text-soft [&_th]:pb-1.5 [&_th]:font-normal">
          <th>For</th>
          <th>May be used to</th>
          <th>Works until</th>
          <th>Last used</th>
          <th>
            <span className="sr-only">What can be done</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {tokens.map((token) => (
          <tr key={token.id} className="border-b border-line align-baseline [&_td]:py-1.5 [&_td]:pr-3">
            <td>
              {token.name} <span className="font-mono text-xs text-soft">…{token.ending}</span>
              <div className="text-xs text-soft">
                {token.made_by}, {stamp(token.made_at)}
              </div>
            </td>
            <td className="text-soft">{token.scopes.map((scope) => scopeWords[scope]).join(", ")}</td>
            <td>
              {token.state === "works" ? (
                stamp(token.expires_at)
              ) : (
                <span className="text-clay">{stateWords[token.state]}</span>
              )}
            </td>
            <td>{token.used_at ? ago(token.used_at) : <span className="text-soft">never</span>}</td>
            <td className="text-right">
              {(token.state === "works" || token.state === "maker_left") && (
                <Button
                  look="quiet"
                  className="!text-clay"
                  title="What uses it stops working at once; this cannot be undone"
                  onClick={() => onEnd(token.id)}
                >
                  End it for good
                </Button>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
