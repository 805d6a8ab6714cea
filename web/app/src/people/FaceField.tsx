import { useState } from "react";

import { Button, Labelled } from "../../../kit/ui";
import { base64Of } from "../fields/useUpload";
import { useAttempt } from "../lib/useAttempt";

/** A picture of a person or a firm: chosen from a file, shown, taken out. */
export function FaceField({
  hint,
  source,
  onKeep,
}: {
  hint: string;
  /** The address of the picture; nothing where there is none. */
  source: string | null;
  /** Keeps what was chosen, as base64; nothing takes the picture out. */
  onKeep: (content: string | null) => Promise<unknown>;
}) {
  const { says, attempt } = useAttempt();
  const [busy, setBusy] = useState(false);
  const keep = async (content: () => Promise<string | null>) => {
    setBusy(true);
    await attempt(async () => onKeep(await content()));
    setBusy(false);
  };
  return (
    <Labelled label="Picture" hint={hint}>
      {(id) => (
        <div className="flex flex-wrap items-center gap-3">
          {source && <img src={source} alt="" width={40} height={40} className="size-10 rounded-full object-cover" />}
          <input
            id={id}
            type="file"
            disabled={busy}
            accept="image/png,image/jpeg,image/gif,image/webp"
            className="max-w-64 text-xs"
            onChange={({ target }) => {
              const file = target.files?.[0];
              if (file) void keep(() => base64Of(file));
            }}
          />
          {source && (
            <Button look="quiet" disabled={busy} onClick={() => void keep(() => Promise.resolve(null))}>
              Take it out
            </Button>
          )}
          {says && (
            <p role="alert" className="w-full text-clay">
              {says}
            </p>
          )}
        </div>
      )}
    </Labelled>
  );
}
