import type { Schemas } from "../../../api";
import { Button, Labelled, Select, TextInput } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { index, summary } from "../outline/names";
import { rehearsal, setRehearsal } from "./rehearsal";

type Visitor = Schemas["Context"];

const typed: [Exclude<keyof Visitor, "carried">, string, string][] = [
  ["page", "Page", "/storage/prices"],
  ["referrer", "Came from", "https://search.example"],
  ["campaign", "Campaign", "winter-2027"],
  ["campaign_source", "Campaign source", "newsletter"],
  ["campaign_medium", "Campaign medium", "email"],
  ["campaign_term", "Campaign term", "cold storage"],
  ["campaign_content", "Campaign content", "blue button"],
  ["country", "Country", "GB"],
  ["language", "Language", "en-GB"],
  ["time_zone", "Time zone", "Europe/London"],
];

/** Who the prospect is, what time it is, where the rehearsal begins and what was answered before. */
export function RehearsalSetup({ unread, onClose }: { unread: Record<string, string>; onClose: () => void }) {
  const { draft } = useShownDraft();
  const { dialogue } = draft;
  const { body } = rehearsal.use();
  const visitor = body.visitor ?? {};
  const set = (part: Partial<Visitor>) =>
    setRehearsal((known) => ({ ...known, visitor: { ...known.visitor, ...part } }));
  const assume = (key: string, words: string) =>
    setRehearsal((known) => {
      const assumed = { ...known.assumed };
      if (words) assumed[key] = words;
      else delete assumed[key];
      return { ...known, assumed };
    });
  const { turns } = index(dialogue);
  const order = draft.rows.filter((row) => row.kind === "turn");
  const at = order.findIndex((row) => row.id === body.from);
  // Fields that turns above the beginning fill.
  const before = new Set(
    order.slice(0, Math.max(at, 0)).flatMap((row) => {
      const turn = turns.get(row.id);
      return turn?.kind === "ask"
        ? [turn.field]
        : turn?.kind === "work_out"
          ? turn.fills.map((fill) => fill.field)
          : [];
    }),
  );
  const fields = (dialogue.fields ?? []).filter((field) => before.has(field.key));
  return (
    <div className="max-h-[45%] shrink-0 overflow-auto border-b border-line bg-paper px-4 py-2">
      <Labelled label="Begins at">
        {(id) => (
          <Select
            id={id}
            value={body.from ?? ""}
            onChange={(event) =>
              setRehearsal((known) => ({ ...known, inputs: [], from: event.target.value || undefined }))
            }
          >
            <option value="">the start</option>
            {order.map((row) => {
              const turn = turns.get(row.id);
              return (
                turn && (
                  <option key={row.id} value={row.id}>
                    {summary(dialogue, turn)}
                  </option>
                )
              );
            })}
          </Select>
        )}
      </Labelled>
      {fields.length > 0 && (
        <fieldset>
          <legend className="text-xs text-soft">Answered before, as a prospect would write it; empty: not asked</legend>
          {fields.map((field) => (
            <Labelled key={field.id} label={field.label} hint={unread[field.key]}>
              {(id) => (
                <TextInput
                  id={id}
                  className="font-serif"
                  value={body.assumed?.[field.key] ?? ""}
                  onChange={(event) => assume(field.key, event.target.value)}
                />
              )}
            </Labelled>
          ))}
        </fieldset>
      )}
      {typed.map(([key, label, example]) => (
        <Labelled key={key} label={label}>
          {(id) => (
            <TextInput
              id={id}
              placeholder={`not known; ${example}`}
              value={visitor[key] ?? ""}
              onChange={(event) => set({ [key]: event.target.value || undefined })}
            />
          )}
        </Labelled>
      ))}
      <Labelled label="Device">
        {(id) => (
          <Select
            id={id}
            value={visitor.device ?? ""}
            onChange={(event) => set({ device: event.target.value || undefined })}
          >
            <option value="">not known</option>
            <option>phone</option>
            <option>tablet</option>
            <option>computer</option>
          </Select>
        )}
      </Labelled>
      <Labelled label="Was here before">
        {(id) => (
          <Select
            id={id}
            value={visitor.returning ?? ""}
            onChange={(event) => set({ returning: event.target.value || undefined })}
          >
            <option value="">no</option>
            <option value="yes">yes</option>
          </Select>
        )}
      </Labelled>
      <Labelled label="Day and time">
        {(id) => (
          <TextInput
            id={id}
            type="datetime-local"
            value={body.at?.slice(0, 16) ?? ""}
            onChange={(event) =>
              setRehearsal((known) => ({
                ...known,
                at: event.target.value ? `${event.target.value}:00Z` : undefined,
              }))
            }
          />
        )}
      </Labelled>
      <div className="mt-1 flex gap-2">
        <Button onClick={onClose}>Done</Button>
        <Button look="quiet" onClick={() => setRehearsal(() => ({ inputs: [] }))}>
          Anybody, from the start
        </Button>
      </div>
    </div>
  );
}
