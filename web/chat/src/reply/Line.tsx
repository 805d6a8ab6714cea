import { forwardRef, useState } from "react";

import type { Question } from "../talk";

/** Keyboards of a phone and autofill, by what is asked. */
export const inputs: Partial<
  Record<
    Question["answer"],
    { type?: string; inputMode?: "numeric" | "decimal" | "email" | "tel" | "url"; autoComplete?: string }
  >
> = {
  email: { type: "text", inputMode: "email", autoComplete: "email" },
  phone: { type: "tel", inputMode: "tel", autoComplete: "tel" },
  website: { type: "text", inputMode: "url", autoComplete: "url" },
  whole_number: { type: "text" },
  person_name: { autoComplete: "name" },
  company: { autoComplete: "organization" },
  address: { autoComplete: "street-address" },
  country: { autoComplete: "country-name" },
};

/** One line to type in, with its button; every question can be answered by it. */
export const Line = forwardRef<
  HTMLInputElement,
  {
    answer: Question["answer"];
    busy: boolean;
    word: (key: string) => string;
    label?: string;
    start?: string;
    onText: (text: string) => void;
    /** On Escape, where the line can be left. */
    onCancel?: () => void;
  }
>(function Line({ answer, busy, word, label, start = "", onText, onCancel }, box) {
  const [text, setText] = useState(start);
  const { type: kind = "text", ...rest } = inputs[answer] ?? {};
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim() !== "") onText(text);
      }}
    >
      <input
        ref={box}
        type={kind}
        {...rest}
        aria-label={label ?? word("type")}
        placeholder={label ?? word("type")}
        value={text}
        disabled={busy}
        onInput={(event) => setText((event.target as HTMLInputElement).value)}
        onKeyDown={(event) => {
          if (event.key === "Escape") onCancel?.();
        }}
      />
      {answer === "date" && (
        <input
          type="date"
          className="calendar"
          aria-label={word("pick_date")}
          title={word("pick_date")}
          disabled={busy}
          onInput={(event) => setText((event.target as HTMLInputElement).value)}
        />
      )}
      <button type="submit" className="primary" disabled={busy || text.trim() === ""}>
        {word("send")}
      </button>
    </form>
  );
});

/** The button that skips, where a question may be skipped. */
export function Skip({
  label,
  busy,
  onSkip,
}: {
  label: string | null | undefined;
  busy: boolean;
  onSkip: (label: string) => void;
}) {
  if (!label) return null;
  return (
    <button type="button" className="skip" disabled={busy} onClick={() => onSkip(label)}>
      {label}
    </button>
  );
}
