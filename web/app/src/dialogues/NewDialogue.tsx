import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate } from "@tanstack/react-router";
import { clsx } from "clsx";
import { useState } from "react";

import { RequestFailed, ask, client } from "../../../api";
import { Button, Labelled, Notice, Select, TextArea, TextInput, useTitle } from "../../../kit/ui";
import { BottomLine } from "../frame/BottomLine";
import { broughtQuery, dialoguesQuery, fieldsQuery, patternsQuery, queries, queuesQuery } from "../lib/query";
import { typeLabels } from "../outline/names";
import type { Decided } from "./Brought";
import { BroughtFields } from "./Brought";
import { FileBox } from "./FileBox";

const languages: [tag: string, name: string][] = [
  ["en", "English"],
  ["de", "German"],
  ["fr", "French"],
  ["es", "Spanish"],
  ["nl", "Dutch"],
  ["pl", "Polish"],
];

/** A new dialogue: blank, from a brief, or from a pattern. */
export function NewDialogue() {
  useTitle("New dialogue");
  const navigate = useNavigate();
  const patterns = useQuery(patternsQuery).data ?? [];
  const fields = useQuery(fieldsQuery).data ?? [];
  const queues = useQuery(queuesQuery).data ?? [];
  const [title, setTitle] = useState("");
  const [language, setLanguage] = useState("en");
  const [from, setFrom] = useState("blank");
  const [picked, setPicked] = useState<string[]>([]);
  const [fit, setFit] = useState("");
  const [queue, setQueue] = useState("");
  const [says, setSays] = useState("");
  const [busy, setBusy] = useState(false);
  const [file, setFile] = useState<Record<string, unknown> | null>(null);
  const [decided, setDecided] = useState<Decided>({});
  const asPattern = from !== "brief" && from !== "blank" && from !== "file";
  const brought = useQuery(broughtQuery(asPattern ? { pattern: from } : from === "file" && file ? { file } : null));

  const make = async () => {
    setBusy(true);
    setSays("");
    try {
      const made = await ask(
        client.POST("/api/dialogues", {
          body: {
            title,
            language,
            ...(from === "brief" ? { brief: { fields: picked, fit, ...(queue ? { queue } : {}) } } : {}),
            ...(asPattern ? { pattern: from } : {}),
            ...(from === "file" && file ? { file } : {}),
            ...(brought.data
              ? { fields: Object.fromEntries(Object.entries(decided).map(([id, to]) => [id, to || null])) }
              : {}),
          },
        }),
      );
      await queries.invalidateQueries({ queryKey: dialoguesQuery.queryKey });
      await navigate({ to: "/dialogues/$dialogue", params: { dialogue: made.id } });
    } catch (failure) {
      setSays(failure instanceof RequestFailed ? failure.message : String(failure));
      setBusy(false);
    }
  };
  const choices: [key: string, label: string, says: string][] = [
    ["blank", "Blank", "an empty outline with a Close"],
    ["brief", "From a brief", "pick what a lead must carry, and get an outline to edit"],
    ["file", "From a file", "a dialogue saved here or in another workspace"],
    ...patterns.map((pattern): [string, string, string] => [
      pattern.key,
      pattern.title,
      `${pattern.says}; ${pattern.questions} questions at most`,
    ]),
  ];
  return (
    <>
      <main className="min-h-0 grow overflow-auto px-4 pt-4 pb-10">
        <h1 className="font-serif text-lg font-semibold">New dialogue</h1>
        {says && <Notice tone="wrong">{says}</Notice>}
        <form
          className="mt-3 max-w-3xl"
          onSubmit={(event) => {
            event.preventDefault();
            void make();
          }}
        >
          <Labelled label="Title">
            {(id) => (
              <TextInput
                id={id}
                autoFocus
                maxLength={80}
                placeholder="for example Haulage enquiry"
                value={title}
                onChange={(event) => setTitle(event.target.value)}
              />
            )}
          </Labelled>
          <Labelled label="Begins as">
            {() => (
              <div role="radiogroup" aria-label="Begins as" className="border-t border-line">
                {choices.map(([key, label, what]) => (
                  <label
                    key={key}
                    className={clsx(
                      "flex cursor-pointer items-baseline gap-2.5 border-b border-line px-2 py-1.5",
                      from === key && "bg-picked",
                    )}
                  >
                    <input
                      type="radio"
                      name="from"
                      className="size-4 shrink-0 self-center"
                      checked={from === key}
                      onChange={() => setFrom(key)}
                    />
                    <span className="w-56 shrink-0 font-serif text-base">{label}</span>
                    <span className="text-sm text-soft">{what}</span>
                  </label>
                ))}
              </div>
            )}
          </Labelled>
          {(from === "blank" || from === "brief") && (
            <Labelled label="Language">
              {(id) => (
                <Select id={id} value={language} onChange={(event) => setLanguage(event.target.value)}>
                  {languages.map(([tag, name]) => (
                    <option key={tag} value={tag}>
                      {name}
                    </option>
                  ))}
                </Select>
              )}
            </Labelled>
          )}
          {from === "file" && (
            <FileBox
              onFile={(known, named) => {
                setFile(known);
                if (!title.trim() && named) setTitle(named.slice(0, 80));
              }}
            />
          )}
          {(asPattern || from === "file") && brought.error && <Notice tone="wrong">{brought.error.message}</Notice>}
          {(asPattern || from === "file") && brought.data && (
            <BroughtFields brought={brought.data} ours={fields} decided={decided} onDecide={setDecided} />
          )}
          {from === "brief" && (
            <>
              <Labelled label="A lead must carry">
                {() =>
                  fields.length === 0 ? (
                    <p className="py-1.5 text-sm text-soft">
                      The catalogue has no field yet. Begin blank: asks make their fields on the way.
                    </p>
                  ) : (
                    <div className="grid grid-cols-3 gap-x-4 gap-y-1 max-md:grid-cols-1">
                      {fields.map((field) => (
                        <label key={field.id} className="flex items-center gap-2 py-0.5">
                          <input
                            type="checkbox"
                            className="size-5"
                            checked={picked.includes(field.key)}
                            onChange={(event) =>
                              setPicked((known) =>
                                event.target.checked
                                  ? [...known, field.key]
                                  : known.filter((other) => other !== field.key),
                              )
                            }
                          />
                          <span>
                            {field.label} <span className="text-xs text-soft">{typeLabels[field.type]}</span>
                          </span>
                        </label>
                      ))}
                    </div>
                  )
                }
              </Labelled>
              <Labelled label="Who is a fit">
                {(id) => (
                  <TextArea
                    id={id}
                    maxLength={500}
                    placeholder="in a sentence, for example: 50 pallets and up, frozen, starting soon"
                    value={fit}
                    onChange={(event) => setFit(event.target.value)}
                  />
                )}
              </Labelled>
              <Labelled label="Who takes it">
                {(id) => (
                  <Select id={id} value={queue} onChange={(event) => setQueue(event.target.value)}>
                    <option value="">decide later</option>
                    {queues.map((known) => (
                      <option key={known.key} value={known.key}>
                        {known.name}
                      </option>
                    ))}
                  </Select>
                )}
              </Labelled>
            </>
          )}
          <div className="mt-4 flex gap-2">
            <Button
              look="primary"
              type="submit"
              disabled={
                !title.trim() ||
                busy ||
                (from === "brief" && picked.length === 0) ||
                ((asPattern || from === "file") && !brought.data)
              }
            >
              Make it
            </Button>
            <Link to="/dialogues" className="rounded-md px-3 py-1 text-sm font-medium text-spruce hover:underline">
              Not now
            </Link>
          </div>
        </form>
      </main>
      <BottomLine right="? all shortcuts">
        <span>
          <b>{patterns.length}</b> patterns
        </span>
        <span>
          <b>{fields.length}</b> fields in the catalogue
        </span>
      </BottomLine>
    </>
  );
}
