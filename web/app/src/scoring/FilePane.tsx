import { useMutation } from "@tanstack/react-query";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Select } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { Land } from "./Land";
import { Telling } from "./PastPane";
import type { Card } from "./card";
import { percent, span } from "./words";

type Mapping = Schemas["Mapping"];

const wonWords = /^(won|yes|y|true|1|win|customer|closed won|gained)$/i;
const lostWords = /^(lost|no|n|false|0|lose|not a fit|closed lost|dead)$/i;

/** What the columns seem to hold. */
function guess(glance: Schemas["Glance"]): Mapping {
  const outcome = glance.columns.findIndex((column) => column.outcome);
  const fields = Object.fromEntries(
    glance.columns.flatMap((column, place) => (column.field ? [[String(place), column.field]] : [])),
  );
  return { ...withOutcome(glance, { fields, outcome: 0, won: [], lost: [] }, Math.max(outcome, 0)) };
}

function withOutcome(glance: Schemas["Glance"], mapping: Mapping, outcome: number): Mapping {
  const words = glance.columns[outcome]?.words ?? [];
  return {
    ...mapping,
    outcome,
    won: words.filter((word) => wonWords.test(word)),
    lost: words.filter((word) => lostWords.test(word)),
  };
}

/** The scorecard held against leads of a file. Nothing of the file is kept. */
export function FilePane({ dialogue, card }: { dialogue: string; card: Card }) {
  const { draft } = useShownDraft();
  const [csv, setCsv] = useState("");
  const [mapping, setMapping] = useState<Mapping | null>(null);
  const glance = useMutation({
    mutationFn: (text: string) =>
      ask(
        client.POST("/api/dialogues/{dialogue}/bench/glance", { params: { path: { dialogue } }, body: { csv: text } }),
      ),
    onSuccess: (found) => setMapping(guess(found)),
  });
  const held = useMutation({
    mutationFn: (how: Mapping) =>
      ask(
        client.POST("/api/dialogues/{dialogue}/bench/file", {
          params: { path: { dialogue } },
          body: { csv, mapping: how, held: { card: card.id, scorecards: draft.dialogue.scorecards ?? [] } },
        }),
      ),
  });
  const read = (text: string) => {
    setCsv(text);
    held.reset();
    if (text.trim()) glance.mutate(text);
    else {
      glance.reset();
      setMapping(null);
    }
  };
  const fields = draft.dialogue.fields ?? [];
  const columns = glance.data?.columns ?? [];
  return (
    <>
      <h2 className="text-sm font-semibold">A file of leads</h2>
      <p className="mb-2 text-sm text-soft">
        Leads with what became of them, as CSV with a first line of names. They are counted and forgotten; none becomes
        a lead.
      </p>
      <label className="block text-xs text-soft">
        A file
        <input
          type="file"
          accept=".csv,text/csv,text/plain"
          className="mt-1 block text-sm text-ink"
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (file) void file.text().then(read);
          }}
        />
      </label>
      <label className="mt-2 block text-xs text-soft">
        or paste it
        <textarea
          rows={4}
          className="mt-1 block w-full rounded-md border border-line bg-paper px-2 py-1 font-mono text-xs text-ink"
          placeholder={"temperature,pallets,outcome\nfrozen,120,won"}
          value={csv.length > 20_000 ? `${csv.slice(0, 20_000)}…` : csv}
          onChange={(event) => read(event.target.value)}
        />
      </label>
      {glance.error && <p className="mt-2 text-sm text-clay">{glance.error.message}</p>}
      {mapping && glance.data && (
        <>
          <h3 className="mt-4 text-sm font-semibold">
            What its columns hold <span className="text-xs font-normal text-soft">{glance.data.rows} rows</span>
          </h3>
          {columns.map((column, place) => (
            // oxlint-disable-next-line react/no-array-index-key -- two columns may have one name
            <div
              key={place}
              className="grid grid-cols-[8rem_9rem_1fr] items-center gap-2 border-b border-hair py-1 text-sm"
            >
              <span className="truncate" title={column.name}>
                {column.name || "no name"}
              </span>
              <Select
                aria-label={`What “${column.name}” holds`}
                value={mapping.outcome === place ? "@outcome" : (mapping.fields[String(place)] ?? "")}
                onChange={(event) => {
                  const { [String(place)]: _, ...rest } = mapping.fields;
                  if (event.target.value === "@outcome")
                    setMapping(withOutcome(glance.data, { ...mapping, fields: rest }, place));
                  else
                    setMapping({
                      ...mapping,
                      fields: event.target.value ? { ...rest, [String(place)]: event.target.value } : rest,
                    });
                }}
              >
                <option value="">nothing of use</option>
                <option value="@outcome">what became of it</option>
                {fields.map((field) => (
                  <option key={field.id} value={field.key}>
                    {field.label}
                  </option>
                ))}
              </Select>
              <span className="truncate text-xs text-soft">{column.words.slice(0, 6).join(", ")}</span>
            </div>
          ))}
          <OutcomeWords words={columns[mapping.outcome]?.words ?? []} mapping={mapping} onChange={setMapping} />
          <Button
            look="primary"
            className="mt-3"
            disabled={held.isPending || mapping.won.length === 0 || mapping.lost.length === 0}
            onClick={() => held.mutate(mapping)}
          >
            {held.isPending ? "Counting" : "Hold the scorecard against it"}
          </Button>
          {(mapping.won.length === 0 || mapping.lost.length === 0) && (
            <p className="mt-1 text-xs text-soft">Say which words stand for won and which for lost.</p>
          )}
        </>
      )}
      {held.error && <p className="mt-2 text-sm text-clay">{held.error.message}</p>}
      {held.data && <FileFigures card={card} found={held.data} />}
    </>
  );
}

