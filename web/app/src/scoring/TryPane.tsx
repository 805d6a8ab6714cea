import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { ask, client } from "../../../api";
import { Labelled, Notice, Select, TextInput } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { ScoreLines } from "../leads/ScoreLines";
import { optionChoices } from "../outline/names";
import type { Card } from "./card";
import { lines } from "./card";
import { useSettled } from "./useBench";

/** A lead typed by hand: what it scores, and why. */
export function TryPane({ dialogue, revision, card }: { dialogue: string; revision: number; card: Card }) {
  const { draft } = useShownDraft();
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
  const reads = JSON.stringify(lines(card));
  const all = draft.dialogue.fields ?? [];
  // Names of fields stand in quotes in a card’s conditions, and plain in its formulas.
  const isRead = (key: string) => new RegExp(`\\b${key}\\b`, "u").test(reads);
  const fields = all.filter((field) => isRead(field.key));
  const set = (key: string, value: string) => setAnswers((known) => ({ ...known, [key]: value }));
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
      {fields.map((field) => (
        <Labelled key={field.id} label={field.label} hint={data?.unread[field.key]}>
          {(id) =>
            field.type === "choice" ? (
              <Select id={id} value={answers[field.key] ?? ""} onChange={(event) => set(field.key, event.target.value)}>
                <option value="">not known</option>
                {optionChoices(draft.dialogue, field).map(([key, label]) => (
                  <option key={key} value={label}>
                    {label}
                  </option>
                ))}
              </Select>
            ) : (
              <TextInput
                id={id}
                className="font-serif"
                placeholder="not known"
                value={answers[field.key] ?? ""}
                onChange={(event) => set(field.key, event.target.value)}
              />
            )
          }
        </Labelled>
      ))}
      {fields.length === 0 && <p className="text-sm">This scorecard reads no field yet.</p>}
    </>
  );
}
