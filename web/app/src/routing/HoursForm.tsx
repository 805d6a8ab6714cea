import { useState } from "react";

import type { Schemas } from "../../../api";
import { Labelled, Select, TextInput } from "../../../kit/ui";
import { Holidays } from "./Holidays";
import { officeHours, openingsOf, openingsText, weekdays } from "./words";

const zones = Intl.supportedValuesOf("timeZone");

/** When a queue is open: always, or at hours of a zone with days off. */
export function HoursForm({
  hours,
  onChange,
}: {
  hours: Schemas["Written"] | null;
  onChange: (hours: Schemas["Written"] | null) => void;
}) {
  const here = new Intl.DateTimeFormat().resolvedOptions().timeZone;
  return (
    <>
      <Labelled label="Open">
        {(id) => (
          <Select
            id={id}
            value={hours ? "hours" : ""}
            onChange={(event) => onChange(event.target.value ? officeHours(here) : null)}
          >
            <option value="">always</option>
            <option value="hours">at these hours</option>
          </Select>
        )}
      </Labelled>
      {hours && (
        <>
          <Labelled label="Time zone">
            {(id) => (
              <Select id={id} value={hours.zone} onChange={(event) => onChange({ ...hours, zone: event.target.value })}>
                {!zones.includes(hours.zone) && <option value={hours.zone}>{hours.zone}</option>}
                {zones.map((zone) => (
                  <option key={zone} value={zone}>
                    {zone.replaceAll("_", " ")}
                  </option>
                ))}
              </Select>
            )}
          </Labelled>
          {weekdays.map(([day, name]) => (
            <Labelled key={day} label={name}>
              {(id) => (
                <Openings
                  id={id}
                  value={hours.hours?.[day]}
                  onChange={(openings) => onChange({ ...hours, hours: { ...hours.hours, [day]: openings } })}
                />
              )}
            </Labelled>
          ))}
          <Holidays days={hours.holidays ?? []} onChange={(holidays) => onChange({ ...hours, holidays })} />
        </>
      )}
    </>
  );
}

function Openings({
  id,
  value,
  onChange,
}: {
  id: string;
  value: string[][] | undefined;
  onChange: (openings: string[][]) => void;
}) {
  const [wrong, setWrong] = useState(false);
  return (
    <>
      <TextInput
        id={id}
        className="!w-64 !py-0.5"
        placeholder="closed"
        defaultValue={openingsText(value)}
        aria-invalid={wrong}
        onBlur={(event) => {
          const read = openingsOf(event.target.value);
          setWrong(read === null);
          if (read) onChange(read);
        }}
      />
      {wrong && <p className="text-xs text-clay">Write hours as 8:00–12:00, 13:00–17:30.</p>}
    </>
  );
}
