import { Button, Labelled, Select, TextInput } from "../../../../kit/ui";
import { useShownDraft } from "../../dialogue/DialogueScreen";
import type { Kind, Text, Turn } from "../names";
import { words } from "../names";
import { AddField } from "./AddField";
import { FormFields } from "./FormFields";
import { LineEditor } from "./PartsEditor";
import { WayOutEditor } from "./WayOutEditor";

type Of<K extends Kind> = Extract<Turn, { kind: K }>;
type LineAndFieldsTurn = Of<
  "ask_together" | "open_ask" | "read_back" | "take_questions" | "consult" | "offer_times" | "bring_in_rep"
>;

/** Kinds that are written now and run by a later version; a release waits for it, and says so by name. */
export const laterKinds: readonly Kind[] = ["take_questions", "consult", "offer_times", "bring_in_rep"];

const own: readonly Kind[] = ["ask_together", "open_ask", "read_back", ...laterKinds];

/** True for the kinds whose editor is a line, fields and a few settings. */
export const isLineAndFields = (turn: Turn): turn is LineAndFieldsTurn => own.includes(turn.kind);

/** What such a turn says, and what it needs beside. */
export function LineAndFields({
  turn,
  onChange,
  onDone,
}: {
  turn: LineAndFieldsTurn;
  onChange: (turn: Turn, now?: boolean) => void;
  onDone: () => void;
}) {
  const { draft } = useShownDraft();
  const { language } = draft.dialogue;
  const text = (label: string, value: Text, set: (text: Text) => void) => (
    <Labelled label={label}>
      {(id) => (
        <TextInput
          id={id}
          className="font-serif"
          maxLength={500}
          value={words(value, language)}
          onChange={(event) => set({ ...value, [language]: event.target.value })}
        />
      )}
    </Labelled>
  );
  const number = (label: string, value: number, least: number, most: number, set: (value: number) => void) => (
    <Labelled label={label}>
      {(id) => (
        <TextInput
          id={id}
          type="number"
          min={least}
          max={most}
          className="!w-24"
          value={value}
          onChange={(event) => set(Math.min(most, Math.max(least, Number(event.target.value) || least)))}
        />
      )}
    </Labelled>
  );
  return (
    <>
      <LineEditor
        label="Says"
        line={turn.say}
        autoFocus
        onChange={(say) => onChange({ ...turn, say })}
        onDone={onDone}
      />
      {turn.kind === "ask_together" && (
        <>
          <FormFields fields={turn.fields} onChange={(fields, now) => onChange({ ...turn, fields }, now)} />
          <WayOutEditor
            tries={turn.tries ?? 3}
            wayOut={turn.way_out ?? "go_on"}
            onChange={(part) => onChange({ ...turn, ...part }, true)}
          />
        </>
      )}
      {(turn.kind === "open_ask" || turn.kind === "read_back") && (
        <Fields
          label={turn.kind === "open_ask" ? "Reads out of the reply" : "Shows what was kept in"}
          keys={turn.fields}
          onChange={(fields) => onChange({ ...turn, fields }, true)}
        />
      )}
      {turn.kind === "open_ask" && (
        <Labelled label="What is missing">
          {(id) => (
            <Select
              id={id}
              value={turn.missing}
              onChange={(event) => onChange({ ...turn, missing: event.target.value as typeof turn.missing }, true)}
            >
              <option value="one_by_one">is asked one by one</option>
              <option value="together">is asked together</option>
            </Select>
          )}
        </Labelled>
      )}
      {turn.kind === "take_questions" && (
        <>
          {text("Without an answer", turn.no_answer, (no_answer) => onChange({ ...turn, no_answer }))}
          {text("Button that goes on", turn.done, (done) => onChange({ ...turn, done }))}
        </>
      )}
      {turn.kind === "consult" && (
        <>
          <Labelled label="Asks the destination">
            {(id) => (
              <TextInput
                id={id}
                maxLength={40}
                className="!w-64"
                value={turn.destination}
                onChange={(event) => onChange({ ...turn, destination: event.target.value })}
              />
            )}
          </Labelled>
          <Fields label="Sends" keys={turn.send} onChange={(send) => onChange({ ...turn, send }, true)} />
          <Fields label="May keep" keys={turn.keep ?? []} onChange={(keep) => onChange({ ...turn, keep }, true)} />
          {number("Waits, seconds", turn.wait_seconds, 1, 30, (wait_seconds) => onChange({ ...turn, wait_seconds }))}
        </>
      )}
      {turn.kind === "offer_times" && (
        <>
          {number("Minutes of a meeting", turn.minutes, 10, 240, (minutes) => onChange({ ...turn, minutes }))}
          {number("Days ahead", turn.days_ahead, 1, 60, (days_ahead) => onChange({ ...turn, days_ahead }))}
        </>
      )}
      {turn.kind === "bring_in_rep" &&
        number("Waits, seconds", turn.wait_seconds, 5, 600, (wait_seconds) => onChange({ ...turn, wait_seconds }))}
      {laterKinds.includes(turn.kind) && (
        <p className="mt-1 text-xs text-soft">Kept in the draft; a release waits for the version that runs it.</p>
      )}
    </>
  );
}

/** A list of fields, in order. */
function Fields({ label, keys, onChange }: { label: string; keys: string[]; onChange: (keys: string[]) => void }) {
  const { draft } = useShownDraft();
  const fields = draft.dialogue.fields ?? [];
  const open = fields.filter((field) => !keys.includes(field.key));
  const name = (key: string) => fields.find((field) => field.key === key)?.label ?? key;
  return (
    <Labelled label={label}>
      {() => (
        <div className="flex flex-wrap items-center gap-2">
          {keys.map((key) => (
            <span key={key} className="flex items-center rounded-md border border-line py-0.5 pl-2 text-sm">
              {name(key)}
              <Button
                look="quiet"
                aria-label={`Take out ${name(key)}`}
                onClick={() => onChange(keys.filter((other) => other !== key))}
              >
                ×
              </Button>
            </span>
          ))}
          <AddField label={label} open={open} onAdd={(key) => onChange([...keys, key])} />
        </div>
      )}
    </Labelled>
  );
}
