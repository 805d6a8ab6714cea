import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";

import { Notice, useTitle } from "../../../kit/ui";
import { BottomLine } from "../frame/BottomLine";
import { dialoguesQuery } from "../lib/query";
import { ago } from "../lib/time";

export function DialogueList() {
  useTitle("Dialogues");
  const { data, error, isPending } = useQuery(dialoguesQuery);
  return (
    <>
      <main className="min-h-0 grow overflow-auto px-4 pt-4">
        <div className="mb-3 flex items-center gap-3">
          <h1 className="font-serif text-lg font-semibold">Dialogues</h1>
          <Link
            to="/new-dialogue"
            className="ml-auto rounded-md border border-line bg-paper px-3 py-1 text-sm font-medium hover:border-soft"
          >
            New dialogue
          </Link>
        </div>
        {error && <Notice tone="wrong">{error.message}</Notice>}
        {isPending && <p className="text-soft">Reading the dialogues</p>}
        {data && (
          <table className="w-full max-w-5xl border-collapse">
            <thead>
              <tr className="border-b border-line text-left text-xs text-soft [&_th]:pb-1.5 [&_th]:font-normal">
                <th>Dialogue</th>
                <th>On air</th>
                <th>Draft</th>
                <th className="text-right">Conversations, 30 days</th>
                <th className="text-right">Leads, 30 days</th>
                <th className="pl-8">Changed</th>
              </tr>
            </thead>
            <tbody>
              {data.map((row) => (
                <tr key={row.id} className="border-b border-line hover:bg-paper [&_td]:py-2.5">
                  <td>
                    <Link
                      to="/dialogues/$dialogue"
                      params={{ dialogue: row.id }}
                      className="font-serif text-lg hover:underline"
                    >
                      {row.title}
                    </Link>
                  </td>
                  <td>
                    {row.on_air ? (
                      <>
                        release {row.on_air},{" "}
                        <a
                          className="text-spruce underline-offset-2 hover:underline"
                          href={`/p/${row.slug}`}
                          target="_blank"
                          rel="noreferrer"
                        >
                          open the page
                        </a>
                      </>
                    ) : (
                      <span className="text-soft">not yet</span>
                    )}
                  </td>
                  <td>
                    {row.changes === null || row.changes === undefined ? (
                      <span className="text-soft">never released</span>
                    ) : row.changes === 0 ? (
                      <span className="text-soft">as released</span>
                    ) : (
                      `${row.changes} change${row.changes === 1 ? "" : "s"}`
                    )}
                  </td>
                  <td className="text-right figures">{row.conversations}</td>
                  <td className="text-right figures">{row.leads}</td>
                  <td className="pl-8 text-soft">
                    {ago(row.changed_at)}
                    {row.changed_by && `, ${row.changed_by}`}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {data?.length === 0 && (
          <p className="mt-6">No dialogue yet. Make the first one from a pattern, from a brief, or blank.</p>
        )}
      </main>
      <BottomLine right="? all shortcuts">
        <span>
          <b>{data?.length ?? 0}</b> dialogue{data?.length === 1 ? "" : "s"}
        </span>
        <span>
          <b>{data?.filter((row) => row.on_air).length ?? 0}</b> on air
        </span>
      </BottomLine>
    </>
  );
}
