import { Labelled, Select, TextInput } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { optionChoices } from "../outline/names";

/** Fields whose keys stand in a part of the dialogue: in quotes in its conditions, plain in its formulas. */
export function useFieldsIn(part: unknown) {
  const { draft } = useShownDraft();
  const text = JSON.stringify(part);
  return (draft.dialogue.fields ?? []).filter((field) => new RegExp(`\\b${field.key}\\b`, "u").test(text));
}

/** Answers of a lead that is tried by hand, typed as a prospect would. */
export function AnswersForm({
  fields,
  answers,
  unread,
  onChange,
}: {
  fields: ReturnType<typeof useFieldsIn>;
  answers: Record<string, string>;
  /** What could not be read, by field, with a sentence. */
  unread: Record<string, string> | undefined;
  onChange: (answers: Record<string, string>) => void;
}) {
  const { draft } = useShownDraft();
  const set = (key: string, value: string) => onChange({ ...answers, [key]: value });
  return (
    <>
      {fields.map((field) => (
        <Labelled key={field.id} label={field.label} hint={unread?.[field.key]}>
          {(id) =>
            field.type === "choice" ? (
              <Select id={id} value={answers[field.key] ?? ""} onChange={(event) => set(field.key, event.target.value)}>
                <option value="">not known</option>
                {optionChoices(draft.dialogue, field).map(([key, label]) => (
                  <option key={key} value={label}>
                    {label}
                  </option>
                ))}
              </Select>
            ) : (
              <TextInput
                id={id}
                className="font-serif"
                placeholder="not known"
                value={answers[field.key] ?? ""}
                onChange={(event) => set(field.key, event.target.value)}
              />
            )
          }
        </Labelled>
      ))}
    </>
  );
}
