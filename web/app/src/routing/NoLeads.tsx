import { Select } from "../../../kit/ui";
import type { Schemas } from "../../../api";
import { useShownDraft } from "../dialogue/DialogueScreen";

type Outcome = NonNullable<Schemas["Dialogue"]["outcomes"]>[number];

/** Within which working time a request is to be answered. */
const times: { minutes: number; label: string }[] = [
  { minutes: 60, label: "1 working hour" },
  { minutes: 240, label: "4 working hours" },
  { minutes: 480, label: "8 working hours" },
  { minutes: 960, label: "16 working hours" },
  { minutes: 2400, label: "40 working hours" },
];

const usual = 480;

/** Ways to end that are no lead, and what each leaves behind for somebody. */
export function NoLeads({ queues }: { queues: Schemas["QueueSetting"][] }) {
  const { draft, change } = useShownDraft();
  const outcomes: Outcome[] = draft.dialogue.outcomes ?? [];
  const others = outcomes.filter((outcome) => outcome.class !== "lead");
  if (others.length === 0) return null;
  const keep = (id: string, request: Outcome["request"] | null) =>
    change({
      op: "set_outcomes",
      outcomes: outcomes.map((outcome) => {
        if (outcome.id !== id) return outcome;
        const { request: _, ...rest } = outcome;
        return request ? { ...rest, request } : rest;
      }),
    });
  return (
    <section aria-labelledby="no-leads" className="mt-6">
      <h2 id="no-leads" className="font-serif text-base font-semibold">
        What is no lead
      </h2>
      <p className="mb-1 text-xs text-soft">
        It takes nobody’s turn and stands on no call list. Where they gave an address or a number, it can leave a
        request for somebody to answer, under Leads, Requests.
      </p>
      <ul className="text-sm">
        {others.map((outcome) => (
          <li key={outcome.id} className="flex flex-wrap items-center gap-x-2 gap-y-1 border-b border-hair py-1">
            <span className="w-48 font-semibold">{outcome.label}</span>
            <Select
              aria-label={`What “${outcome.label}” leaves behind`}
              value={outcome.request?.queue ?? ""}
              onChange={(event) =>
                keep(
                  outcome.id,
                  event.target.value ? { queue: event.target.value, within: outcome.request?.within ?? usual } : null,
                )
              }
            >
              <option value="">leaves nothing behind</option>
              {queues.map((queue) => (
                <option key={queue.key} value={queue.key}>
                  leaves a request in {queue.name}
                </option>
              ))}
              {outcome.request && !queues.some((queue) => queue.key === outcome.request?.queue) && (
                <option value={outcome.request.queue}>a queue that is gone ({outcome.request.queue})</option>
              )}
            </Select>
            {outcome.request && (
              <>
                <span className="text-soft">to be answered within</span>
                <Select
                  aria-label={`How soon “${outcome.label}” is answered`}
                  value={outcome.request.within}
                  onChange={(event) =>
                    outcome.request &&
                    keep(outcome.id, { queue: outcome.request.queue, within: Number(event.target.value) })
                  }
                >
                  {times.map((time) => (
                    <option key={time.minutes} value={time.minutes}>
                      {time.label}
                    </option>
                  ))}
                  {!times.some((time) => time.minutes === outcome.request?.within) && (
                    <option value={outcome.request.within}>{outcome.request.within} working minutes</option>
                  )}
                </Select>
              </>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
