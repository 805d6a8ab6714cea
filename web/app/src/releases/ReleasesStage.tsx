import { useQuery } from "@tanstack/react-query";

import { Notice } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { BottomLine } from "../frame/BottomLine";
import { useCommands } from "../frame/useCommands";
import { releasesQuery } from "../lib/query";
import { stamp } from "../lib/time";

export function ReleasesStage() {
  const { dialogue, draft, release } = useShownDraft();
  const { data, error } = useQuery(releasesQuery(dialogue));
  useCommands("outline", { release });
  return (
    <>
      <main className="min-h-0 grow overflow-auto px-4 py-4">
        {error && <Notice tone="wrong">{error.message}</Notice>}
        {data?.length === 0 && (
          <p>Not released yet. Rehearse the draft, look at its checks, then release it with a note.</p>
        )}
        {data && data.length > 0 && (
          <table className="w-full max-w-4xl border-collapse">
            <thead>
              <tr className="border-b border-line text-left text-xs text-soft [&_th]:pb-1.5 [&_th]:font-normal">
                <th className="w-20">Release</th>
                <th>What changed</th>
                <th>By</th>
                <th>When</th>
                <th className="text-right">Conversations</th>
                <th className="text-right">Still open</th>
              </tr>
            </thead>
            <tbody>
              {data.map((row) => (
                <tr key={row.id} className="border-b border-line align-top [&_td]:py-2">
                  <td className="figures">
                    <b>{row.number}</b>{" "}
                    {row.on_air && (
                      <span className="ml-1 rounded-sm bg-spruce-wash px-1.5 py-0.5 text-xs text-spruce">on air</span>
                    )}
                  </td>
                  <td className="pr-6">{row.note}</td>
                  <td>{row.made_by ?? ""}</td>
                  <td className="figures">{stamp(row.made_at)}</td>
                  <td className="text-right figures">{row.conversations}</td>
                  <td className="text-right figures">{row.open}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </main>
      <BottomLine right={`on the prospects’ side: /p/${draft.slug}`}>
        <span>
          <b>{data?.length ?? 0}</b> release{data?.length === 1 ? "" : "s"}
        </span>
        <span>
          <b>{draft.changes ?? 0}</b> change{draft.changes === 1 ? "" : "s"} waiting in the draft
        </span>
      </BottomLine>
    </>
  );
}
