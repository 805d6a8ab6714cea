import { Popover } from "radix-ui";
import { useState } from "react";

import { Button, Labelled, Select, TextInput } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { around, subject } from "../outline/edit/operators";
import { fieldOf, optionChoices, typeLabels } from "../outline/names";
import type { Chip } from "./chips";
import { partsOf } from "./chips";

/** What a chip shows: the value or a part of it, a word for each answer, and words for when it is missing. */
export function ChipEditor({
  chip: kept,
  at,
  onDone,
  onClose,
}: {
  chip: Chip;
  at: { x: number; y: number };
  onDone: (chip: Chip | null) => void;
  onClose: () => void;
}) {
  const { draft } = useShownDraft();
  const { dialogue } = draft;
  const [chip, setChip] = useState(kept);
  const field = fieldOf(dialogue, chip.field);
  const parts = partsOf(field?.type);
  const options = field ? optionChoices(dialogue, field) : subject(dialogue, chip.field).listed;
  const form = (value: string) => chip.forms.find(([known]) => known === value)?.[1] ?? "";
  const setForm = (value: string, word: string) =>
    setChip({
      ...chip,
      forms: [...chip.forms.filter(([known]) => known !== value), [value, word]],
    });
  return (
    <Popover.Root open onOpenChange={(open) => !open && onClose()}>
      <Popover.Anchor asChild>
        <span className="fixed" style={{ left: at.x, top: at.y }} />
      </Popover.Anchor>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          aria-label="A known value"
          className="z-30 w-96 rounded-md border border-line bg-paper p-3"
          onKeyDown={(event) => {
            event.stopPropagation();
            if (event.key === "Escape") onClose();
          }}
        >
          <form
            onSubmit={(event) => {
              event.preventDefault();
              onDone(chip);
            }}
          >
            <Labelled label="Shows">
              {(id) => (
                <div className="flex gap-2">
                  <Select
                    id={id}
                    value={chip.field}
                    onChange={(event) => setChip({ ...chip, field: event.target.value, part: "", forms: [] })}
                  >
                    {!field && !around.some(([what]) => what === chip.field) && (
                      <option value={chip.field}>{chip.field}</option>
                    )}
                    {dialogue.fields?.map((known) => (
                      <option key={known.id} value={known.key}>
                        {known.label}, {typeLabels[known.type]}
                      </option>
                    ))}
                    <optgroup label="Known without asking">
                      {around.map(([what, label]) => (
                        <option key={what} value={what}>
                          {label}
                        </option>
                      ))}
                    </optgroup>
                  </Select>
                  {parts.length > 0 && (
                    <Select
                      aria-label="Part of it"
                      value={chip.part}
                      onChange={(event) => setChip({ ...chip, part: event.target.value })}
                    >
                      {parts.map(([part, label]) => (
                        <option key={part} value={part}>
                          {label}
                        </option>
                      ))}
                    </Select>
                  )}
                </div>
              )}
            </Labelled>
            <Labelled label="While it is missing" hint="Empty: nothing is shown.">
              {(id) => (
                <TextInput
                  id={id}
                  autoFocus
                  className="font-serif"
                  value={chip.fallback ?? ""}
                  onChange={(event) => setChip({ ...chip, fallback: event.target.value || null })}
                />
              )}
            </Labelled>
            {options.length > 0 && (
              <fieldset className="mt-1">
                <legend className="text-xs text-soft">Another word for each answer; empty: its own</legend>
                {options.map(([value, label]) => (
                  <Labelled key={value} label={label}>
                    {(id) => (
                      <TextInput
                        id={id}
                        className="font-serif"
                        value={form(value)}
                        onChange={(event) => setForm(value, event.target.value)}
                      />
                    )}
                  </Labelled>
                ))}
              </fieldset>
            )}
            <div className="mt-2 flex gap-2">
              <Button look="primary" type="submit">
                Done
              </Button>
              <Button look="warn" onClick={() => onDone(null)}>
                Take out
              </Button>
            </div>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
