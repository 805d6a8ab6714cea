import { Labelled, Select } from "../../../../kit/ui";
import { useShownDraft } from "../../dialogue/DialogueScreen";
import type { Turn } from "../names";

type Visit = Extract<Turn, { kind: "visit" }>;

export function VisitEditor({ turn, onChange }: { turn: Visit; onChange: (turn: Turn, now?: boolean) => void }) {
  const { draft } = useShownDraft();
  return (
    <Labelled label="Visits">
      {(id) => (
        <Select
          id={id}
          autoFocus
          value={turn.section}
          onChange={(event) => onChange({ ...turn, section: event.target.value }, true)}
        >
          {draft.dialogue.sections.map((section, place) => (
            <option key={section.id} value={section.id}>
              {place + 1} {section.title}
            </option>
          ))}
        </Select>
      )}
    </Labelled>
  );
}
