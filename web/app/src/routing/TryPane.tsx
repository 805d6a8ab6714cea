import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { clsx } from "clsx";
import { useState } from "react";

import { ask, client } from "../../../api";
import { Labelled, Notice, TextInput } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { AnswersForm, useFieldsIn } from "../fields/AnswersForm";
import { stamp } from "../lib/time";
import { useSettled } from "../scoring/useBench";

/** A lead typed by hand at a moment: every step of where it goes. */
export function TryPane({ dialogue, revision }: { dialogue: string; revision: number }) {
  const { draft } = useShownDraft();
  const [answers, setAnswers] = useState<Record<string, string>>({});
  const [at, setAt] = useState("");
  const typed = useSettled(answers, 250);
  const moment = at ? new Date(at) : null;
  const { data, error } = useQuery({
    queryKey: ["try-route", dialogue, revision, typed, at],
    queryFn: ({ signal }) =>
      ask(
        client.POST("/api/dialogues/{dialogue}/route", {
          params: { path: { dialogue } },
          body: { answers: typed, at: moment && !Number.isNaN(moment.getTime()) ? moment.toISOString() : null },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: 0,
  });
  const fields = useFieldsIn([draft.dialogue.routing, draft.dialogue.scorecards]);
  return (
    <>
      <h2 className="text-sm font-semibold">
        Try a lead <span className="text-xs font-normal text-soft">nothing is kept, and nobody loses a turn</span>
      </h2>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {data && (
        <section aria-label="Where it goes" className="mt-2 mb-4">
          <ol className="text-sm">
            {data.steps.map((step, place) => (
              <li
                // oxlint-disable-next-line react/no-array-index-key -- steps have no other name
                key={place}
                className={clsx(
                  "grid grid-cols-[1.5rem_1fr] py-0.5",
                  step.kind === "no" && "text-soft",
                  step.kind === "over" && "text-amber",
                  step.kind === "on" && "text-spruce",
                )}
              >
                <span aria-hidden className="text-xs">
                  {step.kind === "no" ? place + 1 : step.kind === "over" ? "·" : "→"}
                </span>
                <span>{step.says}</span>
              </li>
            ))}
          </ol>
          <p className="mt-1 text-sm">
            {data.band && (
              <>
                {data.total} points, <b className="font-semibold">{data.band}</b>.{" "}
              </>
            )}
            {data.waits && <>It waits until {stamp(data.waits)} and is dealt then, the best first. </>}
            {data.call_by && (
              <>
                Call by <b className="font-semibold">{stamp(data.call_by)}</b>.
              </>
            )}
          </p>
        </section>
      )}
      <Labelled label="When">
        {(id) => (
          <TextInput
            id={id}
            type="datetime-local"
            className="!w-56"
            value={at}
            onChange={(event) => setAt(event.target.value)}
          />
        )}
      </Labelled>
      <AnswersForm fields={fields} answers={answers} unread={data?.unread} onChange={setAnswers} />
    </>
  );
}
