import { Labelled, Select, TextInput } from "../../../kit/ui";
import type { Form } from "./words";

/** What is said of every lead that is entered: where from, on what ground, for whom. */
export type Said = { source: string; ground: string; owner: string; tells: boolean };

export const nothingSaid: Said = { source: "", ground: "", owner: "", tells: false };

export function About({ form, said, onChange }: { form: Form; said: Said; onChange: (said: Said) => void }) {
  return (
    <>
      <Labelled label="Where from">
        {(id) => (
          <TextInput
            id={id}
            required
            maxLength={300}
            placeholder="Cold chain fair in Leeds, November"
            value={said.source}
            onChange={(event) => onChange({ ...said, source: event.target.value })}
          />
        )}
      </Labelled>
      <Labelled label="May be contacted" hint="Why they may: it stands with each lead.">
        {(id) => (
          <TextInput
            id={id}
            required
            maxLength={300}
            placeholder="They asked for a call at our stand"
            value={said.ground}
            onChange={(event) => onChange({ ...said, ground: event.target.value })}
          />
        )}
      </Labelled>
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
