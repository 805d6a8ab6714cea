import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Notice, TextInput } from "../../../kit/ui";
import type { Card } from "./card";
import { lineKey, withPoints } from "./card";
import type { Counts } from "./useBench";
import { doubtWords, noneWords, signed } from "./words";

type Suggestion = Schemas["Suggestion"];

/** Points that past leads speak for, beside today’s; applied one by one or all, each a change like any other. */
export function SuggestPane({
  dialogue,
  revision,
  card,
  counts,
  names,
  onChange,
}: {
  dialogue: string;
  revision: number;
  card: Card;
  counts: Counts;
  names: (key: string) => string;
  onChange: (card: Card) => void;
}) {
  const [doubles, setDoubles] = useState<number | null>(null);
  const { data, error } = useQuery({
    queryKey: ["suggest", dialogue, revision, card.id, counts, doubles],
    queryFn: ({ signal }) =>
      ask(
        client.POST("/api/dialogues/{dialogue}/suggest", {
          params: { path: { dialogue } },
          body: { held: { card: card.id, counts }, doubles },
          signal,
        }),
      ),
    placeholderData: (known) => known,
  });
  if (error) return <Notice tone="wrong">{error.message}</Notice>;
  if (!data) return <p className="text-sm text-soft">Weighing past leads</p>;
  if (!data.suggestion) return <p className="text-sm">{data.none ? noneWords[data.none] : ""}</p>;
  const { suggestion } = data;
  const others = suggestion.points.filter((one) => one.points !== one.today);
  const all = () => onChange(others.reduce((next, one) => withPoints(next, one.id, one.row, one.points), card));
  return (
    <>
      <h2 className="text-sm font-semibold">
        Points that {suggestion.leads} closed leads speak for{" "}
        <span className="text-xs font-normal text-soft">{suggestion.won} won</span>
      </h2>
      <p className="mt-1 text-sm text-soft">
        Each criterion is weighed with all others held the same. Nothing changes until you take it over.
      </p>
      {suggestion.cases_each < 10 && (
        <p className="mt-1 text-sm text-amber">
          Few leads for so many criteria: {Math.floor(suggestion.cases_each)} won or lost ones for each, where ten are a
          usual least. Mind the intervals.
        </p>
      )}
      <div className="mt-2 flex items-center gap-2 text-xs text-soft">
        <label htmlFor="doubles">Points that double the odds of being won</label>
        <TextInput
          id="doubles"
          className="!w-16 !py-0.5 text-right figures"
          inputMode="numeric"
          defaultValue={Math.round(suggestion.doubles)}
          key={Math.round(suggestion.doubles)}
          onBlur={(event) => {
            const typed = Number(event.target.value);
            if (typed >= 1 && typed <= 500) setDoubles(typed);
          }}
          onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        />
      </div>
      <table className="mt-3 w-full border-collapse text-sm">
        <thead>
          <tr className="border-b border-line text-xs text-soft [&_th]:pb-1.5 [&_th]:font-normal [&_th+th]:pl-2">
            <th className="text-left">Criterion</th>
            <th className="text-right">Met by</th>
            <th className="text-right">Today</th>
            <th className="text-right">Suggested</th>
            <th className="text-right">95%</th>
            <th aria-label="Take over" />
          </tr>
        </thead>
        <tbody>
          {suggestion.points.map((one) => {
            const key = lineKey(one.id, one.row);
            const inside = one.today >= one.interval.low && one.today <= one.interval.high;
            return (
              <tr key={key} className="border-b border-hair align-top [&>td]:py-1.5">
                <td>
                  {names(key)}
                  {one.doubts.map((doubt) => (
                    <span key={doubt} className="block text-xs text-amber">
                      {doubtWords[doubt]}
                    </span>
                  ))}
                </td>
                <td className="text-right figures">{one.met}</td>
                <td className="text-right figures">{signed(one.today)}</td>
                <td className="text-right font-semibold figures">{signed(one.points)}</td>
                <td className={`text-right figures ${inside ? "text-soft" : "text-amber"}`}>
                  {signed(Math.round(one.interval.low))} to {signed(Math.round(one.interval.high))}
                </td>
                <td className="text-right">
                  {one.points === one.today ? (
                    <span className="text-xs text-soft">as today</span>
                  ) : (
                    <Button
                      look="quiet"
                      className="!py-0"
                      aria-label={`Take over ${signed(one.points)} for ${names(key)}`}
                      onClick={() => onChange(withPoints(card, one.id, one.row, one.points))}
                    >
                      Take over
                    </Button>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <Telling suggestion={suggestion} />
      <Button className="mt-3" disabled={others.length === 0} onClick={all}>
        Take over all {others.length}
      </Button>
    </>
  );
}

function Telling({ suggestion }: { suggestion: Suggestion }) {
  const { today_tells: today, suggested_tells: suggested } = suggestion;
  if (!today || !suggested) return null;
  const words = (tells: Schemas["Tells"]) =>
    `${Math.round(tells.value * 100)} times in 100 (${Math.round(tells.interval.low * 100)} to ${Math.round(tells.interval.high * 100)})`;
  return (
    <p className="mt-3 text-sm">
      Today’s points put a won lead above a lost one {words(today)}; the suggested ones {words(suggested)}, each tenth
      of the leads told by points from the other nine.
    </p>
  );
}
