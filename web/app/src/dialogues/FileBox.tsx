import { useState } from "react";

import { Labelled } from "../../../kit/ui";

/** Largest file that is read, bytes. */
const LARGEST = 4 * 1024 * 1024;

/** A dialogue file from this computer. What is no JSON is told here; what is no dialogue, by the server. */
export function FileBox({ onFile }: { onFile: (file: Record<string, unknown> | null, title: string | null) => void }) {
  const [says, setSays] = useState("");
  const read = async (file: File | undefined) => {
    onFile(null, null);
    setSays("");
    if (!file) return;
    if (file.size > LARGEST) return setSays("This file is larger than 4 MB. A dialogue file holds words, no pictures.");
    try {
      const known: unknown = JSON.parse(await file.text());
      if (typeof known !== "object" || known === null || Array.isArray(known)) throw new Error("no object");
      const title = "title" in known && typeof known.title === "string" ? known.title : null;
      onFile(known as Record<string, unknown>, title);
    } catch {
      setSays("This is not a dialogue file. Pick one that was saved under Releases, “Save the draft as a file”.");
    }
  };
  return (
    <Labelled label="File">
      {(id) => (
        <>
          <input
            id={id}
            type="file"
            accept=".json,application/json"
            className="min-h-7 text-sm"
            onChange={(event) => void read(event.target.files?.[0])}
          />
          {says && (
            <p role="alert" className="mt-1 text-sm text-clay">
              {says}
            </p>
          )}
        </>
      )}
    </Labelled>
  );
}