function OutcomeWords({
  words,
  mapping,
  onChange,
}: {
  words: string[];
  mapping: Mapping;
  onChange: (mapping: Mapping) => void;
}) {
  return (
    <ul className="mt-2 text-sm">
      {words.map((word) => (
        <li key={word} className="flex items-center gap-3 py-0.5">
          <span className="w-32 truncate">“{word}”</span>
          <Select
            aria-label={`“${word}” means`}
            value={mapping.won.includes(word) ? "won" : mapping.lost.includes(word) ? "lost" : ""}
            onChange={(event) =>
              onChange({
                ...mapping,
                won: [
                  ...mapping.won.filter((known) => known !== word),
                  ...(event.target.value === "won" ? [word] : []),
                ],
                lost: [
                  ...mapping.lost.filter((known) => known !== word),
                  ...(event.target.value === "lost" ? [word] : []),
                ],
              })
            }
          >
            <option value="won">won</option>
            <option value="lost">lost</option>
            <option value="">not closed, left out</option>
          </Select>
        </li>
      ))}
    </ul>
  );
}

function FileFigures({ card, found }: { card: Card; found: Schemas["FileBench"] }) {
  const { bench } = found;
  return (
    <section className="mt-5 border-t border-line pt-3">
      <h3 className="text-sm font-semibold">
        {bench.counted.leads} closed leads of the file{" "}
        <span className="text-xs font-normal text-soft">
          {found.read} rows read, {bench.counted.won} won
        </span>
      </h3>
      {found.bad_rows > 0 && (
        <details className="my-2 text-sm">
          <summary className="cursor-pointer text-amber">
            {found.bad_rows} row{found.bad_rows === 1 ? "" : "s"} could not be read
          </summary>
          <ul className="mt-1 max-h-40 overflow-auto text-xs">
            {found.bad.map((bad) => (
              <li key={bad.line}>
                Line {bad.line}: {bad.says}
              </li>
            ))}
          </ul>
        </details>
      )}
      <Land card={card} bins={bench.bins} onLook={() => {}} onKeep={() => {}} />
      <table className="mt-3 w-full border-collapse text-sm">
        <thead>
          <tr className="border-b border-line text-xs text-soft [&_th]:pb-1.5 [&_th]:font-normal [&_th+th]:pl-2">
            <th className="text-left">Band</th>
            <th className="text-right">Leads</th>
            <th className="text-right">Won</th>
            <th className="text-right">Won rate, 95%</th>
          </tr>
        </thead>
        <tbody>
          {bench.bands.toReversed().map((band) => (
            <tr key={band.id} className="border-b border-hair [&>td]:py-1.5">
              <td>{card.bands.find((known) => known.id === band.id)?.label}</td>
              <td className="text-right figures">{band.leads.leads}</td>
              <td className="text-right figures">{band.leads.won}</td>
              <td className="text-right figures">
                {band.leads.leads > 0 ? percent(band.leads.rate) : "none"}{" "}
                <span className="text-soft">{span(band.leads.interval)}</span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Telling bench={bench} />
    </section>
  );
}
