import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";

import type { Schemas } from "../../../api";
import { Button, Labelled, Notice, Select, TextArea } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { savedWords } from "../dialogue/saved";
import { useWords } from "../dock/Uses";
import { BottomLine } from "../frame/BottomLine";
import { useCommands } from "../frame/useCommands";
import { ledgerQuery, queuesQuery } from "../lib/query";
import { useAutosave } from "../outline/edit/useAutosave";
import { typeLabels } from "../outline/names";
import { FitConditions } from "./FitConditions";
import { Outcomes } from "./Outcomes";
import type { Brief } from "./fit";

const capturedWords = { every: "every way", some: "some ways", none: "no way" };

/** What a dialogue is for, and the ledger of its fields. */
export function BriefStage() {
  const { draft, dialogue, change, saving, release, undo, redo } = useShownDraft();
  const { data, error } = useQuery(ledgerQuery(dialogue, draft.revision));
  const queues = useQuery(queuesQuery).data ?? [];
  const kept: Brief = draft.dialogue.brief ?? {};
  const { value, change: edit, flush } = useAutosave<Brief>(kept, (brief) => change({ op: "set_brief", brief }));
  useCommands("outline", { release, undo, redo });
  const fields = draft.dialogue.fields ?? [];
  const needs = value.needs ?? [];
  const label = (key: string) => fields.find((field) => field.key === key)?.label ?? key;
  const setNeeds = (next: string[][]) => edit({ ...value, needs: next.filter((need) => need.length > 0) }, true);
  const open = fields.filter((field) => !needs.flat().includes(field.key));
  const { routing } = draft.dialogue;
  return (
    <>
      <main className="min-h-0 grow overflow-auto bg-paper px-6 py-5">
        {error && <Notice tone="wrong">{error.message}</Notice>}
        <div className="max-w-3xl">
          <h2 className="mb-2 font-serif text-lg font-semibold">Brief</h2>
          <Labelled label="A lead must carry" hint="Beside each, a field that will do instead: one of them is enough.">
            {() => (
              <div className="flex flex-wrap items-center gap-2">
                {needs.map((need, place) => (
                  <span key={need.join()} className="flex items-center rounded-md border border-line py-0.5 pl-2">
                    {need.map(label).join(" or ")}
                    <Select
                      aria-label={`Instead of ${need.map(label).join(" or ")}`}
                      className="!w-8 !border-0 !px-0 !text-spruce"
                      value=""
                      onChange={(event) =>
                        setNeeds(needs.map((known, at) => (at === place ? [...known, event.target.value] : known)))
                      }
                    >
                      <option value="">or</option>
                      {open.map((field) => (
                        <option key={field.id} value={field.key}>
                          or {field.label}
                        </option>
                      ))}
                    </Select>
                    <Button
                      look="quiet"
                      aria-label={`Take out ${need.map(label).join(" or ")}`}
                      onClick={() => setNeeds(needs.filter((_, at) => at !== place))}
                    >
                      ×
                    </Button>
                  </span>
                ))}
                {open.length > 0 && (
                  <Select
                    aria-label="Add a field"
                    className="!w-24 !border-transparent !text-spruce"
                    value=""
                    onChange={(event) => setNeeds([...needs, [event.target.value]])}
                  >
                    <option value="">+ field</option>
                    {open.map((field) => (
                      <option key={field.id} value={field.key}>
                        {field.label}
                      </option>
                    ))}
                  </Select>
                )}
                {fields.length === 0 && <span className="text-sm text-soft">no field yet; asks make them</span>}
              </div>
            )}
          </Labelled>
          <Labelled label="Who is a fit">
            {(id) => (
              <TextArea
                id={id}
                maxLength={500}
                placeholder="in a sentence, for example: 50 pallets and up, frozen, starting soon"
                value={value.fit ?? ""}
                onBlur={flush}
                onChange={(event) => edit({ ...value, fit: event.target.value })}
              />
            )}
          </Labelled>
          <FitConditions brief={value} onChange={(brief) => edit(brief, true)} />
          <Labelled label="Who takes it">
            {(id) => (
              <TextArea
                id={id}
                maxLength={500}
                placeholder="in a sentence, for example: the depot nearest to them; large ones a senior rep"
                value={value.taker ?? ""}
                onBlur={flush}
                onChange={(event) => edit({ ...value, taker: event.target.value })}
              />
            )}
          </Labelled>
          <Labelled
            label="Else it goes to"
            hint={
              (routing?.rules?.length ?? 0) > 0
                ? `After ${routing?.rules?.length} routing rule${routing?.rules?.length === 1 ? "" : "s"}; they stand under Routing.`
                : "Every lead, as there is no routing rule."
            }
          >
            {(id) => (
              <Select
                id={id}
                value={routing?.otherwise ?? ""}
                onChange={(event) =>
                  change({ op: "set_routing", routing: { ...routing, otherwise: event.target.value || null } })
                }
              >
                <option value="">no queue</option>
                {queues.map((queue) => (
                  <option key={queue.key} value={queue.key}>
                    {queue.name}
                  </option>
                ))}
              </Select>
            )}
          </Labelled>
          <Outcomes />
        </div>
        <h2 className="mt-7 font-serif text-lg font-semibold">Field ledger</h2>
        <p className="mb-2 text-sm text-soft">
          Where each field is captured, and what reads it. Only ways that conversations can take are counted: those that
          come to a lead, or to an end where no lead is filed.
        </p>
        {!data && !error && <p className="text-soft">Looking at what can happen</p>}
        {data?.rows.length === 0 && (
          <p>No field yet. They are made while writing an ask, or taken from the catalogue.</p>
        )}
        {data && data.rows.length > 0 && (
          <table className="w-full max-w-6xl border-collapse text-sm">
            <thead>
              <tr className="border-b border-line text-left text-xs text-soft [&_th]:pr-4 [&_th]:pb-1.5 [&_th]:font-normal">
                <th>Field</th>
                <th>Captured by</th>
                <th>Captured on</th>
                <th>Read by</th>
                <th className="text-right">Filled, 30 days</th>
              </tr>
            </thead>
            <tbody>
              {data.rows.map((row) => (
                <LedgerLine
                  key={row.field}
                  row={row}
                  filled={data.filled[row.field] ?? 0}
                  conversations={data.conversations}
                />
              ))}
            </tbody>
          </table>
        )}
      </main>
      <BottomLine
        right={
          <span className="flex gap-6">
            <Link
              to="/dialogues/$dialogue"
              params={{ dialogue }}
              activeOptions={{ exact: true }}
              className="hover:underline"
            >
              Go to the outline
            </Link>
            <span>{savedWords(saving, draft.changed_at)}</span>
          </span>
        }
      >
        <span>
          <b>{fields.length}</b> fields
        </span>
        <span>
          <b>{draft.reach.outcomes.length}</b> outcome{draft.reach.outcomes.length === 1 ? "" : "s"} possible
        </span>
        <span>
          <b>{data?.conversations ?? 0}</b> conversations in 30 days
        </span>
      </BottomLine>
    </>
  );
}

