import { useEffect, useRef } from "react";

import type { Line } from "./talk";

type Shown = Line["line"];

/** What was said so far. New lines are announced; the newest is brought into view. */
export function Lines({
  lines,
  waiting,
  typing,
  you,
  media,
}: {
  lines: Line[];
  waiting: string | null;
  /** Another line is on its way. */
  typing: boolean;
  you: string;
  media: (hash: string) => string;
}) {
  const end = useRef<HTMLDivElement>(null);
  const count = lines.length + (waiting === null ? 0 : 1);
  useEffect(() => {
    if (count > 2) end.current?.scrollIntoView({ block: "end" });
  }, [count]);
  return (
    <div className="lines" role="log" aria-live="polite">
      {lines.map((line, place) => (
        <OneLine key={place} line={line} you={you} media={media} />
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

function OneLine({ line, you, media }: { line: Line; you: string; media: (hash: string) => string }) {
  const shown = line.line;
  if (shown.kind === "text") {
    return (
      <p className={line.who}>
        {line.who === "you" && <span className="hidden">{you}: </span>}
        {shown.text}
      </p>
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
