import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Schemas } from "../../../../api";
import { Button, Labelled, Select, TextInput } from "../../../../kit/ui";
import { useShownDraft } from "../../dialogue/DialogueScreen";
import { RulesEditor } from "../../fields/RulesEditor";
import { fieldsQuery } from "../../lib/query";
import { newField } from "../make";
import type { Ask, Field, Turn } from "../names";
import { armWords, fieldOf, fieldTypes, hasOptions, typeLabels, words } from "../names";
import { FieldOptions } from "./FieldOptions";
import { MessagesEditor } from "./MessagesEditor";
import { OnlyOptions } from "./OnlyOptions";
import { LineEditor } from "./PartsEditor";
import { WayOutEditor } from "./WayOutEditor";

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
      {field && hasOptions(field.type) && <FieldOptions key={field.id} field={field} />}
      {field && (field.type === "choice" || field.type === "choices") && (field.options?.length ?? 0) > 2 && (
        <OnlyOptions
          field={field}
          only={turn.only ?? []}
          language={language}
          onChange={(only) => set({ only }, true)}
        />
      )}
      {field && (
        <RulesEditor
          type={field.type}
          fixed={field.rules ?? []}
          rules={turn.rules ?? []}
          language={language}
          loose={{
            may: field.may_loosen ?? [],
            keys: turn.loosens ?? [],
            onChange: (loosens) => set({ loosens }, true),
          }}
          onChange={(rules, now) => set({ rules }, now)}
        />
      )}
      <MessagesEditor
        messages={turn.messages ?? []}
        rules={[...(field?.rules ?? []), ...(turn.rules ?? [])]}
        tries={turn.tries ?? 3}
        language={language}
        onChange={(messages) => set({ messages })}
      />
      <WayOutEditor
        tries={turn.tries ?? 3}
        wayOut={turn.way_out ?? "go_on"}
        arms={(turn.arms ?? []).map((arm) => [arm.id, arm.label ?? armWords(dialogue, turn, arm, {})])}
        onChange={(part) => set(part, true)}
      />
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
      <Labelled label="Asked again in short" hint="After side-talk. Empty: the question as it is.">
        {(id) => (
          <TextInput
            id={id}
            className="font-serif"
            value={words(turn.short, language)}
            onChange={(event) => set({ short: text(event.target.value) })}
          />
        )}
      </Labelled>
      <Labelled label="If it is known">
        {(id) => (
          <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
            <Select
              id={id}
              value={turn.if_known ?? "skip"}
              onChange={(event) => set({ if_known: event.target.value as NonNullable<Ask["if_known"]> }, true)}
            >
              <option value="skip">it is not asked</option>
              <option value="confirm">we ask whether it is still right</option>
              <option value="ask">it is asked anyway</option>
            </Select>
            <label className="flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={turn.held ?? false}
                onChange={(event) => set({ held: event.target.checked }, true)}
              />
              held: side-talk answers, but never leads away
            </label>
          </div>
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
        {fieldTypes.map((known) => (
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
