import type { ReactNode } from "react";
import { useEffect } from "react";

import { Button, Notice, TextInput } from "../../../kit/ui";
import { BottomLine } from "../frame/BottomLine";
import { useCommands } from "../frame/useCommands";
import { RecordsNav } from "./RecordsNav";

/** A list by name at the left, the one that is open at the right. */
export function ListScreen({
  what,
  search,
  onSearch,
  filter,
  ids,
  open,
  onOpen,
  error,
  pending,
  empty,
  more,
  head,
  rows,
  pane,
  bottom,
}: {
  /** "contacts", "companies". */
  what: string;
  search: string;
  onSearch: (search: string) => void;
  /** What else narrows the list. */
  filter?: ReactNode;
  /** What is listed, in its order. */
  ids: string[];
  open: string | undefined;
  onOpen: (id: string, replace?: boolean) => void;
  error: Error | null;
  pending: boolean;
  empty: string;
  /** Shows the rest of a long list; nothing where all is shown. */
  more: { fetching: boolean; show: () => void } | null;
  head: ReactNode;
  rows: ReactNode;
  pane: ReactNode;
  bottom: ReactNode;
}) {
  const first = ids[0];
  useEffect(() => {
    if (!open && first) onOpen(first, true);
  }, [open, first, onOpen]);
  const step = (by: number) => {
    const next = ids[Math.min(Math.max(ids.indexOf(open ?? "") + by, 0), ids.length - 1)];
    if (next) onOpen(next);
  };
  useCommands("records", { "next-row": () => step(1), "previous-row": () => step(-1) });
  return (
    <>
      <RecordsNav />
      <div className="flex min-h-0 grow max-lg:flex-col max-lg:overflow-auto">
        <main className="flex min-w-0 grow flex-col pt-2 max-lg:max-h-[60vh] max-lg:shrink-0">
          <div className="flex gap-2 px-4 pb-2">
            {filter}
            <TextInput
              aria-label={`Search ${what}`}
              type="search"
              placeholder={what === "contacts" ? "Search contacts, or #tag" : `Search ${what}`}
              className="!w-72"
              value={search}
              onChange={(event) => onSearch(event.target.value)}
            />
          </div>
          {error && <Notice tone="wrong">{error.message}</Notice>}
          <div className="min-h-0 grow overflow-auto">
            <table className="w-full table-fixed border-collapse text-sm">
              <thead className="sticky top-0 bg-oat">
                <tr className="border-b border-line text-left text-xs text-soft [&_th]:py-1.5 [&_th]:pr-3 [&_th]:font-normal [&_th:first-child]:pl-4">
                  {head}
                </tr>
              </thead>
              <tbody>{rows}</tbody>
            </table>
            {pending && <p className="p-4 text-soft">Reading the {what}</p>}
            {!pending && !error && ids.length === 0 && (
              <p className="p-4 text-soft">{search.trim() ? `Nobody with “${search.trim()}”.` : empty}</p>
            )}
            {more && (
              <Button look="quiet" className="m-2" disabled={more.fetching} onClick={more.show}>
                {more.fetching ? "Reading more" : "Show more"}
              </Button>
            )}
          </div>
        </main>
        <aside
          aria-label="What is on file"
          className="w-[484px] shrink-0 overflow-auto border-l border-line bg-paper max-lg:w-full max-lg:border-t max-lg:border-l-0"
        >
          {open ? pane : <p className="p-5 text-soft">Pick one to see what is on file.</p>}
        </aside>
      </div>
      <BottomLine right="J K move · ? all">{bottom}</BottomLine>
    </>
  );
}

/** A line of the list. */
export function ListRow({ picked, onOpen, children }: { picked: boolean; onOpen: () => void; children: ReactNode }) {
  return (
    <tr
      aria-selected={picked}
      onClick={onOpen}
      className={
        "h-8 cursor-pointer border-b border-hair [&_td]:truncate [&_td]:py-1 [&_td]:pr-3 [&_td:first-child]:pl-4 " +
        (picked ? "bg-picked shadow-[inset_3px_0_0_var(--ink)]" : "hover:bg-paper/60")
      }
    >
      {children}
    </tr>
  );
}
