import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { clsx } from "clsx";
import { useEffect, useRef, useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Button, TextInput } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { NarrowPage } from "./NarrowPage";
import { Notes, lineWords } from "./Notes";
import { QuestionTaps } from "./QuestionTaps";
import { RehearsalSetup } from "./RehearsalSetup";
import type { Answer } from "./rehearsal";
import { rehearsal, setRehearsal } from "./rehearsal";

type Input = Schemas["ProspectInput"];

/** Talk to the draft as a prospect would, with the reasons beside every line. Nothing of it is kept or counted. */
export function Rehearse({ onGoTo }: { onGoTo: (row: string) => void }) {
  const { dialogue, draft } = useShownDraft();
  const { body } = rehearsal.use();
  const [text, setText] = useState("");
  const [setup, setSetup] = useState(false);
  const [page, setPage] = useState(false);
  const end = useRef<HTMLDivElement>(null);
  const { inputs } = body;
  const { data, error } = useQuery({
    queryKey: ["rehearsal", dialogue, draft.revision, body],
    queryFn: () => ask(client.POST("/api/dialogues/{dialogue}/rehearsal", { params: { path: { dialogue } }, body })),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  });
  useEffect(() => {
    if (data) rehearsal.set((known) => ({ ...known, answer: data }));
  }, [data]);
  const count = data?.lines.length;
  useEffect(() => {
    if (count && inputs.length > 0) end.current?.scrollIntoView({ block: "end" });
  }, [count, inputs.length]);
  const put = (input: Input) => setRehearsal((known) => ({ ...known, inputs: [...known.inputs, input] }));
  const question = data?.question;
  // Every input shows exactly one line of the prospect, in the same order.
  let reply = -1;
  return (
    <>
      <div className="flex items-center gap-1 border-b border-hair px-3 py-1">
        <Button look="quiet" aria-expanded={setup} onClick={() => setSetup(!setup)}>
          {setupWords(body)}
        </Button>
        <Button look="quiet" className="ml-auto" aria-pressed={page} onClick={() => setPage(!page)}>
          {page ? "Show the notes" : "Show the page"}
        </Button>
      </div>
      {setup && <RehearsalSetup unread={data?.unread ?? {}} onClose={() => setSetup(false)} />}
      {page ? (
        <NarrowPage />
      ) : (
        <div className="min-h-0 grow overflow-auto px-4 py-3" aria-live="polite">
          {error && <p className="text-clay">{error.message}</p>}
          {data?.lines.map((line, place) => {
            if (line.who === "you") reply += 1;
            return (
              <RehearsedLine
                // oxlint-disable-next-line react/no-array-index-key -- lines only ever come at the end
                key={place}
                line={line}
                input={reply}
                onGoTo={onGoTo}
              />
            );
          })}
          {data?.refused && (
            <p className="mt-2 text-sm text-amber">
              The outline changed: an answer further on was left out, because {data.refused}.
            </p>
          )}
          <div ref={end} />
        </div>
      )}
      <div className="border-t border-line px-4 pt-2.5 pb-3">
        {data && <Scale rehearsal={data} />}
        {!page && question && <QuestionTaps question={question} onAnswer={put} />}
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
            data-rehearse
            placeholder={data?.ended ? "The conversation has ended" : "Answer as a prospect would"}
            disabled={!question}
            className="font-serif"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          <Button
            onClick={() => setRehearsal((known) => ({ ...known, inputs: known.inputs.slice(0, -1) }))}
            disabled={inputs.length === 0}
            title="Take the last answer back"
          >
            Back
          </Button>
          <Button
            onClick={() => setRehearsal(({ visitor, at }) => ({ inputs: [], visitor, at }))}
            disabled={inputs.length === 0 && !body.from}
          >
            Start again
          </Button>
        </form>
      </div>
    </>
  );
}

/** Who is rehearsed and from where, in a few words. */
function setupWords(body: Schemas["Rehearse"]): string {
  const visitor = Object.values(body.visitor ?? {}).filter(Boolean).length;
  const parts = [
    body.from ? "from a turn further on" : "from the start",
    visitor > 0 ? `as a visitor with ${visitor} thing${visitor === 1 ? "" : "s"} known` : "as anybody",
    body.at ? "at a set time" : "",
  ];
  return parts.filter(Boolean).join(", ");
}

