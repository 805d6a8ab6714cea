import { useId } from "react";

import { TextInput } from "../../../kit/ui";

/** Every zone that this browser knows. */
const zones = Intl.supportedValuesOf("timeZone");

/** A time zone, typed or picked from the list of them. */
export function ZoneBox({
  value,
  onZone,
  bare = false,
  id,
}: {
  value: string;
  onZone: (zone: string) => void;
  bare?: boolean;
  id?: string;
}) {
  const own = useId();
  const at = id ?? own;
  return (
    <div>
      {!bare && (
        <label className="block text-xs text-soft" htmlFor={at}>
          Time zone
        </label>
      )}
      <TextInput
        id={at}
        list={`${at}-zones`}
        autoComplete="off"
        value={value}
        onChange={(event) => onZone(event.target.value)}
      />
      <datalist id={`${at}-zones`}>
        {zones.map((zone) => (
          <option key={zone} value={zone}>
            {zone}
          </option>
        ))}
      </datalist>
    </div>
  );
}
