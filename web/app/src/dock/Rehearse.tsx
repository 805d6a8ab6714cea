import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { clsx } from "clsx";
import { useEffect, useRef, useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, TextInput } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";

type Input = Schemas["InputBody"];
type Rehearsal = Schemas["Rehearsal"];

/** Talk to the draft as a prospect would, with the reasons beside every line. Nothing of it is kept or counted. */
export function Rehearse({ focus, onGoTo }: { focus: boolean; onGoTo: (row: string) => void }) {
  const { dialogue, draft } = useShownDraft();
  const [inputs, setInputs] = useState<Input[]>([]);
  const [text, setText] = useState("");
  const end = useRef<HTMLDivElement>(null);
  const { data, error } = useQuery({
    queryKey: ["rehearsal", dialogue, draft.revision, inputs],
    queryFn: () =>
      ask(client.POST("/api/dialogues/{dialogue}/rehearsal", { params: { path: { dialogue } }, body: { inputs } })),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const count = data?.lines.length;
  useEffect(() => {
    if (count && inputs.length > 0) end.current?.scrollIntoView({ block: "end" });
  }, [count, inputs.length]);
  const put = (input: Input) => setInputs((known) => [...known, input]);
  const question = data?.question;
  return (
    <>
      <div className="min-h-0 grow overflow-auto px-4 py-3" aria-live="polite">
        {error && <p className="text-clay">{error.message}</p>}
        {data?.lines.map((line, place) => (
          // oxlint-disable-next-line react/no-array-index-key -- lines only ever come at the end
          <RehearsedLine key={place} line={line} onGoTo={onGoTo} />
        ))}
        {data?.refused && (
          <p className="mt-2 text-sm text-amber">
            The outline changed: an answer further on was left out, because {data.refused}.
          </p>
        )}
        <div ref={end} />
      </div>
      <div className="border-t border-line px-4 pt-2.5 pb-3">
        {data && <Scale rehearsal={data} />}
        {question && (question.options.length > 0 || question.skip) && (
          <div className="mt-2 flex flex-wrap gap-1.5">
            {question.options.map((option) => (
              <Button
                key={option.key}
                className="!font-serif"
                onClick={() => put({ kind: "pick", option: option.key })}
              >
                {option.label}
              </Button>
            ))}
            {question.skip && (
              <Button className="!font-serif !text-soft" onClick={() => put({ kind: "skip" })}>
                {question.skip}
              </Button>
            )}
          </div>
        )}
        <form
          className="mt-2 flex gap-1.5"
          onSubmit={(event) => {
            event.preventDefault();
            if (question) put({ kind: "reply", text });
            setText("");
          }}
        >
          <TextInput
            aria-label="Answer as a prospect would"
            autoFocus={focus}
            placeholder={data?.ended ? "The conversation has ended" : "Answer as a prospect would"}
            disabled={!question}
            className="font-serif"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          <Button
            onClick={() => setInputs((known) => known.slice(0, -1))}
            disabled={inputs.length === 0}
            title="Take the last answer back"
          >
            Back
          </Button>
          <Button onClick={() => setInputs([])} disabled={inputs.length === 0}>
            Start again
          </Button>
        </form>
      </div>
    </>
  );
}

function RehearsedLine({ line, onGoTo }: { line: Schemas["MarginLine"]; onGoTo: (row: string) => void }) {
  const words =
    line.line.kind === "text" ? line.line.text : line.line.kind === "picture" ? line.line.alt : line.line.label;
  const notes = line.notes.length > 0 && (
    <ul className="min-w-0 flex-1 space-y-0.5">
      {line.notes.map((note, place) => (
        <li
          // oxlint-disable-next-line react/no-array-index-key -- notes of one line have no other name
          key={place}
          className={clsx(
            "border-l-2 pl-2 text-xs leading-4 break-words",
            note.tone === "good" && "border-spruce",
            note.tone === "watch" && "border-amber",
            note.tone === "bad" && "border-clay text-clay",
            note.tone === "plain" && "border-line text-soft",
          )}
        >
          {note.text}
        </li>
      ))}
    </ul>
  );
  if (line.who === "you") {
    return (
      <div className="mt-1.5 mb-2.5 flex items-start justify-end gap-2.5">
        <p className="max-w-[190px] rounded-md border border-r-[3px] border-line border-r-ink bg-paper px-2.5 py-1 font-serif text-base break-words whitespace-pre-wrap">
          {words || "(nothing)"}
        </p>
        {notes ? <div className="w-[140px] shrink-0">{notes}</div> : <div className="w-[140px] shrink-0" />}
      </div>
    );
  }
  return (
    <div className="mt-2">
      <button
        type="button"
        disabled={!line.turn}
        title={line.turn ? "Go to its row" : undefined}
        onClick={() => line.turn && onGoTo(`turn:${line.turn}`)}
        className={clsx(
          "block max-w-[230px] text-left font-serif text-base leading-snug disabled:opacity-100",
          line.who === "again" && "text-amber",
          line.line.kind === "link" && "underline",
        )}
      >
        {words}
      </button>
      {notes}
    </div>
  );
}

/** Points so far on the scale that the scorecard can give, with the bands' thresholds. */
function Scale({ rehearsal }: { rehearsal: Rehearsal }) {
  const { points, least, most, bands } = rehearsal;
  if (most === least) return <p className="text-xs text-soft">No scorecard yet, so no points.</p>;
  const at = (value: number) => `${((Math.min(Math.max(value, least), most) - least) / (most - least)) * 100}%`;
  const marks = bands.filter((band) => band.from !== null && band.from !== undefined);
  return (
    <div>
      <p className="flex justify-between text-sm">
        <span>
          <b className="font-semibold">{points}</b> points so far
        </span>
        <span className="text-soft">{marks.map((band) => `${band.label} ${band.from}`).join(" · ")}</span>
      </p>
      <svg
        role="img"
        aria-label={`${points} points on a scale from ${least} to ${most}`}
        className="mt-1.5 block h-4 w-full overflow-visible"
      >
        <rect width="100%" y="4" height="8" rx="1" fill="var(--line)" />
        <rect
          x={at(Math.min(points, 0))}
          y="4"
          height="8"
          rx="1"
          style={{ width: `calc(${at(Math.max(points, 0))} - ${at(Math.min(points, 0))})` }}
          fill={points < 0 ? "var(--clay)" : "var(--spruce)"}
        />
        {marks.map((band) => (
          <rect key={band.label} x={at(band.from ?? 0)} y="1" width="2" height="14" fill="var(--ink)" />
        ))}
      </svg>
    </div>
  );
}
