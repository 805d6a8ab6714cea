import { useState } from "react";

import type { Schemas } from "../../../api";
import { Button, Labelled, Select, TextInput } from "../../../kit/ui";

type Question = Schemas["Question"];
type Input = Schemas["ProspectInput"];
type Part = { question: Question; onAnswer: (input: Input) => void };

/** What a rehearsed question can be answered with beside typing: options, ticks, a form, or changes of what was kept. */
export function QuestionTaps({ question, onAnswer }: Part) {
  // Ticks and forms begin anew with every question, and with every form that comes back.
  const at = JSON.stringify([
    question.done,
    question.kind,
    question.form.map(({ value, problem }) => [value, problem]),
  ]);
  return (
    <div className="mt-2 max-h-64 overflow-auto">
      {question.kind === "several" && <Ticks key={at} question={question} onAnswer={onAnswer} />}
      {question.kind === "form" && <SmallForm key={at} question={question} onAnswer={onAnswer} />}
      {question.kind === "read_back" && <Kept question={question} onAnswer={onAnswer} />}
      <div className="flex flex-wrap gap-1.5">
        {question.kind !== "several" &&
          question.options.map((option) => (
            <Button
              key={option.key}
              className="!font-serif"
              onClick={() => onAnswer({ kind: "pick", option: option.key })}
            >
              {option.label}
            </Button>
          ))}
        {question.skip && (
          <Button className="!font-serif !text-soft" onClick={() => onAnswer({ kind: "skip" })}>
            {question.skip}
          </Button>
        )}
      </div>
    </div>
  );
}

function Ticks({ question, onAnswer }: Part) {
  const [chosen, setChosen] = useState<string[]>([]);
  const most = question.most ?? question.options.length;
  const flip = (key: string) =>
    setChosen((known) => (known.includes(key) ? known.filter((other) => other !== key) : [...known, key]));
  return (
    <fieldset className="mb-1.5 flex flex-wrap items-center gap-x-4 gap-y-1 font-serif">
      <legend className="sr-only">Options to tick</legend>
      {question.options.map((option) => (
        <label key={option.key} className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={chosen.includes(option.key)}
            disabled={!chosen.includes(option.key) && chosen.length >= most}
            onChange={() => flip(option.key)}
          />
          {option.label}
        </label>
      ))}
      <Button
        disabled={chosen.length < Math.max(1, question.least ?? 1)}
        onClick={() => onAnswer({ kind: "pick_several", options: chosen })}
      >
        Done
      </Button>
    </fieldset>
  );
}

function SmallForm({ question, onAnswer }: Part) {
  const [values, setValues] = useState<Record<string, string>>(() =>
    Object.fromEntries(question.form.map((field) => [field.key, field.value ?? ""])),
  );
  const set = (key: string, text: string) => setValues((known) => ({ ...known, [key]: text }));
  return (
    <form
      aria-label="The small form"
      onSubmit={(event) => {
        event.preventDefault();
        onAnswer({ kind: "form", values });
      }}
    >
      {question.form.map((field) => (
        <Labelled key={field.key} label={field.label} hint={field.problem ?? undefined}>
          {(id) =>
            field.options.length > 0 && field.answer !== "choices" ? (
              <Select id={id} value={values[field.key] ?? ""} onChange={(event) => set(field.key, event.target.value)}>
                <option value="">nothing</option>
                {field.options.map((option) => (
                  <option key={option.key} value={option.key}>
                    {option.label}
                  </option>
                ))}
              </Select>
            ) : (
              <TextInput
                id={id}
                className="font-serif"
                aria-invalid={field.problem ? true : undefined}
                value={values[field.key] ?? ""}
                onChange={(event) => set(field.key, event.target.value)}
              />
            )
          }
        </Labelled>
      ))}
      <Button type="submit">Send the form</Button>
    </form>
  );
}

function Kept({ question, onAnswer }: Part) {
  return (
    <div className="mb-1.5">
      <dl>
        {question.kept.map((line) => (
          <div key={line.key} className="flex items-baseline gap-2 border-b border-hair">
            <dt className="w-28 shrink-0 text-xs text-soft">{line.label}</dt>
            <dd className={line.given ? "min-w-0 grow font-serif break-words" : "min-w-0 grow text-soft"}>
              {line.value}
            </dd>
            {!line.worked_out && (
              <Button
                look="quiet"
                aria-label={`Change ${line.label}`}
                onClick={() => onAnswer({ kind: "pick", option: line.key })}
              >
                Change
              </Button>
            )}
          </div>
        ))}
      </dl>
      <Button className="mt-1.5" onClick={() => onAnswer({ kind: "pick", option: "all_right" })}>
        All right
      </Button>
    </div>
  );
}
