import { clsx } from "clsx";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { Button, Select, TextInput } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { Points } from "./Points";
import type { Band, Card } from "./card";
import { freshPart, withThreshold } from "./card";
import { callsWords, percent, span, toneClass, toneOf, toneWords } from "./words";

/** Bands with how their leads fared, the highest first; each opens beneath itself to be named, coloured and moved. */
export function Bands({
  card,
  bench,
  onChange,
}: {
  card: Card;
  bench: Schemas["Bench"] | undefined;
  onChange: (card: Card) => void;
}) {
  const { draft } = useShownDraft();
  const [open, setOpen] = useState<string | null>(null);
  const bands = card.bands.map((band, place) => ({ band, place })).toReversed();
  const set = (band: Band) =>
    onChange({ ...card, bands: card.bands.map((known) => (known.id === band.id ? band : known)) });
  const top = card.bands.at(-1);
  return (
    <>
      <table className="mt-4 w-full border-collapse text-sm">
        <thead>
          <tr className="border-b border-line text-xs text-soft [&_th]:pb-1.5 [&_th]:font-normal [&_th+th]:pl-2">
            <th className="text-left">Band</th>
            <th className="text-right">From</th>
            <th className="text-right">Leads</th>
            <th className="text-right">Won</th>
            <th className="text-right">Won rate, 95%</th>
            <th className="text-right">A week</th>
            <th className="text-right" title="First calls for each person and working day">
              Calls a day each
            </th>
          </tr>
        </thead>
        <tbody>
          {bands.map(({ band, place }) => {
            const found = bench?.bands.find((known) => known.id === band.id);
            return (
              <BandRows
                key={band.id}
                band={band}
                place={place}
                found={found}
                open={open === band.id}
                onOpen={() => setOpen(open === band.id ? null : band.id)}
                onChange={set}
                onThreshold={(from) => onChange(withThreshold(card, band.id, from))}
                onRemove={
                  card.bands.length > 1 && place > 0
                    ? () => onChange({ ...card, bands: card.bands.filter((known) => known.id !== band.id) })
                    : undefined
                }
              />
            );
          })}
        </tbody>
      </table>
      <Button
        look="quiet"
        className="mt-1 -ml-1.5"
        disabled={card.bands.length >= 12}
        onClick={() => {
          const id = freshPart(draft.dialogue, "b");
          onChange({ ...card, bands: [...card.bands, { id, label: "New band", from: (top?.from ?? 0) + 10 }] });
          setOpen(id);
        }}
      >
        + band
      </Button>
    </>
  );
}

function BandRows({
  band,
  place,
  found,
  open,
  onOpen,
  onChange,
  onThreshold,
  onRemove,
}: {
  band: Band;
  place: number;
  found: Schemas["BandBench"] | undefined;
  open: boolean;
  onOpen: () => void;
  onChange: (band: Band) => void;
  onThreshold: (from: number) => void;
  onRemove: (() => void) | undefined;
}) {
  const qualified = band.qualified ?? place > 0;
  return (
    <>
      <tr className="border-b border-hair [&>td]:py-1.5">
        <td>
          <button
            type="button"
            aria-expanded={open}
            onClick={onOpen}
            className={clsx("rounded-sm font-semibold", toneClass[toneOf(band, place)])}
          >
            {band.label || "no name"}
          </button>
          {!qualified && <span className="ml-2 text-xs text-soft">not qualified</span>}
        </td>
        <td className="text-right">
          {place > 0 ? (
            <Points plain label={`${band.label} begins at`} value={band.from ?? 0} onChange={onThreshold} />
          ) : (
            <span className="text-soft">the rest</span>
          )}
        </td>
        <td className="text-right figures">{found?.leads.leads ?? ""}</td>
        <td className="text-right figures">{found?.leads.won ?? ""}</td>
        <td className="text-right figures">
          {found && found.leads.leads > 0 ? percent(found.leads.rate) : ""}{" "}
          <span className="text-soft">{span(found?.leads.interval)}</span>
        </td>
        <td className="text-right figures">{found ? found.a_week.toFixed(1) : ""}</td>
        <td className="text-right figures">{callsWords(found?.calls)}</td>
      </tr>
      {open && (
        <tr className="border-b border-line bg-paper/60">
          <td colSpan={7} className="px-2 py-2">
            <div className="flex flex-wrap items-center gap-3 text-xs text-soft">
              <TextInput
                aria-label="Name of the band"
                autoFocus
                maxLength={40}
                className="!w-36"
                defaultValue={band.label}
                onBlur={(event) => {
                  const label = event.target.value.trim();
                  if (label && label !== band.label) onChange({ ...band, label });
                }}
                onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
              />
              <label className="flex items-center gap-1.5">
                colour
                <Select
                  value={band.tone ?? ""}
                  onChange={(event) => onChange({ ...band, tone: (event.target.value || null) as Band["tone"] })}
                >
                  <option value="">by its place</option>
                  {Object.entries(toneWords).map(([tone, words]) => (
                    <option key={tone} value={tone}>
                      {words}
                    </option>
                  ))}
                </Select>
              </label>
              <label className="flex items-center gap-1.5">
                <input
                  type="checkbox"
                  className="size-5"
                  checked={qualified}
                  onChange={(event) => onChange({ ...band, qualified: event.target.checked })}
                />
                counts as qualified
              </label>
              <span className="flex items-center gap-1.5">
                call within
                <TextInput
                  aria-label="Call within so many working minutes"
                  className="!w-16 !py-0.5 text-right figures"
                  inputMode="numeric"
                  placeholder="none"
                  defaultValue={band.call_within ?? ""}
                  onBlur={(event) => {
                    const typed = event.target.value.trim();
                    const next = typed === "" ? null : Number(typed);
                    if (next !== (band.call_within ?? null) && (next === null || (Number.isInteger(next) && next > 0)))
                      onChange({ ...band, call_within: next });
                  }}
                  onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
                />
                working minutes
              </span>
              {onRemove && (
                <Button look="quiet" className="!text-clay" onClick={onRemove}>
                  Take out
                </Button>
              )}
            </div>
          </td>
        </tr>
      )}
    </>
  );
}
