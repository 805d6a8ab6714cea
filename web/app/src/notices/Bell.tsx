import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate } from "@tanstack/react-router";
import { Popover } from "radix-ui";
import { useEffect, useRef, useState } from "react";

import { ask, client } from "../../../api";
import { BandMark, Button } from "../../../kit/ui";
import { alertsQuery, noticesQuery, queries } from "../lib/query";
import { ago, stamp } from "../lib/time";
import { useAttempt } from "../lib/useAttempt";
import { useLive } from "../live/useLive";
import { playChime } from "./chime";
import type { Notice } from "./words";
import { callWords, fresh, noticeWords, tellsAloud } from "./words";

/** What one was told, with how much is new; sound and desktop where one wants them. */
export function Bell() {
  const { data, error, dataUpdatedAt } = useQuery({ ...noticesQuery, refetchInterval: 60_000 });
  const alerts = useQuery(alertsQuery).data;
  const [open, setOpen] = useState(false);
  const navigate = useNavigate();
  const { says, attempt } = useAttempt();
  const reload = () => queries.invalidateQueries({ queryKey: noticesQuery.queryKey });
  useLive("notices", () => void reload());
  const before = useRef<Notice[] | undefined>(undefined);
  useEffect(() => {
    if (!data) return;
    const came = fresh(before.current, data.notices);
    before.current = data.notices;
    const aloud = alerts ? came.filter((notice) => tellsAloud(notice, alerts, new Date().getHours())) : [];
    if (aloud.length === 0) return;
    if (alerts?.sound) playChime();
    if (alerts?.desktop && document.hidden && "Notification" in window && Notification.permission === "granted") {
      for (const notice of aloud.slice(-3)) {
        const { what, who } = noticeWords(notice);
        const shown = new Notification(`${who}: ${what}`, { body: notice.lead?.wants, tag: notice.id });
        shown.addEventListener("click", () => {
          window.focus();
          if (notice.lead) void navigate({ to: "/leads/$lead", params: { lead: notice.lead.id } });
        });
      }
    }
  }, [data, alerts, navigate]);
  const unseen = data?.unseen ?? 0;
  const see = async (notice?: string) => {
    await attempt(() => ask(client.POST("/api/notices/seen", { body: notice ? { notice } : {} })));
    await reload();
  };
  const take = async (notice: Notice) => {
    const lead = notice.lead;
    const me = queries.getQueryData<{ id: string }>(["me"])?.id;
    if (!lead || !me) return;
    const path = { params: { path: { lead: lead.id } }, body: { revision: lead.revision, to: me } };
    const taken = await attempt(() => ask(client.POST("/api/leads/{lead}/owner", path)));
    await see(notice.id);
    if (taken) go(lead.id);
  };
  const go = (lead: string) => {
    setOpen(false);
    void navigate({ to: "/leads/$lead", params: { lead } });
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        aria-label={unseen > 0 ? `Notices, ${unseen} new` : "Notices"}
        className="relative rounded-sm px-1 text-on-top/85 hover:text-on-top"
      >
        <svg aria-hidden width="16" height="16" viewBox="0 0 16 16" fill="none" stroke="currentColor" strokeWidth="1.4">
          <path d="M3 11.5h10c-1.2-1.2-1.5-2.4-1.5-5a3.5 3.5 0 0 0-7 0c0 2.6-.3 3.8-1.5 5z" strokeLinejoin="round" />
          <path d="M6.5 13.5a1.6 1.6 0 0 0 3 0" strokeLinecap="round" />
        </svg>
        {unseen > 0 && (
          <span className="absolute -top-1.5 -right-1.5 min-w-4 rounded-full bg-[#e0ab5a] px-1 text-center text-[10px] leading-4 font-semibold text-[#1c2430] figures">
            {unseen}
          </span>
        )}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={8}
          aria-label="Notices"
          className="z-20 flex max-h-[min(32rem,80vh)] w-[26rem] max-w-[calc(100vw-1rem)] flex-col rounded-md border border-line bg-paper text-sm shadow-lg"
        >
          <div className="flex items-center border-b border-line px-3 py-2">
            <h2 className="font-serif font-semibold">Notices</h2>
            {unseen > 0 && (
              <Button look="quiet" className="ml-auto" onClick={() => void see()}>
                All seen
              </Button>
            )}
          </div>
          {(says || error) && (
            <p role="alert" className="px-3 py-1 text-clay">
              {says || error?.message}
            </p>
          )}
          <ol className="min-h-0 overflow-auto">
            {data?.notices.map((notice) => (
              <Row
                key={notice.id}
                notice={notice}
                onGo={go}
                onSee={see}
                onTake={take}
                onClose={() => setOpen(false)}
                now={dataUpdatedAt}
              />
            ))}
          </ol>
          {data && data.notices.length === 0 && (
            <p className="px-3 py-4 text-soft">Nothing yet. New leads of yours, offers and requests stand here.</p>
          )}
          <p className="border-t border-line px-3 py-1.5 text-xs">
            <Link
              to="/settings/account"
              hash="alerts"
              className="text-spruce hover:underline"
              onClick={() => setOpen(false)}
            >
              How you are told
            </Link>
          </p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Row({
  notice,
  onGo,
  onSee,
  onTake,
  onClose,
  now,
}: {
  notice: Notice;
  onGo: (lead: string) => void;
  onSee: (notice: string) => Promise<void>;
  onTake: (notice: Notice) => Promise<void>;
  onClose: () => void;
  /** The moment the list was read at. */
  now: number;
}) {
  const { what, who } = noticeWords(notice);
  const lead = notice.lead;
  const call = lead?.untried ? callWords(lead.call_by, now) : "";
  const offered = notice.kind === "offered" && lead && !lead.mine && lead.untried;
  return (
    <li className={`border-b border-line px-3 py-2 ${notice.seen ? "" : "bg-picked"}`}>
      <p className="flex items-baseline gap-2">
        <span className={notice.seen ? "" : "font-semibold"}>{who}</span>
        {lead?.band && <BandMark label={lead.band} rank={lead.band_rank} />}
        <span className="ml-auto shrink-0 text-xs text-soft" title={stamp(notice.at)}>
          {ago(notice.at)}
        </span>
      </p>
      <p>
        {what}
        {call && (
          <span className={call.includes("late") || call.includes("past") ? "text-clay" : "text-amber"}>, {call}</span>
        )}
      </p>
      {lead?.wants && <p className="truncate text-soft">{lead.wants}</p>}
      <p className="mt-1 flex flex-wrap items-center gap-1.5">
        {offered && (
          <Button look="primary" onClick={() => void onTake(notice)}>
            Take
          </Button>
        )}
        {lead && (
          <Button
            onClick={() => {
              void onSee(notice.id);
              onGo(lead.id);
            }}
          >
            Open
          </Button>
        )}
        {lead?.phone && (
          <a className="px-1.5 py-1 text-spruce figures hover:underline" href={`tel:${lead.phone}`}>
            {lead.phone}
          </a>
        )}
        {notice.task && (
          <Link
            to="/leads/$lead"
            params={{ lead: notice.task.id }}
            className="px-1.5 py-1 text-spruce hover:underline"
            onClick={() => {
              void onSee(notice.id);
              onClose();
            }}
          >
            Open
          </Link>
        )}
        {notice.request && (
          <Link
            to="/requests/$request"
            params={{ request: notice.request.id }}
            className="px-1.5 py-1 text-spruce hover:underline"
            onClick={() => {
              void onSee(notice.id);
              onClose();
            }}
          >
            Open
          </Link>
        )}
        {notice.destination && (
          <Link
            to="/settings/destinations"
            className="px-1.5 py-1 text-spruce hover:underline"
            onClick={() => {
              void onSee(notice.id);
              onClose();
            }}
          >
            Look at it
          </Link>
        )}
        {!notice.seen && (
          <Button look="quiet" onClick={() => void onSee(notice.id)}>
            Not now
          </Button>
        )}
      </p>
    </li>
  );
}
