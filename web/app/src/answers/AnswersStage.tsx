import { useInfiniteQuery } from "@tanstack/react-query";
import { useSearch } from "@tanstack/react-router";
import { useEffect, useState } from "react";

import { Button, Notice } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { BottomLine } from "../frame/BottomLine";
import { useCommands } from "../frame/useCommands";
import { answersQuery } from "../lib/query";
import { useLast } from "../lib/useLast";
import { useRested } from "../lib/useRested";
import { ConversationPane } from "./ConversationPane";
import { Filters } from "./Filters";
import { Table } from "./Table";
import { chosen, keep, kept, toggled } from "./columns";
import type { Filter } from "./words";
import { everything, lookedWords, share } from "./words";

/** How long typing rests before it is looked for. */
const REST_MS = 400;

/** Every conversation of the dialogue with what it said, leads or not; each to be read with its reasons. */
export function AnswersStage() {
  const { dialogue, release } = useShownDraft();
  const search = useSearch({ from: "/frame/dialogues/$dialogue/answers" });
  const [filter, setFilter] = useState<Filter>({ ...everything, release: search.release ? `${search.release}` : "" });
  const [ids, setIds] = useState(() => kept(dialogue));
  const [picked, setPicked] = useState<string>();
  const pages = useInfiniteQuery(answersQuery(dialogue, useRested(filter, REST_MS)));
  // While a condition is half typed, what was found before stays.
  const data = useLast(pages.data);
  const first = data?.pages[0];
  const rows = data?.pages.flatMap((page) => page.rows) ?? [];
  const looked = data?.pages.reduce((all, page) => all + page.looked, 0) ?? 0;
  const columns = [
    ...new Map(data?.pages.flatMap((page) => page.columns).map((column) => [column.id, column])).values(),
  ];
  const shown = chosen(columns, ids);
  const current = rows.some((row) => row.id === picked) ? picked : rows[0]?.id;
  useEffect(() => {
    document.querySelector(`[data-row="${current}"]`)?.scrollIntoView({ block: "nearest" });
  }, [current]);
  const step = (by: number) => {
    const at = rows.findIndex((row) => row.id === current);
    setPicked(rows[Math.min(Math.max(at + by, 0), rows.length - 1)]?.id);
  };
  useCommands("answers", { release, "next-row": () => step(1), "previous-row": () => step(-1) });
  const toggle = (id: string) => {
    const now = toggled(columns, ids, id);
    setIds(now);
    keep(dialogue, now);
  };
  const none = first && !pages.error && rows.length === 0 && !pages.hasNextPage;
  return (
    <>
      <div className="flex min-h-0 grow max-lg:flex-col max-lg:overflow-auto">
        <main className="flex min-w-0 grow flex-col max-lg:shrink-0">
          <Filters filter={filter} onFilter={setFilter} columns={columns} shown={shown} onToggle={toggle} />
          {pages.error && <Notice tone="wrong">{pages.error.message}</Notice>}
          <div className="min-h-0 grow overflow-auto">
            {rows.length > 0 && <Table rows={rows} columns={shown} picked={current} onPick={setPicked} />}
            {pages.isPending && !first && <p className="p-4 text-soft">Reading what was said</p>}
            {none && (
              <p className="p-4">
                {first.all === 0 && filter.release === "" && filter.how === ""
                  ? "Nobody has talked to this dialogue yet. Release it, and put it on a page."
                  : "No conversation fits. Take something off to see more."}
              </p>
            )}
            {pages.hasNextPage && (
              <p className="flex items-baseline gap-3 p-3">
                <Button disabled={pages.isFetchingNextPage} onClick={() => void pages.fetchNextPage()}>
                  {pages.isFetchingNextPage ? "Looking further" : "Show older ones"}
                </Button>
                <span className="text-sm text-soft">{lookedWords(rows.length, looked, filter)}</span>
              </p>
            )}
          </div>
        </main>
        <aside
          aria-label="Conversation"
          className="w-[430px] shrink-0 overflow-auto border-l border-line bg-paper max-lg:w-full max-lg:border-t max-lg:border-l-0"
        >
          {current ? (
            <ConversationPane key={current} dialogue={dialogue} id={current} />
          ) : (
            <p className="p-5 text-soft">Pick a conversation to read it with its reasons.</p>
          )}
        </aside>
      </div>
      <BottomLine right="J K move · ? all">
        <span>
          <b>{first?.all.toLocaleString("en-GB") ?? "0"}</b> conversations
        </span>
        {first && first.all > 0 && (
          <>
            <span>
              <b>{share(first.ended, first.all)}</b> came to an end
            </span>
            <span>
              <b>{first.leads.toLocaleString("en-GB")}</b> leads
            </span>
            <span>
              <b>{(first.all - first.ended - first.left).toLocaleString("en-GB")}</b> still open
            </span>
          </>
        )}
      </BottomLine>
    </>
  );
}
