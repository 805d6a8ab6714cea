/** Says now and then that this window has the draft open, and learns who else has. */
import { useEffect, useState } from "react";

import type { Schemas } from "../../../api";
import { ask, client } from "../../../api";

const EVERY_MS = 6_000;

export type Presence = Schemas["Presence"];

export function usePresence(dialogue: string, at: string | null, onRevision: (revision: number) => void) {
  const [presence, setPresence] = useState<Presence | null>(null);
  useEffect(() => {
    let over = false;
    const beat = async () => {
      try {
        const found = await ask(
          client.POST("/api/dialogues/{dialogue}/presence", { params: { path: { dialogue } }, body: { at } }),
        );
        if (over) return;
        setPresence((known) => (JSON.stringify(known) === JSON.stringify(found) ? known : found));
        onRevision(found.revision);
      } catch {
        // Who is here matters less than what is being written; the next beat tries again.
      }
    };
    void beat();
    const timer = setInterval(() => void beat(), EVERY_MS);
    return () => {
      over = true;
      clearInterval(timer);
    };
  }, [dialogue, at, onRevision]);
  return presence;
}
