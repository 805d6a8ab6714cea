import { useQuery } from "@tanstack/react-query";
import { clsx } from "clsx";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Labelled, Notice, Select, useTitle } from "../../../kit/ui";
import { BottomLine } from "../frame/BottomLine";
import { enteringQuery, importsQuery, queries } from "../lib/query";
import { ago, stamp } from "../lib/time";
import { useAttempt } from "../lib/useAttempt";
import { RecordsNav } from "../records/RecordsNav";
import { ByHand } from "./ByHand";
import { FromFile } from "./FromFile";
import { FilesBefore, RecordsFile } from "./RecordsFile";
import { leadsWords } from "./words";

type How = "hand" | "file" | Schemas["FileHolds"];

const ways: [How, string][] = [
  ["hand", "One lead by hand"],
  ["file", "Leads from a file"],
  ["companies", "Companies from a file"],
  ["contacts", "Contacts from a file"],
];

const isRecords = (how: How): how is Schemas["FileHolds"] => how === "companies" || how === "contacts";

const tab = "border-b-2 px-0.5 pb-1";

/** Leads that came another way: one typed by hand, or many from a file, read and scored as a dialogue's own. */
export function EnteringScreen() {
  useTitle("Enter leads");
  const { data: form, error } = useQuery(enteringQuery);
  const [picked, setPicked] = useState("");
  const [how, setHow] = useState<How>("hand");
  const dialogue = form?.dialogues.find((each) => each.id === picked) ?? form?.dialogues[0];
  return (
    <>
      <RecordsNav />
      <main className="min-h-0 grow overflow-auto px-4 pt-4 pb-6">
        <h1 className="mb-1 font-serif text-lg font-semibold">Enter leads</h1>
        {error && <Notice tone="wrong">{error.message}</Notice>}
        {!form && !error && <p className="text-soft">Reading what leads are entered by</p>}
        {form?.files && (
          <div role="tablist" aria-label="What is entered" className="mt-1 mb-3 flex gap-5">
            {ways.map(([each, words]) => (
              <button
                key={each}
                type="button"
                role="tab"
                aria-selected={how === each}
                onClick={() => setHow(each)}
                className={clsx(tab, how === each ? "border-ink font-medium" : "border-transparent text-soft")}
              >
                {words}
              </button>
            ))}
          </div>
        )}
        {form?.files && isRecords(how) && (
          <>
            <RecordsFile key={how} holds={how} />
            <FilesBefore />
          </>
        )}
        {form && !dialogue && !isRecords(how) && (
          <p>No dialogue is released yet: leads are read, scored and routed by one.</p>
        )}
        {form && dialogue && !isRecords(how) && (
          <>
            <p className="max-w-prose text-soft">
              Leads that came another way: from a fair, a call, a partner. They are read, scored and routed as if the
              dialogue had asked for them.
            </p>
            <div className="mt-2 max-w-2xl">
              <Labelled
                label="Dialogue"
                hint="They are read by the fields, the scorecard and the rules of its newest release."
              >
                {(id) => (
                  <Select id={id} value={dialogue.id} onChange={(event) => setPicked(event.target.value)}>
                    {form.dialogues.map((each) => (
                      <option key={each.id} value={each.id}>
                        {each.title}
                      </option>
                    ))}
                  </Select>
                )}
              </Labelled>
            </div>
            {how === "file" ? (
              <FromFile key={dialogue.id} form={form} dialogue={dialogue} />
            ) : (
              <ByHand key={dialogue.id} form={form} dialogue={dialogue} />
            )}
            {form.files && <Before />}
          </>
        )}
      </main>
      <BottomLine>
        <span>Only whoever was asked can give a consent; of entered leads one says why they may be contacted.</span>
      </BottomLine>
    </>
  );
}

/** What was entered, each to be undone as a whole. */
function Before() {
  const { data } = useQuery(importsQuery);
  const [told, setTold] = useState("");
  const { says, attempt } = useAttempt();
  const undo = async (row: Schemas["ImportView"]) => {
    const path = { params: { path: { import: row.id } } };
    const undone = await attempt(() => ask(client.POST("/api/imports/{import}/undo", path)));
    if (undone) {
      const kept = undone.kept > 0 ? ` ${leadsWords(undone.kept)} stay: somebody worked on them since.` : "";
      setTold(`${leadsWords(undone.removed)} taken out again.${kept}`);
    }
    await queries.invalidateQueries({ queryKey: importsQuery.queryKey });
  };
  if (!data || data.length === 0) return null;
  return (
    <section aria-labelledby="entered-before" className="mt-8 max-w-5xl">
      <h2 id="entered-before" className="mb-1 font-serif font-semibold">
        Entered before
      </h2>
      <p role="status" className={says ? "text-clay" : "text-spruce"}>
        {says || told}
      </p>
      <table className="w-full border-collapse text-sm">
        <thead>
          <tr className="border-b border-line text-left text-xs text-soft [&_th]:pr-4 [&_th]:pb-1 [&_th]:font-normal">
            <th>When</th>
            <th>What</th>
            <th>Where from</th>
            <th>By</th>
            <th className="text-right">Still here</th>
            <th>
              <span className="sr-only">What can be done</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {data.map((row) => (
            <tr key={row.id} className="border-b border-line [&_td]:py-1.5 [&_td]:pr-4">
              <td className="whitespace-nowrap text-soft" title={stamp(row.made_at)}>
                {ago(row.made_at)}
              </td>
              <td>
                {row.file ?? "By hand"} <span className="text-soft">{row.dialogue}</span>
              </td>
              <td title={`May be contacted: ${row.ground}`}>{row.source}</td>
              <td>{row.made_by}</td>
              <td className="text-right tabular-nums">{row.leads}</td>
              <td className="text-right whitespace-nowrap">
                {row.undone_at ? (
                  <span className="text-soft">undone {ago(row.undone_at)}</span>
                ) : (
                  row.leads > 0 && (
                    <Button
                      look="quiet"
                      title={row.worked > 0 ? `${row.worked} stay: somebody worked on them since` : undefined}
                      aria-label={`Undo ${row.file ?? "the lead entered by hand"}`}
                      onClick={() => void undo(row)}
                    >
                      Undo
                    </Button>
                  )
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
