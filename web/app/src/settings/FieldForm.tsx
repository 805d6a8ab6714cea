import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useEffect, useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, Labelled, Select, TextArea, TextInput } from "../../../kit/ui";
import { OptionsEditor } from "../fields/OptionsEditor";
import { RulesEditor } from "../fields/RulesEditor";
import { keyOf, withType } from "../outline/make";
import type { Field } from "../outline/names";
import { fieldTypes, hasOptions, typeLabels } from "../outline/names";
import { channelWords, channels, purposeWords, purposes } from "../records/words";

const IDLE_MS = 400;

/** One field of the catalogue, with what a change of it would do before it is kept. */
export function FieldForm({
  field: kept,
  row,
  fresh = false,
  onSave,
  onTakeOut,
  onClose,
}: {
  field: Field;
  row: Schemas["CatalogueRow"] | null;
  fresh?: boolean;
  /** Is told the definition that the form began with, so that somebody else's change meanwhile is not written over. */
  onSave: (was: Field, field: Field) => Promise<void>;
  onTakeOut?: () => Promise<void>;
  onClose: () => void;
}) {
  const [was] = useState(kept);
  const [field, setField] = useState(kept);
  const [keyTyped, setKeyTyped] = useState(!fresh);
  const set = (part: Partial<Field>) => setField((known) => ({ ...known, ...part }));
  const language = Object.keys(field.options?.[0]?.label ?? {})[0] ?? "en";
  // Where nothing is said, it is the enquiry, in every way.
  const permits = field.permits ?? { purpose: "enquiry" as const, channels };
  const changed = fresh || JSON.stringify(field) !== JSON.stringify(was);
  const report = useReport(field, changed);
  useEffect(() => {
    // What was written is dropped by its button only.
    const escape = (event: KeyboardEvent) => event.key === "Escape" && !changed && onClose();
    document.addEventListener("keydown", escape);
    return () => document.removeEventListener("keydown", escape);
  }, [changed, onClose]);
  const used = row?.dialogues.filter((dialogue) => dialogue.places > 0) ?? [];
  const wrong = report?.wrong ?? [];
  return (
    <form
      className="max-w-4xl"
      onSubmit={(event) => {
        event.preventDefault();
        if (changed) void onSave(was, field);
      }}
    >
      <Labelled label="Name">
        {(id) => (
          <TextInput
            id={id}
            autoFocus
            className="!w-72"
            maxLength={80}
            value={field.label}
            onFocus={(event) => fresh && event.target.select()}
            onChange={(event) =>
              set({ label: event.target.value, ...(keyTyped ? {} : { key: keyOf(event.target.value, []) }) })
            }
          />
        )}
      </Labelled>
      <Labelled
        label="Key"
        hint={
          fresh
            ? "Its name in conditions, formulas and texts."
            : "Conditions, formulas and texts follow when it changes."
        }
      >
        {(id) => (
          <TextInput
            id={id}
            className="!w-72 font-mono"
            maxLength={40}
            spellCheck={false}
            value={field.key}
            onChange={(event) => {
              setKeyTyped(true);
              set({ key: event.target.value });
            }}
          />
        )}
      </Labelled>
      <Labelled label="Holds">
        {(id) => (
          <div className="flex flex-wrap items-center gap-2">
            <Select
              id={id}
              value={field.type}
              onChange={(event) => setField(withType(field, event.target.value as Field["type"], language))}
            >
              {fieldTypes.map((type) => (
                <option key={type} value={type}>
                  {typeLabels[type]}
                </option>
              ))}
            </Select>
            {(field.type === "quantity" || field.type === "whole_number") && (
              <TextInput
                aria-label="Unit"
                placeholder="unit, for example pallets"
                className="!w-52"
                maxLength={40}
                value={field.unit ?? ""}
                onChange={(event) => set({ unit: event.target.value || null })}
              />
            )}
            {field.type === "money" && (
              <TextInput
                aria-label="Currency without a sign or code"
                placeholder="currency, GBP"
                className="!w-32"
                maxLength={3}
                value={field.currency ?? ""}
                onChange={(event) => set({ currency: event.target.value.toUpperCase() || null })}
              />
            )}
          </div>
        )}
      </Labelled>
      {hasOptions(field.type) && (
        <OptionsEditor field={field} language={language} onChange={(options) => set({ options })} />
      )}
      <RulesEditor
        type={field.type}
        rules={field.rules ?? []}
        language={language}
        loose={{ keys: field.may_loosen ?? [], onChange: (may_loosen) => set({ may_loosen }) }}
        onChange={(rules) => {
          const kept = (field.may_loosen ?? []).filter((key) => rules.some((rule) => rule.rule === key));
          set({ rules, may_loosen: kept });
        }}
      />
      {field.type === "consent" && (
        <Labelled label="A yes permits">
          {(id) => (
            <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
              {channels.map((channel) => (
                <label key={channel} className="flex min-h-6 items-center gap-1.5">
                  <input
                    type="checkbox"
                    checked={permits.channels.includes(channel)}
                    onChange={() =>
                      set({
                        permits: {
                          ...permits,
                          channels: channels.filter((one) => permits.channels.includes(one) !== (one === channel)),
                        },
                      })
                    }
                  />
                  {channelWords[channel]}
                </label>
              ))}
              <Select
                id={id}
                aria-label="For what"
                value={permits.purpose}
                onChange={(event) =>
                  set({
                    permits: { ...permits, purpose: purposes.find((one) => one === event.target.value) ?? "enquiry" },
                  })
                }
              >
                {purposes.map((purpose) => (
                  <option key={purpose} value={purpose}>
                    for {purposeWords[purpose]}
                  </option>
                ))}
              </Select>
            </div>
          )}
        </Labelled>
      )}
      <Labelled label="Belongs to">
        {(id) => (
          <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
            <Select
              id={id}
              value={field.record ?? "lead"}
              onChange={(event) => set({ record: event.target.value as NonNullable<Field["record"]> })}
            >
              <option value="lead">the lead</option>
              <option value="contact">the contact</option>
              <option value="company">the company</option>
            </Select>
            <label className="flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={field.personal ?? false}
                onChange={(event) => set({ personal: event.target.checked })}
              />
              personal: erased with the person
            </label>
          </div>
        )}
      </Labelled>
      {field.record !== undefined && field.record !== "lead" && (
        <Labelled label="Where one is on file">
          {(id) => (
            <Select
              id={id}
              value={field.policy ?? "take_newest"}
              onChange={(event) => set({ policy: event.target.value as NonNullable<Field["policy"]> })}
            >
              <option value="take_newest">take the newest</option>
              <option value="keep_first">keep the first</option>
              <option value="add_to_list">add to the list</option>
              <option value="take_highest">take the highest</option>
            </Select>
          )}
        </Labelled>
      )}
      <Labelled label="Description">
        {(id) => (
          <TextArea
            id={id}
            maxLength={500}
            placeholder="what it is for"
            value={field.note ?? ""}
            onChange={(event) => set({ note: event.target.value || null })}
          />
        )}
      </Labelled>
      {!changed && used.length > 0 && (
        <Labelled label="Used in">
          {() => (
            <ul className="pt-1">
              {used.map((dialogue) => (
                <li key={dialogue.dialogue}>
                  <Link
                    to="/dialogues/$dialogue"
                    params={{ dialogue: dialogue.dialogue }}
                    className="text-spruce hover:underline"
                  >
                    {dialogue.title}
                  </Link>
                  <span className="text-soft">
                    , {dialogue.places} place{dialogue.places === 1 ? "" : "s"}
                  </span>
                </li>
              ))}
            </ul>
          )}
        </Labelled>
      )}
      {changed && <Report report={report} fresh={fresh} />}
      <div className="mt-2 flex items-center gap-2 pl-[9rem] max-md:pl-0">
        <Button look="primary" type="submit" disabled={!changed || wrong.length > 0} className="disabled:opacity-60">
          {fresh ? "Make it" : "Keep the change"}
        </Button>
        <Button onClick={onClose}>{changed ? "Drop it" : "Close"}</Button>
        {onTakeOut && !changed && (
          <Button look="warn" className="ml-auto" onClick={() => void onTakeOut()}>
            Take out
          </Button>
        )}
      </div>
    </form>
  );
}

