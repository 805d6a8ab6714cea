import { useQuery } from "@tanstack/react-query";
import { Fragment, useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Notice, TextInput } from "../../../kit/ui";
import { BottomLine } from "../frame/BottomLine";
import { catalogueQuery, queries } from "../lib/query";
import { useAttempt } from "../lib/useAttempt";
import { keyOf } from "../outline/make";
import type { Field } from "../outline/names";
import { typeLabels } from "../outline/names";
import { FieldForm } from "./FieldForm";
import { ImportFields } from "./ImportFields";

type Row = Schemas["CatalogueRow"];
/** What was done last, and how it is undone. */
type Done = { says: string; undo: () => Promise<unknown> };

const recordLabels: Record<NonNullable<Field["record"]>, string> = {
  lead: "lead",
  contact: "contact",
  company: "company",
};

const NEW = "new";

/** The workspace's catalogue: a row for each field, which opens beneath itself. */
export function FieldsPage() {
  const { data, error, isPending } = useQuery(catalogueQuery);
  const [search, setSearch] = useState("");
  const [open, setOpen] = useState<string | null>(null);
  const [importing, setImporting] = useState(false);
  const [done, setDone] = useState<Done | null>(null);
  const { says, attempt } = useAttempt();
  const rows = data ?? [];
  const needle = search.trim().toLowerCase();
  const shown = rows.filter(
    ({ field }) =>
      !needle ||
      [field.label, field.key, field.note, typeLabels[field.type]].some((text) => text?.toLowerCase().includes(needle)),
  );

  /** Does something with the catalogue, and looks at it again. What was open closes at once where it was done. */
  const act = async (what: () => Promise<unknown>, undo: Done | null, close = false): Promise<void> => {
    await attempt(async () => {
      await what();
      setDone(undo);
      if (close) setOpen(null);
    });
    await Promise.all([
      queries.invalidateQueries({ queryKey: ["catalogue"] }),
      queries.invalidateQueries({ queryKey: ["fields"] }),
      queries.invalidateQueries({ queryKey: ["draft"] }),
    ]);
  };
  const put = (was: Field | null, field: Field) => ask(client.POST("/api/fields", { body: { was, field } }));
  const remove = (id: string) => ask(client.DELETE("/api/fields/{field}", { params: { path: { field: id } } }));

  const save = (was: Field | null, field: Field) =>
    act(
      () => put(was, field),
      {
        says: was ? `“${field.label}” was changed.` : `“${field.label}” was made.`,
        undo: () => (was ? put(field, was) : remove(field.id)),
      },
      true,
    );
  const takeOut = (field: Field) =>
    act(() => remove(field.id), { says: `“${field.label}” was taken out.`, undo: () => put(null, field) }, true);

  const fresh = (): Field => {
    const taken = rows.map(({ field }) => field.key);
    return {
      id: `fld_${crypto.randomUUID().slice(0, 8)}`,
      key: keyOf("new field", taken),
      label: "New field",
      type: "text",
      record: "lead",
    };
  };

  return (
    <>
      <main className="min-h-0 grow overflow-auto px-4 pt-4 pb-6">
        <div className="mb-3 flex flex-wrap items-center gap-2">
          <h1 className="mr-3 font-serif text-lg font-semibold">Fields</h1>
          <TextInput
            aria-label="Search the fields"
            placeholder="Search"
            className="!w-52"
            value={search}
            onChange={(event) => setSearch(event.target.value)}
          />
          <span className="ml-auto" />
          <a
            href="/api/catalogue.csv"
            download="fields.csv"
            className="rounded-md px-1.5 py-1 text-sm font-medium text-spruce hover:underline"
          >
            Export as CSV
          </a>
          <Button look="quiet" aria-expanded={importing} onClick={() => setImporting(!importing)}>
            Import CSV
          </Button>
          <Button onClick={() => setOpen(NEW)}>New field</Button>
        </div>
        <p className="mb-3 max-w-3xl text-soft">
          A field is one thing for the whole workspace. Every draft that uses it follows a change at once; what
          prospects get follows with the next release.
        </p>
        {error && <Notice tone="wrong">{error.message}</Notice>}
        {says && <Notice tone="wrong">{says}</Notice>}
        {done && (
          <Notice tone="plain">
            {done.says}{" "}
            <Button look="quiet" className="!py-0" onClick={() => void act(done.undo, null)}>
              Undo
            </Button>
          </Notice>
        )}
        {importing && (
          <ImportFields
            onDone={() => {
              setImporting(false);
              void act(async () => {}, null);
            }}
          />
        )}
        {isPending && <p className="text-soft">Reading the fields</p>}
        {open === NEW && (
          <div className="mb-3 border-y border-line bg-paper px-4 py-3">
            <FieldForm
              field={fresh()}
              fresh
              row={null}
              onSave={(_, field) => save(null, field)}
              onClose={() => setOpen(null)}
            />
          </div>
        )}
        {data && rows.length > 0 && (
          <table className="w-full border-collapse">
            <thead>
              <tr className="border-b border-line text-left text-xs text-soft [&_th]:pr-4 [&_th]:pb-1.5 [&_th]:font-normal">
                <th>Field</th>
                <th>Type</th>
                <th>Record</th>
                <th>Personal</th>
                <th>Used in</th>
                <th className="text-right">Leads</th>
                <th>Description</th>
              </tr>
            </thead>
            <tbody>
              {shown.map((row) => (
                <Fragment key={row.field.id}>
                  <FieldRow
                    row={row}
                    open={open === row.field.id}
                    onOpen={() => setOpen(open === row.field.id ? null : row.field.id)}
                  />
                  {open === row.field.id && (
                    <tr className="border-b border-line bg-paper">
                      <td colSpan={7} className="px-4 py-3">
                        <FieldForm
                          field={row.field}
                          row={row}
                          onSave={save}
                          onTakeOut={() => takeOut(row.field)}
                          onClose={() => setOpen(null)}
                        />
                      </td>
                    </tr>
                  )}
                </Fragment>
              ))}
            </tbody>
          </table>
        )}
        {data && rows.length > 0 && shown.length === 0 && <p>No field by that name, key, type or description.</p>}
        {data?.length === 0 && open !== NEW && (
          <p>No field yet. Make one here, take in a CSV, or make them while writing an ask.</p>
        )}
      </main>
      <BottomLine right="A row opens with Enter">
        <span>
          <b>{rows.length}</b> field{rows.length === 1 ? "" : "s"}
        </span>
        <span>
          <b>{rows.filter(({ field }) => field.personal).length}</b> personal
        </span>
        <span>
          <b>{rows.filter(({ dialogues }) => dialogues.every((used) => used.places === 0)).length}</b> not used
        </span>
      </BottomLine>
    </>
  );
}