function RehearsedLine({
  line,
  input,
  onGoTo,
}: {
  line: Schemas["MarginLine"];
  /** Which answer it is, for the prospect's lines. */
  input: number;
  onGoTo: (row: string) => void;
}) {
  const [editing, setEditing] = useState<string | null>(null);
  const words = lineWords(line.line);
  const notes = <Notes notes={line.notes} />;
  if (line.who === "you") {
    const change = () => {
      if (editing !== null)
        setRehearsal((known) => ({
          ...known,
          inputs: known.inputs.map((one, at) => (at === input ? { kind: "reply", text: editing } : one)),
        }));
      setEditing(null);
    };
    return (
      <div className="mt-1.5 mb-2.5 flex items-start justify-end gap-2.5">
        {editing === null ? (
          <button
            type="button"
            title="Change this answer"
            onClick={() => setEditing(words)}
            className="max-w-[190px] rounded-md border border-r-[3px] border-line border-r-ink bg-paper px-2.5 py-1 text-left font-serif text-base break-words whitespace-pre-wrap hover:border-soft"
          >
            {words || "(nothing)"}
          </button>
        ) : (
          <TextInput
            aria-label="Change this answer"
            autoFocus
            className="!w-[190px] font-serif"
            value={editing}
            onFocus={(event) => event.target.select()}
            onChange={(event) => setEditing(event.target.value)}
            onBlur={() => setEditing(null)}
            onKeyDown={(event) => {
              if (event.key === "Enter") change();
              if (event.key === "Escape") setEditing(null);
            }}
          />
        )}
        <div className="w-[140px] shrink-0">{notes}</div>
      </div>
    );
  }
  return (
    <div className="mt-2">
      <button
        type="button"
        data-said={line.turn ?? undefined}
        disabled={!line.turn}
        title={line.turn ? "Go to its row" : undefined}
        onClick={() => line.turn && onGoTo(`turn:${line.turn}`)}
        className={clsx(
          "block max-w-[230px] text-left font-serif text-base leading-snug disabled:opacity-100",
          line.who === "again" && "text-amber",
          line.line.kind === "link" && "underline",
        )}
      >
        {line.line.kind === "picture" ? (
          <img src={`/api/media/${line.line.media}`} alt={line.line.alt} className="max-h-24 rounded-sm" />
        ) : (
          words
        )}
      </button>
      {notes}
    </div>
  );
}

type Still = NonNullable<Answer["still"]>;

/** What the points can still come to. */
function endWords({ low, high, in_full }: Still): string {
  if (low === null || low === undefined || high === null || high === undefined) return "no end in sight";
  const ends = low === high ? `${low} at the end` : `${low} to ${high} at the end`;
  return in_full ? ends : `at the widest ${ends}`;
}

/** The bands that are still open. */
function bandWords({ bands, settled }: Still): string {
  if (bands.length === 0) return "no lead comes of it";
  return settled ? `${bands[0]} for certain` : `${bands.join(", ")} still open`;
}

/** Points so far on the scale that the scorecard can give, with the bands' thresholds. */
function Scale({ rehearsal: answer }: { rehearsal: Answer }) {
  const { points, least, most, bands, still } = answer;
  if (most === least) return <p className="text-xs text-soft">No scorecard yet, so no points.</p>;
  const at = (value: number) => `${((Math.min(Math.max(value, least), most) - least) / (most - least)) * 100}%`;
  const marks = bands.filter((band) => band.from !== null && band.from !== undefined);
  return (
    <div>
      <p className="flex justify-between text-sm">
        <span>
          <b className="font-semibold">{points}</b> points{still ? " so far" : ""}
        </span>
        <span className="text-soft">
          {still ? endWords(still) : marks.map((band) => `${band.label} ${band.from}`).join(" · ")}
        </span>
      </p>
      <svg
        role="img"
        aria-label={`${points} points on a scale from ${least} to ${most}${still ? `, ${endWords(still)}` : ""}`}
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
        {still && (
          <rect
            x={at(still.low ?? least)}
            y="13"
            height="3"
            rx="1"
            style={{ width: `calc(${at(still.high ?? most)} - ${at(still.low ?? least)})` }}
            fill="var(--indigo)"
          />
        )}
        {marks.map((band) => (
          <rect key={band.label} x={at(band.from ?? 0)} y="1" width="2" height="14" fill="var(--ink)" />
        ))}
      </svg>
      {still && (
        <p className="mt-1 flex justify-between gap-3 text-xs text-soft">
          <span>{bandWords(still)}</span>
          <span className="shrink-0">{marks.map((band) => `${band.label} ${band.from}`).join(" · ")}</span>
        </p>
      )}
    </div>
  );
}
