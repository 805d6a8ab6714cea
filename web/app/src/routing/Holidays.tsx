import { useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";
import { Labelled, TextArea } from "../../../kit/ui";
import { useAttempt } from "../lib/useAttempt";

/** Days off, typed or read from an iCalendar file. */
export function Holidays({ days, onChange }: { days: string[]; onChange: (days: string[]) => void }) {
  const { says, attempt } = useAttempt();
  const [found, setFound] = useState<Schemas["Holidays"] | null>(null);
  const readFile = async (file: File) => {
    setFound(null);
    const text = await file.text();
    const read = await attempt(() => ask(client.POST("/api/routing/holidays", { body: { text } })));
    if (!read) return;
    setFound(read);
    onChange([...new Set([...days, ...read.days.map((day) => day.date)])].sort());
  };
  return (
    <>
      <Labelled label="Holidays" hint="Days as 2026-12-25, with commas or line breaks between.">
        {(id) => (
          <TextArea
            id={id}
            value={days.join(", ")}
            onChange={(event) =>
              onChange(
                event.target.value
                  .split(/[,\s]+/u)
                  .map((day) => day.trim())
                  .filter(Boolean),
              )
            }
          />
        )}
      </Labelled>
      <Labelled
        label="From a calendar"
        hint="An iCalendar file (.ics) with whole days; this year’s and the next three."
      >
        {(id) => (
          <input
            id={id}
            type="file"
            accept=".ics,text/calendar"
            className="text-sm"
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) void readFile(file);
              event.target.value = "";
            }}
          />
        )}
      </Labelled>
      <div role="status" className="pl-[9rem] text-xs max-md:pl-0">
        {says && <p className="text-clay">{says}</p>}
        {found && (
          <p className="text-soft">
            {found.days.length === 0
              ? "No whole days of these years stand in it."
              : `${found.days.length === 1 ? "One day" : `${found.days.length} days`} added: ${namesOf(found.days)}.`}
          </p>
        )}
        {found && found.left.length > 0 && <p className="text-amber">Left aside: {found.left.join("; ")}.</p>}
      </div>
    </>
  );
}

/** The first names of some days, each once. */
function namesOf(days: Schemas["Holiday"][]): string {
  const names = [...new Set(days.map((day) => day.name || day.date))];
  return names.length > 6 ? `${names.slice(0, 6).join(", ")} and others` : names.join(", ");
}
