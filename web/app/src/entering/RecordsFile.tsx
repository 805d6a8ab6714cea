import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button } from "../../../kit/ui";
import { queries, recordFilesQuery } from "../lib/query";
import { ago, stamp } from "../lib/time";
import { useAttempt } from "../lib/useAttempt";
import { Columns, PickFile } from "./Columns";
import type { GoingOn } from "./Going";
import { Going } from "./Going";
import { Ground } from "./Ground";
import { firstMapping, inParts, rowsOf } from "./words";

type Holds = Schemas["FileHolds"];
type Rows = Schemas["FileRowsTaken"];

/** Rows in one request. */
const part = 100;

const nouns: Record<Holds, [one: string, many: string]> = {
  companies: ["company", "companies"],
  contacts: ["contact", "contacts"],
};
const examples: Record<Holds, [source: string, ground: string]> = {
  companies: ["Our customer list of November", "They buy from us"],
  contacts: ["Visitors of our open day", "They asked to hear from us"],
};
const counted = (holds: Holds, count: number) => `${count} ${nouns[holds][count === 1 ? 0 : 1]}`;

/** Companies or contacts from a CSV file: columns are mapped, rows are tried, then taken in, in parts that can be stopped. */
export function RecordsFile({ holds }: { holds: Holds }) {
  const [name, setName] = useState("");
  const [file, setFile] = useState<Schemas["RecordFileView"] | null>(null);
  const [mapping, setMapping] = useState<Record<number, string>>({});
  const [tried, setTried] = useState<Rows | null>(null);
  const [said, setSaid] = useState({ source: "", ground: "" });
  const [done, setDone] = useState("");
  const [going, setGoing] = useState<GoingOn | null>(null);
  const stop = useRef(false);
  const { says, setSays, attempt } = useAttempt();
  const rows = file ? rowsOf(file.rows, mapping) : [];

  const open = async (picked: File) => {
    setDone("");
    setTried(null);
    if (picked.size > 3 * 1024 * 1024) return setSays("A file has at most 3 MB.");
    const csv = await picked.text();
    const looked = await attempt(() => ask(client.POST("/api/record-files/look", { body: { holds, csv } })));
    if (!looked) return;
    setName(picked.name.slice(0, 200));
    setFile(looked);
    setMapping(firstMapping(looked.columns));
  };

  /** Sends rows in parts; gives what became of them, and whether it was stopped. */
  const inTurn = async (
    what: string,
    some: typeof rows,
    send: (rows: typeof some) => Promise<Rows>,
  ): Promise<{ found: Rows; stopped: boolean }> => {
    stop.current = false;
    const found: Rows = { taken: [], bad: [] };
    let stopped = false;
    for (const [at, one] of inParts(some, part).entries()) {
      setGoing({ what, at: at * part, of: some.length });
      const answer = stop.current ? undefined : await attempt(() => send(one));
      if (!answer) {
        stopped = true;
        break;
      }
      found.taken.push(...answer.taken);
      found.bad.push(...answer.bad);
    }
    setGoing(null);
    return { found, stopped };
  };

  const tryThem = async () => {
    const send = (some: typeof rows) => ask(client.POST("/api/record-files/preview", { body: { holds, rows: some } }));
    setTried((await inTurn("Reading", rows, send)).found);
  };

  const takeThem = async () => {
    const begun = await attempt(() => ask(client.POST("/api/record-files", { body: { holds, file: name, ...said } })));
    if (!begun) return;
    const bad = new Set(tried?.bad.map((row) => row.line));
    const path = { params: { path: { file: begun.id } } };
    const { found, stopped } = await inTurn(
      "Taking in",
      rows.filter((row) => !bad.has(row.line)),
      (some) => ask(client.POST("/api/record-files/{file}/rows", { ...path, body: { rows: some } })),
    );
    const made = found.taken.filter((row) => row.becomes === "new").length;
    const changed = found.taken.filter((row) => row.becomes === "changes").length;
    setDone(`${counted(holds, made)} made, ${changed} changed${stopped ? " before it stopped" : ""}.`);
    setFile(null);
    setTried(null);
    await queries.invalidateQueries({ queryKey: recordFilesQuery.queryKey });
  };

  const fresh = tried?.taken.filter((row) => row.becomes === "new") ?? [];
  const changes = tried?.taken.filter((row) => row.becomes === "changes") ?? [];
  return (
    <div className="max-w-4xl">
      <p className="mt-3 max-w-prose text-soft">
        {holds === "companies"
          ? "A company is known by its domain. What is on file stays; what a firm is to us and who looks after it are changed as the file says, and hold for leads from now on."
          : "A contact is known by their e-mail address, their company by its domain. What is on file stays; what is missing is filled in. They make no lead, and nobody is told."}
      </p>
      <PickFile onPick={(picked) => void open(picked)} />
      {says && (
        <p role="alert" className="mt-2 text-clay">
          {says}
        </p>
      )}
      {going && <Going going={going} onStop={() => (stop.current = true)} />}
      {done && (
        <p role="status" className="mt-3 border border-line bg-oat px-4 py-2">
          {done} You can undo all of it below.
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
            fields={file.fields}
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
            Try {file.rows.length === 1 ? "the row" : `all ${file.rows.length} rows`}
          </Button>
        </>
      )}
      {file && tried && (
        <section aria-label="What the rows would become" className="mt-4">
          <p role="status">
            <b>{fresh.length}</b> new, <b>{changes.length}</b> changed,{" "}
            <b>{tried.taken.length - fresh.length - changes.length}</b> as they are on file
            {tried.bad.length > 0 && (
              <span className="ml-3 text-clay">
                <b>{tried.bad.length}</b> would not be taken
              </span>
            )}
          </p>
          {tried.bad.length > 0 && (
            <Lines rows={tried.bad.map((row) => ({ line: row.line, says: row.says }))} tone="text-clay" />
          )}
          <Lines
            rows={[...changes, ...fresh]
              .filter((row) => row.says.length > 0)
              .map((row) => ({ line: row.line, says: row.says.join("; ") }))}
            tone="text-soft"
          />
          {fresh.length + changes.length > 0 && (
            <form
              onSubmit={(event) => {
                event.preventDefault();
                void takeThem();
              }}
            >
              <h2 className="mt-5 mb-1 font-serif font-semibold">About them</h2>
              <Ground
                said={said}
                hint="Why they may: it stands with the file."
                examples={examples[holds]}
                onChange={setSaid}
              />
              <Button look="primary" type="submit" className="mt-3" disabled={going !== null}>
                Take in {counted(holds, tried.taken.length)}
              </Button>
            </form>
          )}
        </section>
      )}
    </div>
  );
}

