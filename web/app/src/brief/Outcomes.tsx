import { useState } from "react";

import { Button, Labelled, Select, TextInput } from "../../../kit/ui";
import { WordsBox } from "../../../kit/WordsBox";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { LaneDot } from "../outline/Rails";
import type { Outcome } from "./fit";
import { ends, freshId, outcomeClasses } from "./fit";

/** Ways a conversation can end: their names, and what each comes to, which colours its rail. */
export function Outcomes() {
  const { draft, change } = useShownDraft();
  const { dialogue } = draft;
  const { outcomes } = dialogue;
  const keep = (next: Outcome[]) => change({ op: "set_outcomes", outcomes: next });
  const set = (id: string, part: Partial<Outcome>) =>
    keep(outcomes.map((known) => (known.id === id ? { ...known, ...part } : known)));
  return (
    <Labelled
      label="Outcomes"
      hint="How a conversation can end, and words that a lead is tagged with for it. One that something ends with cannot be taken out."
    >
      {() => (
        <>
          {outcomes.map((outcome) => (
            <div key={outcome.id} className="mb-1 flex items-center gap-2">
              <LaneDot outcome={outcome.class} />
              <OutcomeName key={outcome.label} label={outcome.label} onLabel={(label) => set(outcome.id, { label })} />
              <Select
                aria-label={`What “${outcome.label}” comes to`}
                value={outcome.class}
                onChange={(event) => set(outcome.id, { class: event.target.value as Outcome["class"] })}
              >
                {outcomeClasses.map(([key, label]) => (
                  <option key={key} value={key}>
                    {label}
                  </option>
                ))}
              </Select>
              <WordsBox
                label={`Tags of leads that end as ${outcome.label}`}
                placeholder="no tags"
                className="!w-40"
                words={outcome.tags ?? []}
                onWords={(tags) => set(outcome.id, { tags })}
              />
              {!ends(dialogue, outcome.id) && outcomes.length > 1 && (
                <Button
                  look="quiet"
                  aria-label={`Take out ${outcome.label}`}
                  onClick={() => keep(outcomes.filter((known) => known.id !== outcome.id))}
                >
                  ×
                </Button>
              )}
            </div>
          ))}
          <Button
            look="quiet"
            className="-ml-1.5"
            disabled={outcomes.length >= 30}
            onClick={() =>
              keep([
                ...outcomes,
                {
                  id: freshId(
                    "outcome",
                    outcomes.map((known) => known.id),
                  ),
                  label: "New outcome",
                  class: "other",
                },
              ])
            }
          >
            Add an outcome
          </Button>
        </>
      )}
    </Labelled>
  );
}

/** A name that is kept once it is written; an empty one goes back to what it was. */
function OutcomeName({ label, onLabel }: { label: string; onLabel: (label: string) => void }) {
  const [written, setWritten] = useState(label);
  const done = () => {
    const next = written.trim();
    if (next && next !== label) onLabel(next);
    else setWritten(label);
  };
  return (
    <TextInput
      aria-label={`Name of the outcome ${label}`}
      className="!w-56"
      maxLength={60}
      value={written}
      onChange={(event) => setWritten(event.target.value)}
      onBlur={done}
      onKeyDown={(event) => {
        if (event.key === "Enter") done();
      }}
    />
  );
}
