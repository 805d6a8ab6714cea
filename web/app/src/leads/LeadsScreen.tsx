import { useQuery } from "@tanstack/react-query";
import { useNavigate, useParams } from "@tanstack/react-router";
import { clsx } from "clsx";
import { useEffect, useState } from "react";

import type { Schemas } from "../../../api";
import { BandMark, Notice, TextInput, useTitle } from "../../../kit/ui";
import { BottomLine } from "../frame/BottomLine";
import { useCommands } from "../frame/useCommands";
import type { LeadFilter } from "../lib/query";
import { leadsQuery, meQuery } from "../lib/query";
import { ago } from "../lib/time";
import { LeadDetail } from "./LeadDetail";
import type { Mark } from "./LeadDetail";

const tabs: { key: LeadFilter; label: string; empty: string }[] = [
  {
    key: "mine",
    label: "Mine to call",
    empty: "Nothing to call. A lead stands here as soon as the rotation picks you.",
  },
  { key: "queue", label: "In my queues", empty: "No open lead of a colleague in your queues." },
  { key: "all", label: "Everything", empty: "No lead yet. They come from the conversations of released dialogues." },
];

const statusWords: Record<string, string> = {
  new: "First call",
  called: "Called, outcome open",
  won: "Won",
  lost: "Lost",
  not_a_fit: "Not a fit",
};

export function LeadsScreen() {
  useTitle("Leads");
  const { lead } = useParams({ strict: false });
  const navigate = useNavigate();
  const me = useQuery(meQuery).data;
  const [show, setShow] = useState<LeadFilter>(me?.works_leads === false ? "all" : "mine");
  const [search, setSearch] = useState("");
  const [mark, setMark] = useState<Mark | null>(null);
  const mine = useQuery(leadsQuery("mine"));
  const queue = useQuery(leadsQuery("queue"));
  const all = useQuery(leadsQuery("all"));
  const current = { mine, queue, all }[show];
  const needle = search.trim().toLowerCase();
  const rows = (current.data ?? []).filter(
    (row) =>
      !needle ||
      [row.name, row.company, row.wants, row.band, row.owner].some((text) => text?.toLowerCase().includes(needle)),
  );
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
  useCommands("leads", {
    "next-row": () => step(1),
    "previous-row": () => step(-1),
    ...(me?.works_leads && lead
      ? {
          "mark-called": () => setMark("called"),
          "mark-won": () => setMark("won"),
          "mark-lost": () => setMark("lost"),
          "mark-no-fit": () => setMark("not_a_fit"),
        }
      : {}),
  });
  const words = tabs.find((tab) => tab.key === show);
  return (
    <>
      <div className="flex min-h-0 grow max-lg:flex-col max-lg:overflow-auto">
        <main className="flex min-w-0 grow flex-col pt-2.5 pl-4 max-lg:max-h-[60vh] max-lg:shrink-0">
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
                  <b className="font-semibold figures">{{ mine, queue, all }[tab.key].data?.length ?? ""}</b>
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
            <table className="w-full border-collapse">
              <thead className="sticky top-0 bg-oat">
                <tr className="border-b border-line text-left text-xs text-soft [&_th]:py-1.5 [&_th]:font-normal">
                  <th className="w-26 pl-3">Filed</th>
                  <th className="w-44">Prospect</th>
                  <th>Wants</th>
                  <th className="w-36">Score</th>
                  <th className="w-32">{show === "mine" ? "Next" : "Owner"}</th>
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
              <p className="p-3 text-soft">{needle ? `No lead with “${search.trim()}”.` : words?.empty}</p>
            )}
          </div>
        </main>
        <aside
          aria-label="Lead"
          className="w-[484px] shrink-0 overflow-auto border-l border-line bg-paper max-lg:w-full max-lg:border-t"
        >
          {lead ? (
            <LeadDetail key={lead} id={lead} mark={mark} onMark={setMark} />
          ) : (
            <p className="p-5 text-soft">Pick a lead to see why it qualifies and what they said.</p>
          )}
        </aside>
      </div>
      <BottomLine
        right={me?.works_leads ? "J K move · C called · W won · L lost · N not a fit · ? all" : "J K move · ? all"}
      >
        <span>
          <b>{mine.data?.length ?? 0}</b> to call
        </span>
        <span>
          <b>{(mine.data ?? []).filter((row) => row.status === "new").length}</b> not called yet
        </span>
        <span>
          <b>{(all.data ?? []).filter((row) => row.status === "won").length}</b> won
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
        "cursor-pointer border-b border-line align-top [&_td]:py-2",
        picked ? "bg-paper shadow-[inset_3px_0_0_var(--ink)]" : "hover:bg-paper/60",
      )}
    >
      <td className="pl-3 whitespace-nowrap text-soft figures">{ago(row.filed_at)}</td>
      <td>
        <button type="button" className="text-left font-semibold hover:underline" onClick={onOpen}>
          {row.name ?? "No name given"}
        </button>
        <p className="text-xs text-soft">{row.company ?? ""}</p>
      </td>
      <td className="pr-3">{row.wants}</td>
      <td className="whitespace-nowrap figures">
        {row.total !== null && row.total !== undefined && (
          <b className="mr-2 inline-block w-6 text-right font-semibold">{row.total}</b>
        )}
        {row.band && <BandMark label={row.band} rank={row.band_rank} />}
      </td>
      <td>{show === "mine" ? statusWords[row.status] : <OwnerWords row={row} />}</td>
    </tr>
  );
}

function OwnerWords({ row }: { row: Schemas["LeadRow"] }) {
  return (
    <>
      {row.mine ? "you" : (row.owner ?? "nobody yet")}
      <p className="text-xs text-soft">
        {row.status === "new" || row.status === "called" ? row.queue : statusWords[row.status]}
      </p>
    </>
  );
}
