import { useLayoutEffect, useRef } from "react";

import { Line } from "./Line";
import type { Answering } from "./Reply";

/** What was kept, each with a way to change it; one button says that all is right. A correction can be typed as well. */
export function ReadBack({ question, busy, word, onAnswer }: Answering) {
  const right = useRef<HTMLButtonElement>(null);
  useLayoutEffect(() => right.current?.focus({ preventScroll: true }), [question]);
  return (
    <div className="reply">
      <dl className="kept">
        {question.kept.map((line) => (
          <div key={line.key}>
            <dt>{line.label}</dt>
            <dd className={line.given ? "" : "none"}>{line.value}</dd>
            {!line.worked_out && (
              <button
                type="button"
                disabled={busy}
                aria-label={`${word("change")}: ${line.label}`}
                onClick={() => onAnswer({ kind: "pick", option: line.key }, line.label)}
              >
                {word("change")}
              </button>
            )}
          </div>
        ))}
      </dl>
      <button
        ref={right}
        type="button"
        className="primary done"
        disabled={busy}
        onClick={() => onAnswer({ kind: "pick", option: "all_right" }, word("all_right"))}
      >
        {word("all_right")}
      </button>
      <Line answer="text" busy={busy} word={word} onText={(text) => onAnswer({ kind: "reply", text }, text)} />
    </div>
  );
}
