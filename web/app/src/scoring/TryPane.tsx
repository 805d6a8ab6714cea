import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { ask, client } from "../../../api";
import { Notice } from "../../../kit/ui";
import { AnswersForm, useFieldsIn } from "../fields/AnswersForm";
import { ScoreLines } from "../leads/ScoreLines";
import type { Card } from "./card";
import { useSettled } from "./useBench";

/** A lead typed by hand: what it scores, and why. */
export function TryPane({ dialogue, revision, card }: { dialogue: string; revision: number; card: Card }) {
  const [answers, setAnswers] = useState<Record<string, string>>({});
  const typed = useSettled(answers, 250);
  const { data, error } = useQuery({
    queryKey: ["try-score", dialogue, revision, card.id, typed],
    queryFn: ({ signal }) =>
      ask(
        client.POST("/api/dialogues/{dialogue}/score", {
          params: { path: { dialogue } },
          body: { held: { card: card.id }, answers: typed },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
  });
  const fields = useFieldsIn(card);
  return (
    <>
      <h2 className="text-sm font-semibold">Try a lead</h2>
      <p className="mb-2 text-sm text-soft">Type as a prospect would. Nothing is kept.</p>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {data && (
        <div className="mb-4 [&>h2]:mt-2">
          <ScoreLines score={data.score} />
        </div>
      )}
      <AnswersForm fields={fields} answers={answers} unread={data?.unread} onChange={setAnswers} />
      {fields.length === 0 && <p className="text-sm">This scorecard reads no field yet.</p>}
    </>
  );
}
