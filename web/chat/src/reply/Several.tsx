import { useLayoutEffect, useRef, useState } from "react";

import { Line, Skip } from "./Line";
import type { Answering } from "./Reply";

/** Several options to tick, within the limits; or the same typed. */
export function Several({ question, busy, word, media, onAnswer }: Answering) {
  const [chosen, setChosen] = useState<string[]>([]);
  const first = useRef<HTMLInputElement>(null);
  useLayoutEffect(() => first.current?.focus({ preventScroll: true }), [question]);
  const most = question.most ?? question.options.length;
  const least = Math.max(1, question.least ?? 1);
  const flip = (key: string) =>
    setChosen((before) => (before.includes(key) ? before.filter((other) => other !== key) : [...before, key]));
  const labels = question.options.filter((option) => chosen.includes(option.key)).map((option) => option.label);
  return (
    <div className="reply">
      <fieldset className="ticks">
        <legend className="hidden">{word("chosen").replace("{n}", String(chosen.length))}</legend>
        {question.options.map((option, place) => (
          <label key={option.key}>
            <input
              ref={place === 0 ? first : undefined}
              type="checkbox"
              checked={chosen.includes(option.key)}
              disabled={busy || (!chosen.includes(option.key) && chosen.length >= most)}
              onChange={() => flip(option.key)}
            />
            {option.picture && <img src={media(option.picture)} alt="" />}
            <b>{option.label}</b>
            {option.hint && <span>{option.hint}</span>}
          </label>
        ))}
      </fieldset>
      <button
        type="button"
        className="primary done"
        disabled={busy || chosen.length < least}
        onClick={() => onAnswer({ kind: "pick_several", options: chosen }, labels.join(", "))}
      >
        {word("done")}
        <span aria-live="polite">{word("chosen").replace("{n}", String(chosen.length))}</span>
      </button>
      <Line
        answer={question.answer}
        busy={busy}
        word={word}
        onText={(text) => onAnswer({ kind: "reply", text }, text)}
      />
      <Skip label={question.skip} busy={busy} onSkip={(label) => onAnswer({ kind: "skip" }, label)} />
    </div>
  );
}
