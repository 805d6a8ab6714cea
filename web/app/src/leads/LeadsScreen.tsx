import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useNavigate, useParams } from "@tanstack/react-router";
import { clsx } from "clsx";
import { useEffect, useState } from "react";

import type { Schemas } from "../../../api";
import { BandMark, Button, Notice, TextInput, useTitle } from "../../../kit/ui";
import { BottomLine } from "../frame/BottomLine";
import { useCommands } from "../frame/useCommands";
import type { LeadFilter } from "../lib/query";
import { leadQuery, leadsQuery, meQuery, queries } from "../lib/query";
import { ago, due, stamp } from "../lib/time";
import { useRested } from "../lib/useRested";
import { useLive } from "../live/useLive";
import { RecordsNav } from "../records/RecordsNav";
import { LeadDetail } from "./LeadDetail";
import { NOTE_BOX } from "./CallBar";
import { useWork } from "./useWork";
import type { Status } from "./words";
import { callWords, empty, isOpen, nextWords, statusWords, tryWords } from "./words";

const tabs: { key: LeadFilter; label: string }[] = [
  { key: "mine", label: "Mine to call" },
  { key: "queue", label: "In my queues" },
  { key: "unfinished", label: "Unfinished" },
  { key: "all", label: "Everything" },
];

/** How long typing rests before it is searched for. */
const REST_MS = 250;

type Pages = { pages: Schemas["LeadPage"][] } | undefined;

const rowsOf = (data: Pages): Schemas["LeadRow"][] => data?.pages.flatMap((page) => page.leads) ?? [];

/** "12", or "100+" where there are more pages. */
function countOf(data: Pages): string {
  if (!data) return "";
  return `${rowsOf(data).length}${data.pages.at(-1)?.next ? "+" : ""}`;
}

export function LeadsScreen() {
  useTitle("Leads");
  const { lead } = useParams({ strict: false });
  const navigate = useNavigate();
  const me = useQuery(meQuery).data;
  const [show, setShow] = useState<LeadFilter>(me?.works_leads === false ? "all" : "mine");
  const [search, setSearch] = useState("");
  const [mark, setMark] = useState<Status | null>(null);
  const mine = useInfiniteQuery(leadsQuery("mine")).data;
  const queue = useInfiniteQuery(leadsQuery("queue")).data;
  const unfinished = useInfiniteQuery(leadsQuery("unfinished")).data;
  const all = useInfiniteQuery(leadsQuery("all")).data;
  const needle = useRested(search.trim(), REST_MS);
  const current = useInfiniteQuery(leadsQuery(show, needle));
  const rows = rowsOf(current.data);
  useLive("leads", () => {
    void queries.invalidateQueries({ queryKey: ["leads"] });
    if (lead) void queries.invalidateQueries({ queryKey: ["lead", lead] });
  });
  const open = (id: string) => void navigate({ to: "/leads/$lead", params: { lead: id } });
  const first = rows[0]?.id;
  useEffect(() => {
    if (!lead && first) void navigate({ to: "/leads/$lead", params: { lead: first }, replace: true });
  }, [lead, first, navigate]);
  const step = (by: number) => {
    const at = rows.findIndex((row) => row.id === lead);
    const next = rows[Math.min(Math.max(at + by, 0), rows.length - 1)];
    if (next) open(next.id);
  };
  const shown = useQuery({ ...leadQuery(lead ?? ""), enabled: lead !== undefined }).data;
  const work = useWork(shown, () => setMark(null));
  const nextToCall = () => {
    const next = rows.find((row) => row.id !== lead && isOpen(row.status));
    if (next) open(next.id);
  };
  useCommands("leads", {
    "next-row": () => step(1),
    "previous-row": () => step(-1),
    "next-to-call": nextToCall,
    ...(me?.works_leads && lead
      ? {
          ...Object.fromEntries(callWords.map(({ key, command }) => [command, () => void work.call(key)])),
          dial: () => document.querySelector<HTMLElement>("[data-dial]")?.click(),
          "step-back": () => void work.back(),
          "write-note": () => document.getElementById(NOTE_BOX)?.focus(),
          "take-lead": () => void work.give(me.id, ""),
          "mark-won": () => setMark("won"),
          "mark-lost": () => setMark("lost"),
          "mark-no-fit": () => setMark("not_a_fit"),
        }
      : {}),
  });
  return (
    <>
      <RecordsNav />
      <div className="flex min-h-0 grow max-lg:flex-col max-lg:overflow-auto">
        <main className="flex min-w-0 grow flex-col pt-1 pl-4 max-lg:max-h-[60vh] max-lg:shrink-0">
          <div className="flex flex-wrap items-center gap-x-5 gap-y-1 pr-4">
            <div role="group" aria-label="Which leads" className="flex gap-5">
              {tabs.map((tab) => (
                <button
                  key={tab.key}
                  type="button"
                  aria-pressed={show === tab.key}
                  onClick={() => setShow(tab.key)}
                  className={clsx(
                    "border-b-2 py-1",
                    show === tab.key ? "border-ink font-semibold" : "border-transparent text-soft hover:text-ink",
                  )}
                >
                  {tab.label}{" "}
                  <b className="font-semibold figures">{countOf({ mine, queue, unfinished, all }[tab.key])}</b>
                </button>
              ))}
            </div>
            <TextInput
              aria-label="Search leads"
              type="search"
              placeholder="Search leads"
              className="ml-auto !w-40"
              value={search}
              onChange={(event) => setSearch(event.target.value)}
            />
          </div>
          {current.error && <Notice tone="wrong">{current.error.message}</Notice>}
          <div className="mt-2 min-h-0 grow overflow-auto">
            <table className="w-full table-fixed border-collapse">
              <thead className="sticky top-0 bg-oat">
                <tr className="border-b border-line text-left text-xs text-soft [&_th]:py-1.5 [&_th]:font-normal">
                  <th className="w-33 pl-3 max-md:w-30">{show === "all" ? "When" : "Next"}</th>
                  <th className="w-36 max-md:hidden">What</th>
                  <th className="w-56 max-md:w-auto">Prospect</th>
                  <th className="max-md:hidden">Wants</th>
                  <th className="w-28 max-md:w-24">Score</th>
                  {show !== "mine" && <th className="w-28">Owner</th>}
                </tr>
              </thead>
              <tbody>
                {rows.map((row) => (
                  <LeadRow key={row.id} row={row} show={show} picked={row.id === lead} onOpen={() => open(row.id)} />
                ))}
              </tbody>
            </table>
            {current.isPending && <p className="p-3 text-soft">Reading the leads</p>}
            {current.data && rows.length === 0 && (
              <p className="p-3 text-soft">{needle ? `No lead with “${needle}”.` : empty[show]}</p>
            )}
            {current.hasNextPage && (
              <Button
                look="quiet"
                className="m-2"
                disabled={current.isFetchingNextPage}
                onClick={() => void current.fetchNextPage()}
              >
                {current.isFetchingNextPage ? "Reading more" : "Show more"}
              </Button>
            )}
          </div>
        </main>
        <aside
          aria-label="Lead"
          className="w-[484px] shrink-0 overflow-auto border-l border-line bg-paper max-lg:w-full max-lg:border-t"
        >
          {lead ? (
            <LeadDetail key={lead} id={lead} work={work} mark={mark} onMark={setMark} />
          ) : (
            <p className="p-5 text-soft">Pick a lead to see why it qualifies and what they said.</p>
          )}
        </aside>
      </div>
      <BottomLine
        right={
          me?.works_leads
            ? "J K move · C call · 1 spoke · 2 no reply · 3 message · 4 wrong number · Enter next · Z undo · ? all"
            : "J K move · ? all"
        }
      >
        <span>
          <b>{countOf(mine) || 0}</b> to call
        </span>
        <span>
          <b>{rowsOf(mine).filter((row) => row.status === "new").length}</b> not called yet
        </span>
        <span>
          <b>{rowsOf(all).filter((row) => row.status === "won").length}</b> won
        </span>
      </BottomLine>
    </>
  );
}

