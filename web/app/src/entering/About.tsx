import { Labelled, Select } from "../../../kit/ui";
import { Ground } from "./Ground";
import type { Form } from "./words";

/** What is said of every lead that is entered: where from, on what ground, for whom. */
export type Said = { source: string; ground: string; owner: string; tells: boolean };

export const nothingSaid: Said = { source: "", ground: "", owner: "", tells: false };

export function About({ form, said, onChange }: { form: Form; said: Said; onChange: (said: Said) => void }) {
  return (
    <>
      <Ground
        said={said}
        hint="Why they may: it stands with each lead."
        examples={["Cold chain fair in Leeds, November", "They asked for a call at our stand"]}
        onChange={(part) => onChange({ ...said, ...part })}
      />
      <Labelled label="Goes to">
        {(id) => (
          <Select id={id} value={said.owner} onChange={(event) => onChange({ ...said, owner: event.target.value })}>
            <option value="">whoever the dialogue’s rules name</option>
            {form.owners.map((owner) => (
              <option key={owner.id} value={owner.id}>
                {owner.name}
              </option>
            ))}
          </Select>
        )}
      </Labelled>
      <label className="flex items-center gap-2 py-1 pl-[9rem] max-md:pl-0">
        <input
          type="checkbox"
          checked={said.tells}
          onChange={(event) => onChange({ ...said, tells: event.target.checked })}
        />
        Tell whoever gets them, send them to destinations, and let the time to call run
      </label>
    </>
  );
}