function FieldRow({ row, open, onOpen }: { row: Row; open: boolean; onOpen: () => void }) {
  const { field } = row;
  const used = row.dialogues.filter((dialogue) => dialogue.places > 0);
  const places = used.reduce((sum, dialogue) => sum + dialogue.places, 0);
  return (
    <tr className="border-b border-line align-top hover:bg-paper [&_td]:py-1.5 [&_td]:pr-4">
      <th scope="row" className="py-1.5 pr-4 text-left font-normal">
        <button type="button" aria-expanded={open} className="text-left font-semibold hover:underline" onClick={onOpen}>
          {field.label}
        </button>
        <code className="ml-2 font-mono text-xs text-soft">{field.key}</code>
      </th>
      <td className="whitespace-nowrap">
        {typeLabels[field.type]}
        {field.unit && <span className="text-soft">, {field.unit}</span>}
      </td>
      <td>{recordLabels[field.record ?? "lead"]}</td>
      <td>{field.personal && "personal"}</td>
      <td title={used.map((dialogue) => `${dialogue.title}: ${dialogue.places}`).join("\n")}>
        {used.length === 0 ? (
          <span className="text-soft">nothing</span>
        ) : (
          `${places} place${places === 1 ? "" : "s"} in ${used.length === 1 ? used[0]?.title : `${used.length} dialogues`}`
        )}
      </td>
      <td className="text-right figures">{row.leads}</td>
      <td className="max-w-80 truncate text-soft">{field.note}</td>
    </tr>
  );
}