function Lines({ rows, tone }: { rows: { line: number; says: string }[]; tone: string }) {
  if (rows.length === 0) return null;
  return (
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- a box that scrolls is reached by keyboard
    <ul tabIndex={0} className={`mt-1 max-h-40 overflow-auto border border-line bg-paper px-3 py-1 text-sm ${tone}`}>
      {rows.slice(0, 200).map((row) => (
        <li key={row.line}>
          <span className="inline-block w-16 text-soft figures">line {row.line}</span> {row.says}
        </li>
      ))}
      {rows.length > 200 && <li>and {rows.length - 200} more</li>}
    </ul>
  );
}

/** Files that were taken in, each to be undone as a whole. */
export function FilesBefore() {
  const { data } = useQuery(recordFilesQuery);
  const [told, setTold] = useState("");
  const { says, attempt } = useAttempt();
  const undo = async (row: Schemas["RecordFileKept"]) => {
    const path = { params: { path: { file: row.id } } };
    const undone = await attempt(() => ask(client.POST("/api/record-files/{file}/undo", path)));
    if (undone) {
      const kept = undone.kept > 0 ? ` ${counted(row.holds, undone.kept)} stay: something else needs them.` : "";
      setTold(`${counted(row.holds, undone.taken_out)} taken out again, ${undone.given_back} as before.${kept}`);
    }
    await queries.invalidateQueries({ queryKey: recordFilesQuery.queryKey });
  };
  if (!data || data.length === 0) return null;
  return (
    <section aria-labelledby="files-before" className="mt-8 max-w-5xl">
      <h2 id="files-before" className="mb-1 font-serif font-semibold">
        Files taken in before
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
            <th className="text-right">Made</th>
            <th className="text-right">Changed</th>
            <th>
              <span className="sr-only">What can be done</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {data.map((row) => (
            <tr key={row.id} className="border-b border-line [&_td]:py-1.5 [&_td]:pr-4">
              <td className="whitespace-nowrap text-soft" title={stamp(row.at)}>
                {ago(row.at)}
              </td>
              <td>
                {row.file} <span className="text-soft">{nouns[row.holds][1]}</span>
              </td>
              <td title={`May be contacted: ${row.ground}`}>{row.source}</td>
              <td>{row.by}</td>
              <td className="text-right tabular-nums">{row.made}</td>
              <td className="text-right tabular-nums">{row.changed}</td>
              <td className="text-right whitespace-nowrap">
                {row.undone_at ? (
                  <span className="text-soft">undone {ago(row.undone_at)}</span>
                ) : (
                  row.made + row.changed > 0 && (
                    <Button look="quiet" aria-label={`Undo ${row.file}`} onClick={() => void undo(row)}>
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
