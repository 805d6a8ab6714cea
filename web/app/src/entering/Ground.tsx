import { Labelled, TextInput } from "../../../kit/ui";

type Said = { source: string; ground: string };

/** Where what is entered comes from, and why its people may be contacted. */
export function Ground({
  said,
  hint,
  examples: [source, ground],
  onChange,
}: {
  said: Said;
  hint: string;
  examples: [source: string, ground: string];
  onChange: (said: Said) => void;
}) {
  return (
    <>
      <Labelled label="Where from">
        {(id) => (
          <TextInput
            id={id}
            required
            maxLength={300}
            placeholder={source}
            value={said.source}
            onChange={(event) => onChange({ source: event.target.value, ground: said.ground })}
          />
        )}
      </Labelled>
      <Labelled label="May be contacted" hint={hint}>
        {(id) => (
          <TextInput
            id={id}
            required
            maxLength={300}
            placeholder={ground}
            value={said.ground}
            onChange={(event) => onChange({ source: said.source, ground: event.target.value })}
          />
        )}
      </Labelled>
    </>
  );
}