function LeadRow({
  row,
  show,
  picked,
  onOpen,
}: {
  row: Schemas["LeadRow"];
  show: LeadFilter;
  picked: boolean;
  onOpen: () => void;
}) {
  return (
    <tr
      aria-selected={picked}
      onClick={onOpen}
      className={clsx(
        "h-9 cursor-pointer border-b border-line [&_td]:py-1",
        picked ? "bg-paper shadow-[inset_3px_0_0_var(--ink)]" : "hover:bg-paper/60",
      )}
    >
      <td className="pl-3 whitespace-nowrap text-soft figures">
        <WhenWords row={row} />
      </td>
      <td className="truncate max-md:hidden">
        {isOpen(row.status) ? nextWords(row) : statusWords[row.status]}
        <span className="ml-1.5 text-xs text-soft figures">{tryWords(row)}</span>
      </td>
      <td className="truncate pr-2">
        <button type="button" className="text-left font-semibold hover:underline" onClick={onOpen}>
          {row.name ?? "No name given"}
        </button>
        <span className="ml-1.5 text-xs text-soft">{row.company ?? ""}</span>
        {row.unfinished && <span className="ml-1.5 text-xs text-amber">unfinished</span>}
      </td>
      <td className="truncate pr-3 max-md:hidden" title={row.wants}>
        {row.wants}
      </td>
      <td className="whitespace-nowrap figures">
        {row.total !== null && row.total !== undefined && (
          <b className="mr-2 inline-block w-6 text-right font-semibold">{row.total}</b>
        )}
        {row.band && <BandMark label={row.band} rank={row.band_rank} />}
      </td>
      {show !== "mine" && (
        <td className="truncate" title={row.queue ?? undefined}>
          {row.mine ? "you" : (row.owner ?? "nobody yet")}
        </td>
      )}
    </tr>
  );
}

/** When to call: by the target where nobody tried yet, else the moment of what comes next; a closed one's filing. */
function WhenWords({ row }: { row: Schemas["LeadRow"] }) {
  const at = row.status === "new" ? row.call_by : row.next_at;
  if (row.status === "new" && !row.call_by) return <span title={`Filed ${ago(row.filed_at)}`}>any time</span>;
  if (!isOpen(row.status) || !at) return <span title={`Filed ${stamp(row.filed_at)}`}>{ago(row.filed_at)}</span>;
  const words = due(at);
  const why = row.status === "new" ? "Call by" : nextWords(row);
  return (
    <span
      className={clsx("font-medium", words.endsWith("late") ? "text-clay" : "text-ink")}
      title={`${why} ${stamp(at)}; filed ${ago(row.filed_at)}`}
    >
      {words}
    </span>
  );
}
