import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useNavigate, useParams } from "@tanstack/react-router";
import { useEffect, useState } from "react";

import type { Schemas } from "../../../api";
import { Button, Notice, TextInput, useTitle } from "../../../kit/ui";
import { BottomLine } from "../frame/BottomLine";
import { useCommands } from "../frame/useCommands";
import type { LeadFilter } from "../lib/query";
import { leadQuery, leadsQuery, lookedForQuery, meQuery, queries } from "../lib/query";
import { useRested } from "../lib/useRested";
import { useLive } from "../live/useLive";
import { RecordsNav } from "../records/RecordsNav";
import { LeadDetail } from "./LeadDetail";
import { LeadLine } from "./LeadLine";
import { LookRow } from "./LookRow";
import { NOTE_BOX } from "./CallBar";
import { Picked } from "./Picked";
import { TAG_BOX } from "./Tags";
import { WhichLeads } from "./WhichLeads";
import type { Look } from "./looks";
import { isPlain, lookText } from "./looks";
import { useWork } from "./useWork";
import type { Status } from "./words";
import { callWords, empty, isOpen } from "./words";

/** How long typing rests before it is searched for. */
const REST_MS = 250;

type Pages = { pages: Schemas["LeadPage"][] } | undefined;

const rowsOf = (data: Pages): Schemas["LeadRow"][] => data?.pages.flatMap((page) => page.leads) ?? [];

/** "12", or "100+" where there are more pages. */
function countOf(data: Pages): string {
  if (!data) return "";
  return `${rowsOf(data).length}${data.pages.at(-1)?.next ? "+" : ""}`;
}

/** Why a list is empty, where it was asked for something. */
function noneWords(needle: string, look: Look): string | null {
  if ((look.tests ?? []).length > 0) return "No lead fits all of these filters.";
  return needle ? `No lead with “${needle}”.` : null;
}

export function LeadsScreen() {
  useTitle("Leads");
  const { lead } = useParams({ strict: false });
  const navigate = useNavigate();
  const me = useQuery(meQuery).data;
  const [show, setShow] = useState<LeadFilter>(me?.works_leads === false ? "all" : "mine");
  const [search, setSearch] = useState("");
  const [look, setLook] = useState<Look>({});
  const [looking, setLooking] = useState(false);
  const [mark, setMark] = useState<Status | null>(null);
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const [picking, setPicking] = useState(false);
  const mine = useInfiniteQuery(leadsQuery("mine")).data;
  const queue = useInfiniteQuery(leadsQuery("queue")).data;
  const unfinished = useInfiniteQuery(leadsQuery("unfinished")).data;
  const all = useInfiniteQuery(leadsQuery("all")).data;
  const needle = useRested(search.trim(), REST_MS);
  const asked = lookText(look);
  const current = useInfiniteQuery(leadsQuery(show, needle, asked));
  const rows = rowsOf(current.data);
  const columns = look.columns ?? [];
  const lookedFor = useQuery({ ...lookedForQuery, enabled: columns.length > 0 }).data;
  const labels = new Map((lookedFor?.fields ?? []).map((field) => [field.id, field.label]));
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
  const toggle = (id: string) => {
    const next = new Set(picked);
    if (!next.delete(id)) next.add(id);
    setPicked(next);
    setPicking(true);
  };
  const letGo = () => {
    setPicked(new Set());
    setPicking(false);
  };
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
          "write-mail": () => document.querySelector<HTMLElement>("[data-write]")?.click(),
          "write-tag": () => document.getElementById(TAG_BOX)?.focus(),
          "pick-lead": () => {
            toggle(lead);
            step(1);
          },
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
            <WhichLeads
              show={show}
              search={needle}
              look={look}
              counts={{
                mine: countOf(mine),
                queue: countOf(queue),
                unfinished: countOf(unfinished),
                all: countOf(all),
              }}
              onPick={(shows, kept) => {
                setShow(shows);
                if (!kept) return;
                setSearch(kept.search);
                setLook(kept.look);
              }}
            />
            <div className="ml-auto flex items-center gap-x-3">
              <TextInput
                aria-label="Search leads"
                type="search"
                placeholder="Search leads, or #tag"
                className="!w-40"
                value={search}
                onChange={(event) => setSearch(event.target.value)}
              />
              <a
                className="text-sm text-spruce hover:underline"
                title="The list as it is shown, 10,000 leads at most"
                href={`/api/leads.csv?${new URLSearchParams({ show, search: needle, ...(asked && { look: asked }) })}`}
                download
              >
                CSV
              </a>
              <Button look="quiet" aria-expanded={looking} onClick={() => setLooking(!looking)}>
                {isPlain(look) ? "Filter" : `Filter (${(look.tests ?? []).length})`}
              </Button>
              {me?.works_leads && (
                <Button
                  look="quiet"
                  aria-pressed={picking}
                  aria-label="Pick several"
                  title="Pick several, shortcut X"
                  onClick={() => (picking ? letGo() : setPicking(true))}
                >
                  Pick
                </Button>
              )}
            </div>
          </div>
          {looking && <LookRow look={look} onChange={setLook} />}
          {picking && (
            <Picked
              leads={rows
                .filter((row) => picked.has(row.id))
                .map(({ id, name }) => ({ id, name: name ?? "No name given" }))}
              onPicked={(ids) => setPicked(new Set(ids))}
              onClose={letGo}
            />
          )}
          {current.error && <Notice tone="wrong">{current.error.message}</Notice>}
          <div className="mt-2 min-h-0 grow overflow-auto">
            <table className="w-full table-fixed border-collapse">
              <thead className="sticky top-0 bg-oat">
                <tr className="border-b border-line text-left text-xs text-soft [&_th]:py-1.5 [&_th]:font-normal">
                  {picking && <th className="w-8" aria-label="Picked" />}
                  <th className="w-28 pl-3 max-md:w-30">{show === "all" ? "When" : "Next"}</th>
                  {columns.length === 0 && <th className="w-34 max-md:hidden">What</th>}
                  <th className="w-52 max-md:w-auto">Prospect</th>
                  {columns.length === 0 && <th className="max-md:hidden">Wants</th>}
                  {columns.map((id) => (
                    <th key={id} className="truncate max-md:hidden">
                      {labels.get(id) ?? ""}
                    </th>
                  ))}
                  <th className="w-26 max-md:w-24">Score</th>
                  {show !== "mine" && <th className="w-24">Owner</th>}
                </tr>
              </thead>
              <tbody>
                {rows.map((row) => (
                  <LeadLine
                    key={row.id}
                    row={row}
                    show={show}
                    shown={row.id === lead}
                    picked={picking ? picked.has(row.id) : null}
                    onOpen={() => open(row.id)}
                    onPick={() => toggle(row.id)}
                  />
                ))}
              </tbody>
            </table>
            {current.isPending && <p className="p-3 text-soft">Reading the leads</p>}
            {current.data && rows.length === 0 && (
              <p className="p-3 text-soft">{noneWords(needle, look) ?? empty[show]}</p>
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
