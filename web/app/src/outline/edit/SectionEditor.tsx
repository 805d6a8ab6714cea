import type { Schemas } from "../../../../api";
import { Labelled, TextInput } from "../../../../kit/ui";
import { useShownDraft } from "../../dialogue/DialogueScreen";
import { ThenSelect } from "./ThenSelect";
import { useAutosave } from "./useAutosave";

type Shape = { title: string; then: Schemas["Follow"] };

export function SectionEditor({ section, onDone }: { section: Schemas["Section"]; onDone: () => void }) {
  const { change: send } = useShownDraft();
  const { value, change, flush } = useAutosave<Shape>({ title: section.title, then: section.then }, (next) =>
    send({ op: "change_section", id: section.id, title: next.title.trim() || "Untitled", then: next.then }),
  );
  return (
    <div onBlur={flush}>
      <Labelled label="Title">
        {(id) => (
          <TextInput
            id={id}
            autoFocus
            maxLength={80}
            value={value.title}
            onFocus={(event) => event.target.select()}
            onKeyDown={(event) => event.key === "Enter" && onDone()}
            onChange={(event) => change({ ...value, title: event.target.value })}
          />
        )}
      </Labelled>
      <Labelled label="Then">
        {(id) => (
          <ThenSelect
            id={id}
            value={value.then}
            plain={[
              ["carry_on", "carry on to the next section"],
              ["return", "return to where the Visit came from"],
            ]}
            onChange={(then) => change({ ...value, then: then as Schemas["Follow"] }, true)}
          />
        )}
      </Labelled>
    </div>
  );
}
