import { useLayoutEffect, useRef, useState } from "react";

import type { Body, Question } from "./talk";

/** Keyboards of a phone and autofill, by what is asked. */
const inputs: Partial<
  Record<Question["answer"], { type?: string; inputMode?: "numeric" | "email" | "tel"; autoComplete?: string }>
> = {
  email: { type: "text", inputMode: "email", autoComplete: "email" },
  phone: { type: "tel", inputMode: "tel", autoComplete: "tel" },
  whole_number: { type: "text" },
  person_name: { autoComplete: "name" },
  company: { autoComplete: "organization" },
};

/** Options to tap, and a line to type in: both always work. */
export function Reply({
  question,
  busy,
  word,
  onAnswer,
}: {
  question: Question;
  busy: boolean;
  word: (key: string) => string;
  onAnswer: (body: Body, shown: string) => void;
}) {
  const [text, setText] = useState("");
  const box = useRef<HTMLInputElement>(null);
  const firstOption = useRef<HTMLButtonElement>(null);
  // Before anything is typed into the new question: a late focus would take the Enter meant for the text.
  useLayoutEffect(() => {
    // The keyboard goes on where the next answer is expected; on a phone it must not open over options.
    const target = question.options.length > 0 ? firstOption.current : box.current;
    target?.focus({ preventScroll: true });
  }, [question]);
  const type = () => {
    if (text.trim() === "" && question.skip === null) return;
    onAnswer({ kind: "reply", text }, text);
  };
  const { type: kind = "text", ...rest } = inputs[question.answer] ?? {};
  return (
    <div className="reply">
      {question.options.length > 0 && (
        <div className="options">
          {question.options.map((option, place) => (
            <button
              key={option.key}
              ref={place === 0 ? firstOption : undefined}
              type="button"
              disabled={busy}
              onClick={() => onAnswer({ kind: "pick", option: option.key }, option.label)}
            >
              {option.label}
              {option.hint && <span>{option.hint}</span>}
            </button>
          ))}
        </div>
      )}
      <form
        onSubmit={(event) => {
          event.preventDefault();
          type();
        }}
      >
        <input
          ref={box}
          type={kind}
          {...rest}
          aria-label={word("type")}
          placeholder={word("type")}
          value={text}
          disabled={busy}
          onInput={(event) => setText((event.target as HTMLInputElement).value)}
        />
        <button type="submit" className="primary" disabled={busy || text.trim() === ""}>
          {word("send")}
        </button>
      </form>
      {question.skip && (
        <button
          type="button"
          className="skip"
          disabled={busy}
          onClick={() => onAnswer({ kind: "skip" }, question.skip ?? "")}
        >
          {question.skip}
        </button>
      )}
    </div>
  );
}
