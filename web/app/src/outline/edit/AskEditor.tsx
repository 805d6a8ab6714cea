import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Schemas } from "../../../../api";
import { Button, Labelled, Select, TextInput } from "../../../../kit/ui";
import { useShownDraft } from "../../dialogue/DialogueScreen";
import { fieldsQuery } from "../../lib/query";
import { newField } from "../make";
import type { Ask, Field, Turn } from "../names";
import { fieldOf, typeLabels, words } from "../names";
import { OptionsEditor } from "./OptionsEditor";
import { LineEditor } from "./PartsEditor";
import { RulesEditor } from "./RulesEditor";

/** Types whose replies this version reads, the common ones first. */
const readable: Schemas["FieldType"][] = [
  "choice",
  "yes_no",
  "whole_number",
  "text",
  "long_text",
  "person_name",
  "company",
  "email",
  "phone",
];

export function AskEditor({
  turn,
  onChange,
  onUses,
  onDone,
}: {
  turn: Ask;
  onChange: (turn: Turn, now?: boolean) => void;
  onUses: (field: string) => void;
  onDone: () => void;
}) {
  const { draft, change } = useShownDraft();
  const { dialogue } = draft;
  const { language } = dialogue;
  const catalogue = useQuery(fieldsQuery).data ?? [];
  const [making, setMaking] = useState(false);
  const field = fieldOf(dialogue, turn.field);
  const others = catalogue.filter((known) => !dialogue.fields?.some((mine) => mine.id === known.id));
  const set = (part: Partial<Ask>, now = false) => onChange({ ...turn, ...part }, now);
  const text = (value: string) => (value ? { [language]: value } : null);

  const keepIn = (key: string) => {
    const fromCatalogue = others.find((known) => known.key === key);
    if (fromCatalogue) change({ op: "put_field", field: fromCatalogue });
    set({ field: key }, true);
  };
  const make = (made: Field) => {
    change({ op: "put_field", field: made });
    set({ field: made.key }, true);
    setMaking(false);
  };
  const wayOut = typeof turn.way_out === "object" && "go_to" in turn.way_out ? turn.way_out.go_to : "";
  return (
    <>
      <LineEditor label="Asks" line={turn.say} autoFocus onChange={(say) => set({ say })} onDone={onDone} />
      <Labelled label="Keeps the answer in">
        {(id) =>
          making ? (
            <NewField dialogue={dialogue} catalogue={catalogue} onMake={make} onClose={() => setMaking(false)} />
          ) : (
            <div className="flex flex-wrap items-center gap-2">
              <Select id={id} value={turn.field} onChange={(event) => keepIn(event.target.value)}>
                {!field && <option value={turn.field}>choose a field</option>}
                {dialogue.fields?.map((known) => (
                  <option key={known.id} value={known.key}>
                    {known.label}, {typeLabels[known.type]}
                  </option>
                ))}
                {others.length > 0 && (
                  <optgroup label="From the catalogue">
                    {others.map((known) => (
                      <option key={known.id} value={known.key}>
                        {known.label}, {typeLabels[known.type]}
                      </option>
                    ))}
                  </optgroup>
                )}
              </Select>
              <Button look="quiet" onClick={() => setMaking(true)}>
                New field
              </Button>
              {field && (
                <Button look="quiet" onClick={() => onUses(field.key)}>
                  Uses
                </Button>
              )}
            </div>
          )
        }
      </Labelled>
      {field?.type === "choice" && <OptionsEditor key={field.id} field={field} />}
      {field && <RulesEditor field={field} rules={turn.rules ?? []} onChange={(rules) => set({ rules })} />}
      <Labelled
        label="When it can’t be read"
        hint="Empty: Lumbo’s own message, which says what was heard and what would pass."
      >
        {(id) => (
          <TextInput
            id={id}
            className="font-serif"
            value={words(
              turn.messages?.find((message) => message.on === "type" || message.on === "any")?.say[0],
              language,
            )}
            onChange={(event) => {
              const rest = (turn.messages ?? []).filter((message) => message.on !== "type" && message.on !== "any");
              const before = turn.messages?.find((message) => message.on === "type" || message.on === "any");
              const first = text(event.target.value);
              set({
                messages: first
                  ? [...rest, { on: before?.on ?? "type", say: [first, ...(before?.say.slice(1) ?? [])] }]
                  : rest,
              });
            }}
          />
        )}
      </Labelled>
      <Labelled label="After the tries">
        {(id) => (
          <div className="flex items-center gap-2">
            <Select
              aria-label="Tries"
              value={turn.tries}
              onChange={(event) => set({ tries: Number(event.target.value) }, true)}
            >
              {[1, 2, 3, 4, 5].map((tries) => (
                <option key={tries} value={tries}>
                  {tries} {tries === 1 ? "try" : "tries"}
                </option>
              ))}
            </Select>
            <span className="text-soft">then</span>
            <Select
              id={id}
              value={wayOut}
              onChange={(event) => set({ way_out: event.target.value ? { go_to: event.target.value } : "go_on" }, true)}
            >
              <option value="">go on without it</option>
              {dialogue.sections.map((section, place) => (
                <option key={section.id} value={section.id}>
                  go to {place + 1} {section.title}
                </option>
              ))}
            </Select>
          </div>
        )}
      </Labelled>
      <Labelled label="Why we ask">
        {(id) => (
          <TextInput
            id={id}
            className="font-serif"
            value={words(turn.why, language)}
            onChange={(event) => set({ why: text(event.target.value) })}
          />
        )}
      </Labelled>
      <Labelled label="May be skipped as">
        {(id) => (
          <TextInput
            id={id}
            className="font-serif"
            placeholder="not at all"
            value={words(turn.skip, language)}
            onChange={(event) => set({ skip: text(event.target.value) })}
          />
        )}
      </Labelled>
    </>
  );
}

function NewField({
  dialogue,
  catalogue,
  onMake,
  onClose,
}: {
  dialogue: Schemas["Dialogue"];
  catalogue: Field[];
  onMake: (field: Field) => void;
  onClose: () => void;
}) {
  const [label, setLabel] = useState("");
  const [type, setType] = useState<Schemas["FieldType"]>("choice");
  const make = () => label.trim() && onMake(newField(dialogue, label.trim(), type, catalogue));
  return (
    <div className="flex flex-wrap items-center gap-2">
      <TextInput
        aria-label="Name of the new field"
        autoFocus
        placeholder="Name, for example Depot"
        className="!w-52"
        value={label}
        maxLength={60}
        onChange={(event) => setLabel(event.target.value)}
        onKeyDown={(event) => event.key === "Enter" && make()}
      />
      <Select
        aria-label="Type of the new field"
        value={type}
        onChange={(event) => setType(event.target.value as Schemas["FieldType"])}
      >
        {readable.map((known) => (
          <option key={known} value={known}>
            {typeLabels[known]}
          </option>
        ))}
      </Select>
      <Button disabled={!label.trim()} onClick={make}>
        Make it
      </Button>
      <Button look="quiet" onClick={onClose}>
        Not now
      </Button>
    </div>
  );
}