function LedgerLine({
  row,
  filled,
  conversations,
}: {
  row: Schemas["LedgerRow"];
  filled: number;
  conversations: number;
}) {
  const captured = row.uses.filter((use) => use.kind === "asked" || use.kind === "worked_out");
  const readers = row.uses.filter((use) => !captured.includes(use) && use.kind !== "needed");
  const kinds = [...new Set(readers.map((use) => use.kind))];
  const unread = captured.length > 0 && readers.length === 0 && !row.needed;
  return (
    <tr className="border-b border-line align-top [&_td]:py-1.5 [&_td]:pr-4">
      <td>
        <b className="font-semibold">{row.label}</b>
        <span className="block text-xs text-soft">
          {typeLabels[row.type]}
          {row.needed && ", needed"}
        </span>
      </td>
      <td className="max-w-96">
        {captured.length === 0 ? (
          <span className={row.needed ? "text-clay" : "text-soft"}>nothing asks for it</span>
        ) : (
          captured.map((use, place) => (
            // oxlint-disable-next-line react/no-array-index-key -- uses are listed in this order
            <span key={place} className="block truncate">
              {use.kind === "worked_out" && <span className="text-soft">worked out: </span>}
              {use.says}
            </span>
          ))
        )}
      </td>
      <td>
        {row.captured ? (
          <span className={row.needed && row.captured !== "every" ? "text-amber" : ""}>
            {capturedWords[row.captured]}
          </span>
        ) : (
          <span className="text-soft">too many to tell</span>
        )}
        {row.may_lack && <span className="block text-xs text-amber">a lead may lack it</span>}
      </td>
      <td className="max-w-72">
        {unread ? (
          <span className="text-amber">nothing reads it but the rep</span>
        ) : (
          kinds.map((kind) => useWords[kind]).join(", ")
        )}
      </td>
      <td className="text-right figures">
        {filled}
        {conversations > 0 && <span className="text-soft"> of {conversations}</span>}
      </td>
    </tr>
  );
}
