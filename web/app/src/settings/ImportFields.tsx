import { useRef, useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button } from "../../../kit/ui";
import { useAttempt } from "../lib/useAttempt";

type Looked = { csv: string; name: string; report: Schemas["ImportReport"] };

const doesWords: Record<Schemas["ImportDoes"], string> = {
  new: "new",
  changed: "changed",
  same: "as it is",
  wrong: "wrong",
};

/** Taking in a catalogue from a file: first what would come of each line, then all of it or nothing. */
export function ImportFields({ onDone }: { onDone: () => void }) {
  const picker = useRef<HTMLInputElement>(null);
  const [looked, setLooked] = useState<Looked | null>(null);
  const { says, attempt } = useAttempt();
  const send = (csv: string, apply: boolean) =>
    attempt(() => ask(client.POST("/api/fields/import", { body: { csv, apply } })));
  const look = async (file: File) => {
    const csv = await file.text();
    const report = await send(csv, false);
    setLooked(report ? { csv, name: file.name, report } : null);
  };
  const lines = looked?.report.lines ?? [];
  const count = (does: Schemas["ImportDoes"]) => lines.filter((line) => line.does === does).length;
  const changes = count("new") + count("changed");
  const telling = lines.filter((line) => line.does !== "same");
  return (
    <section aria-label="Import CSV" className="mb-3 border-y border-line bg-paper px-4 py-3">
      <div className="flex flex-wrap items-center gap-2">
        <input
          ref={picker}
          type="file"
          hidden
          aria-label="CSV file"
          accept=".csv,text/csv"
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            event.target.value = "";
            if (file) void look(file);
          }}
        />
        <Button onClick={() => picker.current?.click()}>{looked ? "Another file" : "Choose a file"}</Button>
        <span className="text-soft">
          {looked
            ? looked.name
            : "One field a line, with the columns key, label and type at least. The export shows them all."}
        </span>
      </div>
      {says && (
        <p role="alert" className="mt-2 text-clay">
          {says}
        </p>
      )}
      {looked && (
        <>
          <p className="mt-2" role="status">
            {count("new")} new, {count("changed")} changed, {count("same")} as they are
            {count("wrong") > 0 && (
              <span className="text-clay">
                , {count("wrong")} wrong. Mend those lines in the file and choose it again.
              </span>
            )}
          </p>
          {telling.length > 0 && (
            <table className="mt-1 border-collapse text-sm">
              <thead className="sr-only">
                <tr>
                  <th>Line</th>
                  <th>What comes of it</th>
                  <th>Field</th>
                </tr>
              </thead>
              <tbody>
                {telling.slice(0, 100).map((line) => (
                  <tr key={line.line} className="border-b border-hair align-top [&_td]:py-1 [&_td]:pr-4">
                    <td className="whitespace-nowrap text-soft">line {line.line}</td>
                    <td className={line.does === "wrong" ? "text-clay" : ""}>{doesWords[line.does]}</td>
                    <td>
                      {line.field?.label}
                      {[...line.wrong, ...line.breaks].map((text) => (
                        <span key={text} className="block text-clay">
                          {text}
                        </span>
                      ))}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          <div className="mt-2 flex gap-2">
            <Button
              look="primary"
              disabled={changes === 0 || count("wrong") > 0}
              className="disabled:opacity-60"
              onClick={() =>
                void send(looked.csv, true).then((report) => {
                  if (report?.applied) onDone();
                })
              }
            >
              Take in {changes} field{changes === 1 ? "" : "s"}
            </Button>
            <Button onClick={onDone}>Not now</Button>
          </div>
        </>
      )}
    </section>
  );
}
