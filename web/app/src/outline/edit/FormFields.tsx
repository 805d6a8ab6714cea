import type { Schemas } from "../../../../api";
import { Button, Labelled, TextInput } from "../../../../kit/ui";
import { useShownDraft } from "../../dialogue/DialogueScreen";
import { RulesEditor } from "../../fields/RulesEditor";
import { typeLabels, words } from "../names";
import { AddField } from "./AddField";

type FormField = Schemas["FormField"];

/** The fields of a small form: in order, each with its label there and rules beside the field's own. */
export function FormFields({
  fields,
  onChange,
}: {
  fields: FormField[];
  onChange: (fields: FormField[], now?: boolean) => void;
}) {
  const { dialogue } = useShownDraft().draft;
  const { language } = dialogue;
  const all = dialogue.fields ?? [];
  const open = all.filter((field) => !fields.some((known) => known.field === field.key));
  const set = (place: number, part: Partial<FormField>) =>
    onChange(fields.map((known, at) => (at === place ? { ...known, ...part } : known)));
  const move = (place: number) => {
    const next = [...fields];
    const [field] = next.splice(place, 1);
    if (field) next.splice(place - 1, 0, field);
    onChange(next, true);
  };
  return (
    <>
      {fields.map((wanted, place) => {
        const field = all.find((known) => known.key === wanted.field);
        const name = field?.label ?? wanted.field;
        return (
          <div key={wanted.field} className="mb-1 border-b border-hair pb-1">
            <Labelled label={name}>
              {(id) => (
                <div className="flex items-center gap-2">
                  <TextInput
                    id={id}
                    aria-label={`Label of ${name} on the form`}
                    placeholder={name}
                    maxLength={120}
                    className="font-serif"
                    value={words(wanted.label, language)}
                    onChange={(event) =>
                      set(place, {
                        label: event.target.value ? { ...wanted.label, [language]: event.target.value } : null,
                      })
                    }
                  />
                  <span className="shrink-0 text-xs text-soft">{typeLabels[field?.type ?? "text"]}</span>
                  <Button
                    look="quiet"
                    aria-label={`Move ${name} up`}
                    disabled={place === 0}
                    className="disabled:text-line"
                    onClick={() => move(place)}
                  >
                    ↑
                  </Button>
                  <Button
                    look="quiet"
                    aria-label={`Take out ${name}`}
                    onClick={() =>
                      onChange(
                        fields.filter((_, at) => at !== place),
                        true,
                      )
                    }
                  >
                    ×
                  </Button>
                </div>
              )}
            </Labelled>
            {field && (
              <RulesEditor
                type={field.type}
                fixed={field.rules ?? []}
                rules={wanted.rules ?? []}
                language={language}
                loose={{
                  may: field.may_loosen ?? [],
                  keys: wanted.loosens ?? [],
                  onChange: (loosens) => set(place, { loosens }),
                }}
                onChange={(rules) => set(place, { rules })}
              />
            )}
          </div>
        );
      })}
      {open.length > 0 && (
        <Labelled label="On the form">
          {() => (
            <AddField
              label="Fields on the form"
              open={open}
              onAdd={(key) => onChange([...fields, { field: key }], true)}
            />
          )}
        </Labelled>
      )}
    </>
  );
}
