import { useShownDraft } from "../../dialogue/DialogueScreen";
import { OptionsEditor } from "../../fields/OptionsEditor";
import type { Field } from "../names";
import { useAutosave } from "./useAutosave";

/** The options of an ask's field. They belong to the field, so every ask that keeps its answer there has them. */
export function FieldOptions({ field: kept }: { field: Field }) {
  const { draft, change: send } = useShownDraft();
  const { value: field, change, flush } = useAutosave<Field>(kept, (next) => send({ op: "put_field", field: next }));
  return (
    <div onBlur={flush}>
      <OptionsEditor
        field={field}
        language={draft.dialogue.language}
        onChange={(options, now) => change({ ...field, options }, now)}
      />
    </div>
  );
}
