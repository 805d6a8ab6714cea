import type { Schemas } from "../../../../api";
import { Labelled, Select } from "../../../../kit/ui";
import { useShownDraft } from "../../dialogue/DialogueScreen";

type WayOut = Schemas["WayOut"];

const written = (way: WayOut): string => (way === "go_on" ? "" : "go_to" in way ? `s ${way.go_to}` : `a ${way.arm}`);
const read = (value: string): WayOut =>
  value === "" ? "go_on" : value.startsWith("s ") ? { go_to: value.slice(2) } : { arm: value.slice(2) };

/** How often it is asked, and what follows then: on without it, a section, or an arm of this ask. */
export function WayOutEditor({
  tries,
  wayOut,
  arms = [],
  onChange,
}: {
  tries: number;
  wayOut: WayOut;
  arms?: [id: string, label: string][];
  onChange: (part: { tries?: number; way_out?: WayOut }) => void;
}) {
  const { sections } = useShownDraft().draft.dialogue;
  return (
    <Labelled label="After the tries" hint="A prospect who declines goes there at once.">
      {(id) => (
        <div className="flex flex-wrap items-center gap-2">
          <Select
            aria-label="Tries"
            value={tries}
            onChange={(event) => onChange({ tries: Number(event.target.value) })}
          >
            {Array.from({ length: 10 }, (_, place) => place + 1).map((count) => (
              <option key={count} value={count}>
                {count} {count === 1 ? "try" : "tries"}
              </option>
            ))}
          </Select>
          <span className="text-soft">then</span>
          <Select id={id} value={written(wayOut)} onChange={(event) => onChange({ way_out: read(event.target.value) })}>
            <option value="">go on without it</option>
            {arms.length > 0 && (
              <optgroup label="Take the arm">
                {arms.map(([arm, label]) => (
                  <option key={arm} value={`a ${arm}`}>
                    {label}
                  </option>
                ))}
              </optgroup>
            )}
            <optgroup label="Go to">
              {sections.map((section, place) => (
                <option key={section.id} value={`s ${section.id}`}>
                  {place + 1} {section.title}
                </option>
              ))}
            </optgroup>
          </Select>
        </div>
      )}
    </Labelled>
  );
}
