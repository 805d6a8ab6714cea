import { Labelled, Select, TextInput } from "../../../../kit/ui";
import { useShownDraft } from "../../dialogue/DialogueScreen";
import type { Turn } from "../names";
import { words } from "../names";
import { LineEditor } from "./PartsEditor";

type Close = Extract<Turn, { kind: "close" }>;

export function CloseEditor({
  turn,
  onChange,
  onDone,
}: {
  turn: Close;
  onChange: (turn: Turn, now?: boolean) => void;
  onDone: () => void;
}) {
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
      <LineEditor
        label="Last line"
        line={turn.say ?? { text: {} }}
        autoFocus
        onChange={(say) => onChange({ ...turn, say: words(say.text, language) || say.or?.length ? say : null })}
        onDone={onDone}
      />
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
