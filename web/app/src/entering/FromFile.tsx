import { useRef, useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { BandMark, Button } from "../../../kit/ui";
import { importsQuery, queries } from "../lib/query";
import { useAttempt } from "../lib/useAttempt";
import type { Said } from "./About";
import { About, nothingSaid } from "./About";
import { Columns, PickFile } from "./Columns";
import type { GoingOn } from "./Going";
import { Going } from "./Going";
import type { Dialogue, Form, Row } from "./words";
import { bandsOf, firstMapping, inParts, leadsWords, rowsOf } from "./words";

type Previewed = { good: Schemas["RowPreview"][]; bad: Schemas["BadLeadRow"][] };
type Filed = { import: string; filed: number; bad: Schemas["BadLeadRow"][]; stopped: boolean };

/** Rows in one request. */
const part = 100;

/** Leads from a CSV file: its columns are mapped, its rows are tried, then filed in parts that can be stopped. */
export function FromFile({ form, dialogue }: { form: Form; dialogue: Dialogue }) {
  const [name, setName] = useState("");
  const [file, setFile] = useState<Schemas["LeadFileView"] | null>(null);
  const [mapping, setMapping] = useState<Record<number, string>>({});
  const [tried, setTried] = useState<Previewed | null>(null);
  const [said, setSaid] = useState<Said>(nothingSaid);
  const [done, setDone] = useState<Filed | null>(null);
  const [going, setGoing] = useState<GoingOn | null>(null);
  const stop = useRef(false);
  const { says, setSays, attempt } = useAttempt();

  const open = async (picked: File) => {
    setDone(null);
    setTried(null);
    if (picked.size > 3 * 1024 * 1024) return setSays("A file of leads has at most 3 MB.");
    const csv = await picked.text();
    const looked = await attempt(() => ask(client.POST("/api/imports/look", { body: { dialogue: dialogue.id, csv } })));
    if (!looked) return;
    setName(picked.name.slice(0, 200));
    setFile(looked);
    setMapping(firstMapping(looked.columns));
  };
  const rows: Row[] = file ? rowsOf(file.rows, mapping) : [];

  const tryThem = async () => {
    stop.current = false;
    const found: Previewed = { good: [], bad: [] };
    for (const [at, some] of inParts(rows, part).entries()) {
      if (stop.current) break;
      setGoing({ what: "Reading", at: at * part, of: rows.length });
      const one = await attempt(() =>
        ask(client.POST("/api/imports/preview", { body: { dialogue: dialogue.id, rows: some } })),
      );
      if (!one) break;
      found.good.push(...one.good);
      found.bad.push(...one.bad);
    }
    setGoing(null);
    setTried(found);
  };

  const fileThem = async () => {
    stop.current = false;
    const { source, ground, owner, tells } = said;
    const body = { dialogue: dialogue.id, file: name, source, ground, tells, ...(owner ? { owner } : {}) };
    const begun = await attempt(() => ask(client.POST("/api/imports", { body })));
    if (!begun) return;
    const bad = new Set(tried?.bad.map((row) => row.line));
    const good = rows.filter((row) => !bad.has(row.line));
    const out: Filed = { import: begun.id, filed: 0, bad: [], stopped: false };
    for (const [at, some] of inParts(good, part).entries()) {
      if (stop.current) {
        out.stopped = true;
        break;
      }
      setGoing({ what: "Filing", at: at * part, of: good.length });
      const path = { params: { path: { import: begun.id } }, body: { rows: some } };
      const one = await attempt(() => ask(client.POST("/api/imports/{import}/rows", path)));
      if (!one) {
        out.stopped = true;
        break;
      }
      out.filed += one.filed.length;
      out.bad.push(...one.bad);
    }
    setGoing(null);
    setDone(out);
    setFile(null);
    setTried(null);
    await queries.invalidateQueries({ queryKey: importsQuery.queryKey });
  };

  return (
    <div className="max-w-4xl">
      <PickFile onPick={(picked) => void open(picked)} />
      {says && (
        <p role="alert" className="mt-2 text-clay">
          {says}
        </p>
      )}
      {going && <Going going={going} onStop={() => (stop.current = true)} />}
      {done && (
        <p role="status" className="mt-3 border border-line bg-oat px-4 py-2">
          {leadsWords(done.filed)} {done.stopped ? "filed before it stopped" : "filed"}
          {done.bad.length > 0 && `, ${done.bad.length} rows could not be`}. You can undo all of it below.
        </p>
      )}
      {file && (
        <>
          <h2 className="mt-5 mb-1 font-serif font-semibold">
            What the columns hold{" "}
            <span className="font-sans text-sm font-normal text-soft">{file.rows.length} rows</span>
          </h2>
          <Columns
            columns={file.columns}
            fields={dialogue.fields}
            mapping={mapping}
            onChange={(next) => {
              setMapping(next);
              setTried(null);
            }}
          />
          <Button
            className="mt-2"
            disabled={going !== null || Object.keys(mapping).length === 0}
            onClick={() => void tryThem()}
          >
            Try all {file.rows.length} rows
          </Button>
        </>
      )}
      {file && tried && (
        <>
          <Tried tried={tried} />
          {tried.good.length > 0 && (
            <form
              onSubmit={(event) => {
                event.preventDefault();
                void fileThem();
              }}
            >
              <h2 className="mt-5 mb-1 font-serif font-semibold">About them</h2>
              <About form={form} said={said} onChange={setSaid} />
              <Button look="primary" type="submit" className="mt-3" disabled={going !== null}>
                File {leadsWords(tried.good.length)}
              </Button>
            </form>
          )}
        </>
      )}
    </div>
  );
}

function Tried({ tried }: { tried: Previewed }) {
  return (
    <section aria-label="What the rows would become" className="mt-4">
      <p role="status">
        <b>{tried.good.length}</b> would be filed
        {tried.good.length > 0 && (
          <span className="ml-2 inline-flex flex-wrap gap-1.5">
            {bandsOf(tried.good).map(({ band, count }) => (
              <span key={band} className="whitespace-nowrap">
                <BandMark label={band} rank={0} /> {count}
              </span>
            ))}
          </span>
        )}
        {tried.bad.length > 0 && (
          <span className="ml-3 text-clay">
            <b>{tried.bad.length}</b> would not be taken
          </span>
        )}
      </p>
      {tried.bad.length > 0 && (
        <ul className="mt-1 max-h-48 overflow-auto border border-line bg-paper px-3 py-1 text-sm">
          {tried.bad.slice(0, 200).map((row) => (
            <li key={row.line}>
              <span className="inline-block w-16 text-soft figures">line {row.line}</span> {row.says}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
