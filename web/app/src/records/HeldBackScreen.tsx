import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Notice, useTitle } from "../../../kit/ui";
import { BottomLine } from "../frame/BottomLine";
import { heldBackQuery, queries } from "../lib/query";
import { ago } from "../lib/time";
import { useAttempt } from "../lib/useAttempt";
import { useLive } from "../live/useLive";
import { RecordsNav } from "./RecordsNav";
import { doubtWords } from "./words";

type Row = Schemas["HeldBackRow"];

/** Conversations that a machine or a flood may have held: somebody looks, and files them or leaves them. */
export function HeldBackScreen() {
  useTitle("Held back");
  const { data, error, isPending } = useQuery(heldBackQuery);
  const { says, attempt } = useAttempt();
  // What was left here stays in sight, for whoever pressed the wrong one.
  const [left, setLeft] = useState<Row[]>([]);
  useLive("leads", () => void queries.invalidateQueries({ queryKey: heldBackQuery.queryKey }));
  const settle = async (row: Row, file: boolean) => {
    const settled = await attempt(() =>
      ask(
        client.POST("/api/held-back/{conversation}", {
          params: { path: { conversation: row.id } },
          body: { file },
        }),
      ),
    );
    if (settled !== null) setLeft((rows) => [...rows.filter((one) => one.id !== row.id), ...(file ? [] : [row])]);
    await queries.invalidateQueries({ queryKey: heldBackQuery.queryKey });
  };
  const rows = [...(data ?? []).filter((row) => !left.some((one) => one.id === row.id)), ...left];
  return (
    <>
      <RecordsNav />
      <main className="min-h-0 grow overflow-auto px-4 py-4">
        <p className="mb-3 max-w-3xl text-sm text-soft">
          What looks like a machine or a flood is not filed and takes nobody’s turn. File what a person said after all.
        </p>
        {error && <Notice tone="wrong">{error.message}</Notice>}
        {says && <Notice tone="wrong">{says}</Notice>}
        {isPending && <p className="text-soft">Looking</p>}
        {data && rows.length === 0 && <p>Nothing is held back.</p>}
        {data && rows.length > 0 && (
          <table className="w-full max-w-6xl border-collapse text-sm">
            <thead>
              <tr className="border-b border-line text-left text-xs text-soft [&_th]:pr-4 [&_th]:pb-1.5 [&_th]:font-normal">
                <th>Who they say they are</th>
                <th>Why it is held back</th>
                <th>Dialogue</th>
                <th>Begun</th>
                <th>
                  <span className="sr-only">What becomes of it</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {rows.map((row) => (
                <tr key={row.id} className="border-b border-line align-top [&_td]:py-1.5 [&_td]:pr-4">
                  <td>
                    <b className="font-semibold">{row.name ?? "No name"}</b>
                    {row.company && <span className="text-soft">, {row.company}</span>}
                    <span className="block text-xs break-all text-soft">
                      {[row.email, row.phone].filter(Boolean).join(" · ")}
                    </span>
                  </td>
                  <td>{doubtWords[row.doubt]}</td>
                  <td>
                    <Link
                      to="/dialogues/$dialogue/answers"
                      params={{ dialogue: row.dialogue }}
                      className="text-spruce hover:underline"
                    >
                      {row.title}
                    </Link>
                  </td>
                  <td className="whitespace-nowrap figures">{ago(row.started_at)}</td>
                  <td className="text-right whitespace-nowrap">
                    {left.includes(row) && <span className="mr-3 text-soft">Left</span>}
                    <Button className="!py-0.5" onClick={() => void settle(row, true)}>
                      {left.includes(row) ? "File it after all" : "File it"}
                    </Button>
                    {!left.includes(row) && (
                      <Button look="quiet" className="ml-1 !py-0.5" onClick={() => void settle(row, false)}>
                        Leave it
                      </Button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </main>
      <BottomLine>
        <span>
          <b>{data?.length ?? 0}</b> held back
        </span>
      </BottomLine>
    </>
  );
}
