import { Link } from "@tanstack/react-router";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { Notice } from "../../../kit/ui";
import { Bands } from "./Bands";
import { Land } from "./Land";
import type { Card } from "./card";
import { lineKey, withThreshold } from "./card";
import { leftOutWords, percent, plain, span } from "./words";

type Bench = Schemas["Bench"];

/** What a lead’s place among others says, in a sentence. */
export function Telling({ bench }: { bench: Bench }) {
  const { tells } = bench;
  const hundred = (value: number) => Math.round(value * 100);
  if (!tells)
    return (
      <p className="mt-4 text-sm text-soft">How well the score tells shows once some leads were won and some lost.</p>
    );
  return (
    <p className="mt-4 text-sm">
      The score puts a won lead above a lost one <b className="font-semibold">{hundred(tells.value)} times in 100</b> (
      {hundred(tells.interval.low)} to {hundred(tells.interval.high)}; a coin does so 50 times).
      {bench.apart && (
        <>
          {" "}
          The two are furthest apart at {Math.round(bench.apart.from)} points: {hundred(bench.apart.won)} of 100 won
          leads stand there or higher, and {hundred(bench.apart.lost)} of 100 lost ones.
        </>
      )}
      {bench.doubles && <> Every {Math.round(bench.doubles)} points double the odds of being won.</>}
    </p>
  );
}

/** Past leads beside the card: where they land, how bands fare, how well it tells, who would move. */
export function PastPane({
  card,
  names,
  view,
  stale,
  looking,
  error,
  onLook,
  onKeep,
  onChange,
}: {
  card: Card;
  /** Lines of the card in words, by key. */
  names: (key: string) => string;
  view: Schemas["BenchView"] | undefined;
  stale: boolean;
  looking: boolean;
  error: Error | null;
  onLook: (card: Card) => void;
  onKeep: () => void;
  onChange: (card: Card) => void;
}) {
  if (error) return <Notice tone="wrong">{error.message}</Notice>;
  if (!view) return <p className="text-sm text-soft">Reading past leads</p>;
  const { bench } = view;
  const empty = bench.counted.leads === 0;
  return (
    <div aria-busy={stale}>
      <h2 className="flex items-baseline gap-2 text-sm font-semibold">
        Where past leads land
        <span className="text-xs font-normal text-soft">
          {bench.counted.leads} closed in the last 12 months, {bench.counted.won} won
          {stale && ", counting again"}
        </span>
      </h2>
      {empty && (
        <p className="mt-2 text-sm text-soft">
          No lead of this dialogue has been closed yet. Once reps say which were won and lost, they show here; until
          then, hold the scorecard against a file of leads.
        </p>
      )}
      <Land
        card={card}
        bins={bench.bins}
        onLook={(band, from) => onLook(withThreshold(card, band, from))}
        onKeep={onKeep}
      />
      <Bands card={card} bench={bench} onChange={onChange} />
      {!empty && <Telling bench={bench} />}
      {leftOutWords(bench.left_out) && <p className="mt-1 text-xs text-soft">{leftOutWords(bench.left_out)}</p>}
      <MovesList card={card} view={view} looking={looking} />
      {bench.calibration.length > 1 && <Calibration bench={bench} />}
      {bench.never_together.length > 0 && (
        <>
          <h3 className="mt-5 text-sm font-semibold">Never met together</h3>
          <ul className="mt-1 text-sm text-soft">
            {bench.never_together.slice(0, 5).map(({ first, second, expected }) => {
              const said = (place: number) => {
                const row = bench.rows[place];
                return row ? names(lineKey(row.id, row.row)) : "";
              };
              return (
                <li key={`${first}-${second}`}>
                  “{said(first)}” and “{said(second)}”: about {Math.round(expected)} leads were to be expected.
                </li>
              );
            })}
          </ul>
        </>
      )}
    </div>
  );
}

