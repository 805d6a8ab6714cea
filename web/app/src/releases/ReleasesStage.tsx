import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate } from "@tanstack/react-router";
import { useState } from "react";

import { ask, client } from "../../../api";
import { Button, Notice, Select } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { BottomLine } from "../frame/BottomLine";
import { useCommands } from "../frame/useCommands";
import { draftQuery, queries, releasesQuery } from "../lib/query";
import { useAttempt } from "../lib/useAttempt";
import { stamp } from "../lib/time";
import { ComparedView } from "./ComparedView";

/** Every release: what changed, what is on air, and any two compared. */
export function ReleasesStage() {
  const { dialogue, draft, release, change, undo, redo } = useShownDraft();
  const { data, error } = useQuery(releasesQuery(dialogue));
  const navigate = useNavigate();
  const { says, attempt } = useAttempt();
  const [pair, setPair] = useState<{ from: number; to: number | null } | null>(null);
  useCommands("outline", { release, undo, redo });
  const onAir = data?.find((row) => row.on_air);
  const putOnAir = (number: number | null) =>
    attempt(async () => {
      await ask(client.POST("/api/dialogues/{dialogue}/on-air", { params: { path: { dialogue } }, body: { number } }));
      await Promise.all([
        queries.invalidateQueries({ queryKey: releasesQuery(dialogue).queryKey }),
        queries.refetchQueries({ queryKey: draftQuery(dialogue).queryKey }),
      ]);
    });
  const bringBack = (number: number) =>
    attempt(async () => {
      const body = await ask(
        client.GET("/api/dialogues/{dialogue}/releases/{number}", { params: { path: { dialogue, number } } }),
      );
      // What a release does not freeze stays the draft's own.
      const { rehearsals, promises, accepted } = draft.dialogue;
      change({ op: "set_all", dialogue: { ...body, rehearsals, promises, accepted } });
      await navigate({ to: "/dialogues/$dialogue", params: { dialogue } });
    });
  const numbers = data?.map((row) => row.number) ?? [];
  return (
    <>
      <main className="min-h-0 grow overflow-auto px-4 py-4">
        {error && <Notice tone="wrong">{error.message}</Notice>}
        {says && <Notice tone="wrong">{says}</Notice>}
        {data?.length === 0 && (
          <p>Not released yet. Rehearse the draft, look at its checks, then release it with a note.</p>
        )}
        {data && data.length > 0 && (
          <>
            <table className="w-full max-w-6xl border-collapse">
              <thead>
                <tr className="border-b border-line text-left text-xs text-soft [&_th]:pb-1.5 [&_th]:font-normal">
                  <th className="w-28">Release</th>
                  <th>What changed</th>
                  <th>By</th>
                  <th>When</th>
                  <th className="text-right">Conversations</th>
                  <th className="text-right">Still open</th>
                  <th>
                    <span className="sr-only">What can be done</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {data.map((row, place) => (
                  <tr key={row.id} className="border-b border-line align-top [&_td]:py-2">
                    <td className="figures">
                      <b>{row.number}</b>{" "}
                      {row.on_air && (
                        <span className="ml-1 rounded-sm bg-spruce-wash px-1.5 py-0.5 text-xs text-spruce">on air</span>
                      )}
                    </td>
                    <td className="pr-6">{row.note}</td>
                    <td className="pr-4 whitespace-nowrap">{row.made_by ?? ""}</td>
                    <td className="whitespace-nowrap figures">{stamp(row.made_at)}</td>
                    <td className="text-right figures">
                      {row.conversations > 0 ? (
                        <Link
                          to="/dialogues/$dialogue/answers"
                          params={{ dialogue }}
                          search={{ release: row.number }}
                          className="text-spruce hover:underline"
                          title="Read them"
                        >
                          {row.conversations}
                        </Link>
                      ) : (
                        row.conversations
                      )}
                    </td>
                    <td className="text-right figures">{row.open}</td>
                    <td className="pl-6 text-right whitespace-nowrap">
                      <Button
                        look="quiet"
                        className="!py-0"
                        disabled={place === data.length - 1 && data.length === 1 && (draft.changes ?? 0) === 0}
                        onClick={() => setPair({ from: row.number, to: data[place - 1]?.number ?? null })}
                      >
                        Compare
                      </Button>
                      <Button look="quiet" className="!py-0" onClick={() => void bringBack(row.number)}>
                        Bring back as draft
                      </Button>
                      {row.on_air && (
                        <a
                          className="px-2 text-sm font-medium text-spruce hover:underline"
                          href={`/p/${draft.slug}?test`}
                          target="_blank"
                          rel="noreferrer"
                          title="As a prospect; nothing of it is filed"
                        >
                          Try it
                        </a>
                      )}
                      {row.on_air ? (
                        <Button look="quiet" className="!py-0 !text-clay" onClick={() => void putOnAir(null)}>
                          Take off air
                        </Button>
                      ) : (
                        <Button look="quiet" className="!py-0" onClick={() => void putOnAir(row.number)}>
                          Put on air
                        </Button>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            {!onAir && (
              <p className="mt-3 text-amber">
                Off air: prospects see that there is nothing to talk about. Conversations under way go on.
              </p>
            )}
            <div className="mt-6 flex max-w-6xl items-center gap-2">
              <h2 className="font-serif text-lg font-semibold">Compare</h2>
              <Select
                aria-label="The older one"
                value={pair?.from ?? ""}
                onChange={(event) => setPair({ from: Number(event.target.value), to: pair?.to ?? null })}
              >
                <option value="" disabled>
                  pick a release
                </option>
                {numbers.map((number) => (
                  <option key={number} value={number}>
                    release {number}
                  </option>
                ))}
              </Select>
              <span className="text-soft">with</span>
              <Select
                aria-label="The newer one"
                value={pair?.to ?? ""}
                onChange={(event) =>
                  setPair({ from: pair?.from ?? numbers[0] ?? 1, to: Number(event.target.value) || null })
                }
              >
                <option value="">the draft</option>
                {numbers.map((number) => (
                  <option key={number} value={number}>
                    release {number}
                  </option>
                ))}
              </Select>
              <a
                className="ml-auto text-sm font-medium text-spruce hover:underline"
                href={`/api/dialogues/${dialogue}/file`}
                download
              >
                Save the draft as a file
              </a>
            </div>
            {pair && <ComparedView from={pair.from} to={pair.to} />}
          </>
        )}
      </main>
      <BottomLine right={`on the prospects’ side: /p/${draft.slug}`}>
        <span>
          <b>{data?.length ?? 0}</b> release{data?.length === 1 ? "" : "s"}
        </span>
        <span>{onAir ? <>release {onAir.number} is on air</> : "off air"}</span>
        <span>
          <b>{draft.changes ?? 0}</b> change{draft.changes === 1 ? "" : "s"} waiting in the draft
        </span>
      </BottomLine>
    </>
  );
}
