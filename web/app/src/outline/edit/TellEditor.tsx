import type { Schemas } from "../../../../api";
import { Button, TextArea, TextInput } from "../../../../kit/ui";
import { useShownDraft } from "../../dialogue/DialogueScreen";
import type { Turn } from "../names";
import { words } from "../names";

type Tell = Extract<Turn, { kind: "tell" }>;
type Part = Schemas["Part"];

export function TellEditor({ turn, onChange }: { turn: Tell; onChange: (turn: Turn, now?: boolean) => void }) {
  const { draft } = useShownDraft();
  const { language } = draft.dialogue;
  const set = (place: number, part: Part) =>
    onChange({ ...turn, say: turn.say.map((known, at) => (at === place ? part : known)) });
  const add = (part: Part) => onChange({ ...turn, say: [...turn.say, part] }, true);
  return (
    <>
      {turn.say.map((part, place) => (
        // oxlint-disable-next-line react/no-array-index-key -- parts have no other name
        <div key={place} className="mb-1.5 flex items-start gap-2">
          {"line" in part && (
            <TextArea
              aria-label={`Line ${place + 1}`}
              autoFocus={place === 0}
              className="font-serif text-lg"
              value={words(part.line.text, language)}
              onChange={(event) =>
                set(place, { line: { ...part.line, text: { ...part.line.text, [language]: event.target.value } } })
              }
            />
          )}
          {"link" in part && (
            <>
              <TextInput
                aria-label="What the link says"
                className="font-serif"
                value={words(part.link.label, language)}
                onChange={(event) =>
                  set(place, { link: { ...part.link, label: { ...part.link.label, [language]: event.target.value } } })
                }
              />
              <TextInput
                aria-label="Where the link leads"
                type="url"
                value={part.link.url}
                onChange={(event) => set(place, { link: { ...part.link, url: event.target.value } })}
              />
            </>
          )}
          {("picture" in part || "document" in part) && (
            <span className="grow py-1 text-sm text-soft">A picture or document, edited in the file.</span>
          )}
          {turn.say.length > 1 && (
            <Button
              look="quiet"
              className="!text-clay"
              onClick={() => onChange({ ...turn, say: turn.say.filter((_, at) => at !== place) }, true)}
            >
              Take out
            </Button>
          )}
        </div>
      ))}
      <Button look="quiet" className="-ml-1.5" onClick={() => add({ line: { text: { [language]: "New line" } } })}>
        Add a line
      </Button>
      <Button look="quiet" onClick={() => add({ link: { label: { [language]: "Read more" }, url: "https://" } })}>
        Add a link
      </Button>
      <p className="mt-1 text-xs text-soft">
        Known values go in braces: <code className="font-mono">{"{name.given|there}"}</code> shows the first name, or
        “there” while it is missing.
      </p>
    </>
  );
}
