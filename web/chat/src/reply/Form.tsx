import { useEffect, useLayoutEffect, useRef, useState } from "react";

import { drafts } from "../talk";
import type { Question } from "../talk";
import { inputs } from "./Line";
import type { Answering } from "./Reply";

type Field = Question["form"][number];

/** A small form: every problem at once, the first one in focus; what was written stays when the page is left. */
export function Form({ question, busy, word, onAnswer, draftKey }: Answering) {
  const [values, setValues] = useState<Record<string, string>>(() => ({
    ...Object.fromEntries(question.form.map((field) => [field.key, field.value ?? ""])),
    ...drafts.get(draftKey),
  }));
  const box = useRef<HTMLFormElement>(null);
  const problems = question.form.filter((field) => field.problem).length;
  useEffect(() => drafts.set(draftKey, values), [draftKey, values]);
  useLayoutEffect(() => {
    const first = question.form.find((field) => field.problem) ?? question.form[0];
    if (first) box.current?.querySelector<HTMLElement>(`#field-${first.key}`)?.focus({ preventScroll: problems === 0 });
  }, [question, problems]);
  const set = (key: string, text: string) => setValues((before) => ({ ...before, [key]: text }));
  return (
    <form
      ref={box}
      className="reply small-form"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        const sent = Object.fromEntries(question.form.map((field) => [field.key, values[field.key] ?? ""]));
        onAnswer({ kind: "form", values: sent }, "");
      }}
    >
      {question.form.map((field) => (
        <div key={field.key} className={field.problem ? "field bad" : "field"}>
          <label htmlFor={`field-${field.key}`}>
            {field.label}
            {!field.required && <span> {word("optional")}</span>}
          </label>
          <Input
            field={field}
            value={values[field.key] ?? ""}
            busy={busy}
            word={word}
            onText={(text) => set(field.key, text)}
          />
          {field.problem && (
            <p id={`problem-${field.key}`} className="problem">
              {field.problem}
            </p>
          )}
        </div>
      ))}
      <button type="submit" className="primary" disabled={busy}>
        {word("send")}
      </button>
    </form>
  );
}

function Input({
  field,
  value,
  busy,
  word,
  onText,
}: {
  field: Field;
  value: string;
  busy: boolean;
  word: (key: string) => string;
  onText: (text: string) => void;
}) {
  const common = {
    id: `field-${field.key}`,
    disabled: busy,
    "aria-invalid": field.problem ? true : undefined,
    "aria-describedby": field.problem ? `problem-${field.key}` : undefined,
    "aria-required": field.required,
  };
  if (field.options.length > 0 && field.answer !== "choices") {
    return (
      <select {...common} value={value} onChange={(event) => onText((event.target as HTMLSelectElement).value)}>
        <option value="">{word("type")}</option>
        {field.options.map((option) => (
          <option key={option.key} value={option.key}>
            {option.label}
          </option>
        ))}
      </select>
    );
  }
  if (field.answer === "long_text") {
    return (
      <textarea
        {...common}
        rows={3}
        value={value}
        onInput={(event) => onText((event.target as HTMLTextAreaElement).value)}
      />
    );
  }
  const { type = "text", ...rest } = inputs[field.answer] ?? {};
  return (
    <input
      {...common}
      type={type}
      {...rest}
      value={value}
      onInput={(event) => onText((event.target as HTMLInputElement).value)}
    />
  );
}
