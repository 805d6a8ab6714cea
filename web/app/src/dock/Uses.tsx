import { useQuery } from "@tanstack/react-query";

import type { Schemas } from "../../../api";
import { Select } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { ledgerQuery } from "../lib/query";

export const useWords: Record<Schemas["UseKind"], string> = {
  asked: "asked",
  worked_out: "worked out",
  shown: "shown",
  compared: "decides an arm",
  computed: "used in a formula",
  scored: "scored",
  routed: "routed by",
  needed: "needed",
};

/** Where a field is asked, used, scored and routed; each place leads there. */
export function Uses({
  field,
  onField,
  onGoTo,
}: {
  field: string | null;
  onField: (field: string) => void;
  onGoTo: (row: string) => void;
}) {
  const { dialogue, draft } = useShownDraft();
  const { data } = useQuery(ledgerQuery(dialogue, draft.revision));
  const fields = draft.dialogue.fields ?? [];
  const key = field ?? fields[0]?.key ?? "";
  const row = data?.rows.find((known) => known.key === key);
  if (fields.length === 0) return <p className="p-4 text-soft">This dialogue has no field yet.</p>;
  return (
    <div className="py-3">
      <div className="px-4 pb-2">
        <Select aria-label="Field" value={key} onChange={(event) => onField(event.target.value)}>
          {fields.map((known) => (
            <option key={known.id} value={known.key}>
              {known.label}
            </option>
          ))}
        </Select>
      </div>
      {row?.uses.length === 0 && <p className="px-4 text-soft">Nothing asks for it and nothing reads it.</p>}
      <ul>
        {row?.uses.map((use, place) => (
          // oxlint-disable-next-line react/no-array-index-key -- uses are listed in this order
          <li key={place} className="border-t border-hair">
            {["scoring", "routing"].includes(use.at) ? (
              <p className="px-4 py-1.5">
                <span className="block text-xs text-soft">{useWords[use.kind]}, edited in the file</span>
                {use.says}
              </p>
            ) : (
              <button
                type="button"
                className="w-full px-4 py-1.5 text-left hover:bg-hair"
                onClick={() => onGoTo(use.at)}
              >
                <span className="block text-xs text-soft">{useWords[use.kind]}</span>
                {use.says}
              </button>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}
