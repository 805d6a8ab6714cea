import { useLayoutEffect, useRef } from "react";

import { Line, Skip } from "./Line";
import type { Answering } from "./Reply";

/** Options to tap, and a line to type in: both always work. */
export function One({ question, busy, word, media, onAnswer }: Answering) {
  const box = useRef<HTMLInputElement>(null);
  const firstOption = useRef<HTMLButtonElement>(null);
  // Before anything is typed into the new question: a late focus would take the Enter meant for the text.
  useLayoutEffect(() => {
    // The keyboard goes on where the next answer is expected; on a phone it must not open over options.
    const target = question.options.length > 0 ? firstOption.current : box.current;
    target?.focus({ preventScroll: true });
  }, [question]);
  const pictures = question.options.some((option) => option.picture);
  const shape = question.answer === "scale" ? "options scale" : pictures ? "options pictures" : "options";
  return (
    <div className="reply">
      {question.options.length > 0 && (
        <div className={shape}>
          {question.options.map((option, place) => (
            <button
              key={option.key}
              ref={place === 0 ? firstOption : undefined}
              type="button"
              disabled={busy}
              onClick={() => onAnswer({ kind: "pick", option: option.key }, option.label)}
            >
              {option.picture && <img src={media(option.picture)} alt="" />}
              {option.label}
              {option.hint && <span>{option.hint}</span>}
            </button>
          ))}
        </div>
      )}
      <Line
        ref={box}
        answer={question.answer}
        busy={busy}
        word={word}
        onText={(text) => onAnswer({ kind: "reply", text }, text)}
      />
      <Skip label={question.skip} busy={busy} onSkip={(label) => onAnswer({ kind: "skip" }, label)} />
    </div>
  );
}