/** What a definition would do, a moment after it was last changed. */
function useReport(field: Field, changed: boolean): Schemas["ChangeReport"] | undefined {
  const [asked, setAsked] = useState(field);
  useEffect(() => {
    const timer = setTimeout(() => setAsked(field), IDLE_MS);
    return () => clearTimeout(timer);
  }, [field]);
  const { data } = useQuery({
    queryKey: ["field-report", asked],
    queryFn: () => ask(client.POST("/api/fields/preview", { body: { field: asked } })),
    enabled: changed,
    placeholderData: (known: Schemas["ChangeReport"] | undefined) => known,
  });
  return data;
}

function Report({ report, fresh }: { report: Schemas["ChangeReport"] | undefined; fresh: boolean }) {
  if (!report) return <p className="pl-[9rem] text-xs text-soft max-md:pl-0">Looking at what follows</p>;
  const breaking = report.drafts.filter((draft) => draft.breaks.length > 0);
  const places = report.drafts.reduce((sum, draft) => sum + draft.uses.length, 0);
  const mends = report.drafts.reduce((sum, draft) => sum + draft.mends, 0);
  return (
    <div role="status" className="pt-1 pl-[9rem] max-md:pl-0">
      {report.wrong.map((says) => (
        <p key={says} className="text-clay">
          {says}
        </p>
      ))}
      {!fresh && report.wrong.length === 0 && breaking.length === 0 && (
        <p className="text-spruce">
          Nothing breaks.{" "}
          {places > 0 &&
            `${places} place${places === 1 ? "" : "s"} in ${report.drafts.length} draft${report.drafts.length === 1 ? "" : "s"} follow${places === 1 ? "s" : ""}.`}
        </p>
      )}
      {breaking.map((draft) => (
        <div key={draft.dialogue}>
          <p className="text-clay">
            {draft.breaks.length} finding{draft.breaks.length === 1 ? "" : "s"} would come up in{" "}
            <Link to="/dialogues/$dialogue" params={{ dialogue: draft.dialogue }} className="underline">
              {draft.title}
            </Link>
          </p>
          <ul className="mb-1 list-disc pl-5">
            {draft.breaks.slice(0, 8).map((finding) => (
              <li key={`${finding.at} ${finding.says}`}>
                <span className="text-soft">{finding.place}:</span> {finding.says}{" "}
                {finding.severity !== "error" && <span className="text-soft">(a {finding.severity})</span>}
              </li>
            ))}
            {draft.breaks.length > 8 && <li className="text-soft">and {draft.breaks.length - 8} more</li>}
          </ul>
        </div>
      ))}
      {mends > 0 && (
        <p className="text-spruce">
          {mends} finding{mends === 1 ? "" : "s"} would go.
        </p>
      )}
      {!fresh && report.leads > 0 && (
        <p className="text-soft">
          {report.leads} lead{report.leads === 1 ? " keeps its value" : "s keep their values"} as{" "}
          {report.leads === 1 ? "it was" : "they were"} given.
        </p>
      )}
    </div>
  );
}
