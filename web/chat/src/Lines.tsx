import { useEffect, useRef } from "react";

import type { Line } from "./talk";

/** What was said so far. New lines are announced; the newest is brought into view. */
export function Lines({ lines, waiting, you }: { lines: Line[]; waiting: string | null; you: string }) {
  const end = useRef<HTMLDivElement>(null);
  const count = lines.length + (waiting === null ? 0 : 1);
  useEffect(() => {
    if (count > 2) end.current?.scrollIntoView({ block: "end" });
  }, [count]);
  return (
    <div className="lines" role="log" aria-live="polite">
      {lines.map((line, place) => (
        <OneLine key={place} line={line} you={you} />
      ))}
      {waiting !== null && waiting !== "" && <p className="you waiting">{waiting}</p>}
      <div ref={end} />
    </div>
  );
}

function OneLine({ line, you }: { line: Line; you: string }) {
  const shown = line.line;
  if (shown.kind === "link") {
    return (
      <a className="link" href={shown.url} target="_blank" rel="noopener noreferrer">
        {shown.label}
      </a>
    );
  }
  const text = shown.kind === "text" ? shown.text : shown.kind === "picture" ? shown.alt : shown.label;
  return (
    <p className={line.who}>
      {line.who === "you" && <span className="hidden">{you}: </span>}
      {text}
    </p>
  );
}