/** Who changes band: against the release, or against the draft while a threshold is on its way. */
function MovesList({ card, view, looking }: { card: Card; view: Schemas["BenchView"]; looking: boolean }) {
  const [open, setOpen] = useState(false);
  const { moves } = view.bench;
  if (!moves || moves.leads === 0) return null;
  const name = (id: string | null | undefined) =>
    id ? (card.bands.find((band) => band.id === id)?.label ?? "a band that is gone") : "ruled out";
  const people = new Map(view.moved.map((lead) => [lead.lead, lead]));
  return (
    <section className="mt-4">
      <h3 className="text-sm">
        <b className="font-semibold">
          {moves.leads} lead{moves.leads === 1 ? "" : "s"}
        </b>{" "}
        {moves.leads === 1 ? "changes" : "change"} band {looking ? "by this move" : "against the last release"}:{" "}
        {moves.between.map((one) => `${one.leads} from ${name(one.from)} to ${name(one.to)}`).join(", ")}.{" "}
        <button
          type="button"
          aria-expanded={open}
          className="text-spruce hover:underline"
          onClick={() => setOpen(!open)}
        >
          {open ? "Hide them" : "Show them"}
        </button>
      </h3>
      {open && (
        <ul className="mt-1 max-h-56 overflow-auto text-sm">
          {moves.newest.map((one) => {
            const lead = people.get(one.lead);
            return (
              <li key={one.lead} className="flex gap-3 border-b border-hair py-1">
                <Link to="/leads/$lead" params={{ lead: one.lead }} className="min-w-0 grow truncate hover:underline">
                  {[lead?.name ?? "No name given", lead?.company].filter(Boolean).join(", ")}
                </Link>
                <span className="shrink-0 text-soft figures">
                  {plain(one.before)} {name(one.from)} → {plain(one.after)} {name(one.to)}
                </span>
              </li>
            );
          })}
        </ul>
      )}
    </section>
  );
}

const PLOT = 120;

/** Won rates by points with their intervals, and what one curve through all expects. */
function Calibration({ bench }: { bench: Bench }) {
  const groups = bench.calibration;
  const most = Math.max(...groups.map((group) => group.leads.interval?.high ?? 0), 0.1);
  const y = (share: number) => PLOT - (share / most) * (PLOT - 8);
  const width = 100 / groups.length;
  return (
    <section className="mt-5">
      <h3 className="text-sm font-semibold">Do more points win more?</h3>
      <p className="text-xs text-soft">
        Dots are won rates of leads with points close to each other, with their intervals; the dashes are what one curve
        through all leads expects.
        {bench.brier !== null &&
          bench.brier !== undefined &&
          ` Its mean squared error is ${bench.brier.toFixed(3)}; 0 would be perfect.`}
      </p>
      <svg role="img" aria-label={groupWords(groups)} className="mt-2 block w-full overflow-visible" height={PLOT + 16}>
        <line x1="0" x2="100%" y1={PLOT} y2={PLOT} stroke="var(--line)" />
        {groups.map((group, place) => {
          const middle = `${(place + 0.5) * width}%`;
          return (
            <g key={group.low}>
              <title>{groupWords([group])}</title>
              <line
                x1={middle}
                x2={middle}
                y1={y(group.leads.interval?.low ?? 0)}
                y2={y(group.leads.interval?.high ?? 0)}
                stroke="var(--soft)"
              />
              {group.expected !== null && group.expected !== undefined && (
                <line
                  x1={`${(place + 0.25) * width}%`}
                  x2={`${(place + 0.75) * width}%`}
                  y1={y(group.expected)}
                  y2={y(group.expected)}
                  stroke="var(--amber)"
                  strokeWidth="2"
                />
              )}
              <circle cx={middle} cy={y(group.leads.rate ?? 0)} r="4" fill="var(--spruce)" />
              <text x={middle} y={PLOT + 13} fontSize="11" textAnchor="middle" fill="var(--soft)">
                {group.low === group.high ? group.low : `${group.low} to ${group.high}`}
              </text>
            </g>
          );
        })}
      </svg>
    </section>
  );
}

const groupWords = (groups: Schemas["Group"][]) =>
  groups
    .map(
      ({ low, high, leads, expected }) =>
        `${low} to ${high} points: ${percent(leads.rate)} won (${span(leads.interval)}) of ${leads.leads}${
          expected === null || expected === undefined ? "" : `, ${percent(expected)} expected`
        }`,
    )
    .join("; ");
