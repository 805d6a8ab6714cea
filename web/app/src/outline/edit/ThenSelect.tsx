import { Select } from "../../../../kit/ui";
import { useShownDraft } from "../../dialogue/DialogueScreen";

export type Leads = { go_to: string } | { close: { outcome: string } } | string;

/** Where an arm or section leads, as one list: its own plain ways first, then sections, then outcomes. */
export function ThenSelect({
  id,
  value,
  plain,
  onChange,
}: {
  id: string;
  value: Leads;
  plain: [string, string][];
  onChange: (value: Leads) => void;
}) {
  const { draft } = useShownDraft();
  const now =
    typeof value === "string" ? value : "go_to" in value ? `go_to:${value.go_to}` : `close:${value.close.outcome}`;
  return (
    <Select
      id={id}
      value={now}
      onChange={(event) => {
        const [kind, target = ""] = event.target.value.split(":");
        onChange(
          kind === "go_to" ? { go_to: target } : kind === "close" ? { close: { outcome: target } } : (kind ?? ""),
        );
      }}
    >
      {plain.map(([key, label]) => (
        <option key={key} value={key}>
          {label}
        </option>
      ))}
      <optgroup label="Go to a section">
        {draft.dialogue.sections.map((section, place) => (
          <option key={section.id} value={`go_to:${section.id}`}>
            {place + 1} {section.title}
          </option>
        ))}
      </optgroup>
      <optgroup label="End the conversation">
        {draft.dialogue.outcomes.map((outcome) => (
          <option key={outcome.id} value={`close:${outcome.id}`}>
            as {outcome.label}
          </option>
        ))}
      </optgroup>
    </Select>
  );
}
