import { Button, Labelled, TextInput } from "../../../../kit/ui";
import { useShownDraft } from "../../dialogue/DialogueScreen";
import { keyOf } from "../make";
import type { Field } from "../names";
import { words } from "../names";
import { useAutosave } from "./useAutosave";

/** The options of a choice. They belong to the field, so every ask that keeps its answer there has them. */
export function OptionsEditor({ field: kept }: { field: Field }) {
  const { draft, change: send } = useShownDraft();
  const { language } = draft.dialogue;
  const { value: field, change, flush } = useAutosave<Field>(kept, (next) => send({ op: "put_field", field: next }));
  const options = field.options ?? [];
  const set = (place: number, part: Partial<NonNullable<Field["options"]>[number]>) =>
    change({ ...field, options: options.map((known, at) => (at === place ? { ...known, ...part } : known)) });
  const add = () => {
    const key = keyOf(
      `option ${options.length + 1}`,
      options.map((option) => option.key),
    );
    change({ ...field, options: [...options, { key, label: { [language]: `Option ${options.length + 1}` } }] }, true);
  };
  return (
    <Labelled label="Options" hint="Other words that mean it, separated by commas, are understood when they are typed.">
      {(id) => (
        <div id={id} onBlur={flush}>
          {options.map((option, place) => (
            <div key={option.key} className="mb-1 flex gap-2">
              <TextInput
                aria-label={`Option ${place + 1}`}
                className="font-serif"
                value={words(option.label, language)}
                onChange={(event) => set(place, { label: { ...option.label, [language]: event.target.value } })}
              />
              <TextInput
                aria-label={`Short line under option ${place + 1}`}
                placeholder="hint"
                className="font-serif"
                value={words(option.hint, language)}
                onChange={(event) =>
                  set(place, { hint: event.target.value ? { ...option.hint, [language]: event.target.value } : null })
                }
              />
              <TextInput
                aria-label={`Other words for option ${place + 1}`}
                placeholder="other words"
                defaultValue={(option.also ?? []).join(", ")}
                onChange={(event) =>
                  set(place, {
                    also: event.target.value
                      .split(",")
                      .map((word) => word.trim())
                      .filter(Boolean),
                  })
                }
              />
              <Button
                look="quiet"
                className="!text-clay"
                disabled={options.length < 2}
                onClick={() => change({ ...field, options: options.filter((_, at) => at !== place) }, true)}
              >
                Take out
              </Button>
            </div>
          ))}
          <Button look="quiet" className="-ml-1.5" onClick={add}>
            Add an option
          </Button>
        </div>
      )}
    </Labelled>
  );
}
