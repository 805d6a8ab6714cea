import { clsx } from "clsx";

import type { LeadFilter } from "../lib/query";
import { Lenses } from "./Lenses";
import type { Look } from "./looks";

const tabs: { key: LeadFilter; label: string }[] = [
  { key: "mine", label: "Mine to call" },
  { key: "queue", label: "In my queues" },
  { key: "unfinished", label: "Unfinished" },
  { key: "all", label: "Everything" },
];

/** Which leads the list shows: what everybody has, then the lists that one keeps. */
export function WhichLeads({
  show,
  search,
  look,
  counts,
  onPick,
}: {
  show: LeadFilter;
  search: string;
  look: Look;
  counts: Record<LeadFilter, string>;
  /** A list of one's own also says what is searched for, and how it is looked at. */
  onPick: (show: LeadFilter, kept?: { search: string; look: Look }) => void;
}) {
  return (
    <div role="group" aria-label="Which leads" className="flex flex-wrap gap-x-5">
      {tabs.map((tab) => (
        <button
          key={tab.key}
          type="button"
          aria-pressed={show === tab.key}
          onClick={() => onPick(tab.key)}
          className={clsx(
            "border-b-2 py-1",
            show === tab.key ? "border-ink font-semibold" : "border-transparent text-soft hover:text-ink",
          )}
        >
          {tab.label} <b className="font-semibold figures">{counts[tab.key]}</b>
        </button>
      ))}
      <Lenses show={show} search={search} look={look} onPick={onPick} />
    </div>
  );
}
