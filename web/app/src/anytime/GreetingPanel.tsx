import { Labelled, TextInput } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { useAutosave } from "../outline/edit/useAutosave";
import { words } from "../outline/names";
import { ChipText } from "../text/TextBox";

/** What a prospect sees before the conversation starts. */
export function GreetingPanel() {
  const { draft, change } = useShownDraft();
  const { language, opening: kept } = draft.dialogue;
  const { value, change: edit, flush } = useAutosave(kept, (opening) => change({ op: "set_opening", opening }));
  return (
    <div className="max-w-3xl" onBlur={flush}>
      <h2 className="font-serif text-lg font-semibold">Greeting</h2>
      <p className="mb-3 text-sm text-soft">
        Seen before the conversation starts. Say what is in it for them, and how long it takes.
      </p>
      <Labelled label="Says">
        {() => (
          <ChipText
            label="Greeting"
            value={words(value.say, language)}
            onChange={(text) => edit({ ...value, say: { ...value.say, [language]: text } })}
          />
        )}
      </Labelled>
      <Labelled label="Button">
        {(id) => (
          <TextInput
            id={id}
            maxLength={40}
            className="!w-64 font-serif"
            value={words(value.button, language)}
            onChange={(event) => edit({ ...value, button: { ...value.button, [language]: event.target.value } })}
          />
        )}
      </Labelled>
    </div>
  );
}
