import { Labelled, Select, TextArea, TextInput } from "../../../../kit/ui";
import { useShownDraft } from "../../dialogue/DialogueScreen";
import type { Turn } from "../names";
import { words } from "../names";

type Close = Extract<Turn, { kind: "close" }>;

export function CloseEditor({ turn, onChange }: { turn: Close; onChange: (turn: Turn, now?: boolean) => void }) {
  const { draft } = useShownDraft();
  const { language, outcomes } = draft.dialogue;
  return (
    <>
      <Labelled label="Ends as">
        {(id) => (
          <Select
            id={id}
            value={turn.outcome}
            onChange={(event) => onChange({ ...turn, outcome: event.target.value }, true)}
          >
            {outcomes.map((outcome) => (
              <option key={outcome.id} value={outcome.id}>
                {outcome.label}
              </option>
            ))}
          </Select>
        )}
      </Labelled>
      <Labelled label="Last line">
        {(id) => (
          <TextArea
            id={id}
            autoFocus
            className="font-serif text-lg"
            value={words(turn.say?.text, language)}
            onChange={(event) =>
              onChange({
                ...turn,
                say: event.target.value
                  ? { ...turn.say, text: { ...turn.say?.text, [language]: event.target.value } }
                  : null,
              })
            }
          />
        )}
      </Labelled>
      <Labelled label="Link, if wanted">
        {(id) => (
          <div className="flex gap-2">
            <TextInput
              id={id}
              placeholder="what it says"
              className="font-serif"
              value={words(turn.link?.label, language)}
              onChange={(event) =>
                onChange({
                  ...turn,
                  link:
                    event.target.value || turn.link?.url
                      ? { url: turn.link?.url ?? "https://", label: { [language]: event.target.value } }
                      : null,
                })
              }
            />
            <TextInput
              aria-label="Where the link leads"
              type="url"
              placeholder="https://"
              value={turn.link?.url ?? ""}
              onChange={(event) =>
                onChange({
                  ...turn,
                  link: event.target.value
                    ? { label: turn.link?.label ?? { [language]: "Read more" }, url: event.target.value }
                    : null,
                })
              }
            />
          </div>
        )}
      </Labelled>
    </>
  );
}
