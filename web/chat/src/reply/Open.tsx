import { useLayoutEffect, useRef, useState } from "react";

import type { Answering } from "./Reply";

/** An open question: several lines to write in. Enter sends, Shift and Enter begins a new line. */
export function Open({ question, busy, word, onAnswer }: Answering) {
  const [text, setText] = useState("");
  const box = useRef<HTMLTextAreaElement>(null);
  useLayoutEffect(() => box.current?.focus({ preventScroll: true }), [question]);
  const send = () => {
    if (text.trim() !== "") onAnswer({ kind: "reply", text }, text);
  };
  return (
    <form
      className="reply open"
      onSubmit={(event) => {
        event.preventDefault();
        send();
      }}
    >
      <textarea
        ref={box}
        rows={4}
        aria-label={word("type")}
        placeholder={word("type")}
        value={text}
        disabled={busy}
        onInput={(event) => setText((event.target as HTMLTextAreaElement).value)}
        onKeyDown={(event) => {
          if (event.key === "Enter" && !event.shiftKey && !event.nativeEvent.isComposing) {
            event.preventDefault();
            send();
          }
        }}
      />
      <button type="submit" className="primary" disabled={busy || text.trim() === ""}>
        {word("send")}
      </button>
    </form>
  );
}
