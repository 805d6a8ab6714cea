/** Listening to what changes, for as long as a part of the screen stands. */
import { useEffect, useRef } from "react";

import type { Heard } from "./hub";
import { hub } from "./hub";

/** What comes in quick succession is told once. */
const GATHERED_MS = 200;

/** Calls `heard` soon after something of a topic changed. */
export function useLive(topic: string, heard: Heard) {
  const latest = useRef(heard);
  useEffect(() => {
    latest.current = heard;
  });
  useEffect(() => {
    const gathered = new Map<string, ReturnType<typeof setTimeout>>();
    const stop = hub.listen(topic, (kind) => {
      if (gathered.has(kind)) return;
      const tell = () => {
        gathered.delete(kind);
        latest.current(kind);
      };
      gathered.set(kind, setTimeout(tell, GATHERED_MS));
    });
    return () => {
      stop();
      gathered.forEach((timer) => clearTimeout(timer));
    };
  }, [topic]);
}
