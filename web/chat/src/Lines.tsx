import { useEffect, useRef, useState } from "react";

import { Line as TypedLine } from "./reply/Line";

import type { Line } from "./talk";

type Shown = Line["line"];

/** What was said so far. New lines are announced; the newest is brought into view. */
export function Lines({
  lines,
  waiting,
  typing,
  word,
  media,
  onChange,
}: {
  lines: Line[];
  waiting: string | null;
  /** Another line is on its way. */
  typing: boolean;
  word: (key: string) => string;
  media: (hash: string) => string;
  /** Changes an earlier answer; absent while an answer is under way. */
  onChange?: (turn: string, text: string) => void;
}) {
  const [changing, setChanging] = useState<number | null>(null);
  const end = useRef<HTMLDivElement>(null);
  const count = lines.length + (waiting === null ? 0 : 1);
  useEffect(() => {
    if (count > 2) end.current?.scrollIntoView({ block: "end" });
  }, [count]);
  return (
    <div className="lines" role="log" aria-live="polite">
      {lines.map((line, place) => (
        <OneLine
          key={place}
          line={line}
          word={word}
          media={media}
          changing={changing === place}
          onOpen={onChange && line.turn ? () => setChanging(place) : undefined}
          onDone={(text) => {
            setChanging(null);
            if (text !== null && line.turn) onChange?.(line.turn, text);
          }}
        />
      ))}
      {waiting !== null && waiting !== "" && <p className="you waiting">{waiting}</p>}
      {typing && (
        <p className="us typing" aria-hidden="true">
          …
        </p>
      )}
      <div ref={end} />
    </div>
  );
}

function OneLine({
  line,
  word,
  media,
  changing,
  onOpen,
  onDone,
}: {
  line: Line;
  word: (key: string) => string;
  media: (hash: string) => string;
  changing: boolean;
  onOpen?: () => void;
  /** The new answer, or nothing where it stays. */
  onDone: (text: string | null) => void;
}) {
  const shown = line.line;
  const box = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (changing) box.current?.focus();
  }, [changing]);
  if (shown.kind === "text" && changing) {
    return (
      <div className="changing">
        <TypedLine
          ref={box}
          answer="text"
          busy={false}
          word={word}
          start={shown.text}
          label={word("change_answer").replace("{answer}", shown.text)}
          onText={onDone}
          onCancel={() => onDone(null)}
        />
        <button type="button" className="skip" onClick={() => onDone(null)}>
          {word("cancel")}
        </button>
      </div>
    );
  }
  if (shown.kind === "text") {
    if (shown.text === "") return null;
    const words = (
      <p className={line.who}>
        {line.who === "you" && <span className="hidden">{word("you")}: </span>}
        {shown.text}
      </p>
    );
    if (!onOpen) return words;
    return (
      <div className="said">
        {words}
        <button
          type="button"
          className="change"
          aria-label={word("change_answer").replace("{answer}", shown.text)}
          onClick={onOpen}
        >
          {word("change")}
        </button>
      </div>
    );
  }
  if (shown.kind === "beside") {
    return (
      <div className="beside">
        {shown.lines.map((inner, place) => (
          <Medium key={place} shown={inner} media={media} />
        ))}
      </div>
    );
  }
  return <Medium shown={shown} media={media} />;
}

/** A picture, document or link. */
function Medium({ shown, media }: { shown: Shown; media: (hash: string) => string }) {
  if (shown.kind === "picture") return <img className="picture" src={media(shown.media)} alt={shown.alt} />;
  if (shown.kind !== "link" && shown.kind !== "document") return null;
  return (
    <a
      className="link"
      href={shown.kind === "link" ? shown.url : media(shown.media)}
      target="_blank"
      rel="noopener noreferrer"
    >
      {shown.label}
    </a>
  );
}
