/** Lines that come one after another, as fast as the author wants. Whoever asks for less motion gets them at once. */
import { useEffect, useState } from "react";

import type { Line, Opening } from "./talk";

type Pace = Opening["pace"];

const FIXED_MS = 700;
/** By length: a base and so much per character, within bounds. */
const BASE_MS = 250;
const PER_CHARACTER_MS = 12;
const MOST_MS = 1_500;

/** How long to wait before a line appears, milliseconds. */
export function pauseBefore(line: Line | undefined, pace: Pace): number {
  if (!line || line.who === "you" || pace === "none") return 0;
  if (pace === "fixed") return FIXED_MS;
  const length = line.line.kind === "text" ? line.line.text.length : 20;
  return Math.min(MOST_MS, BASE_MS + PER_CHARACTER_MS * length);
}

/** How many lines are shown by now, and whether another is on its way. The first `known` were there before. */
export function usePace(lines: Line[], pace: Pace, known: number): { shown: number; typing: boolean } {
  const [shown, setShown] = useState(0);
  const still = pace === "none" || matchMedia("(prefers-reduced-motion: reduce)").matches;
  const count = lines.length;
  // Starting again shows fewer lines; they appear anew.
  const now = still ? count : Math.min(Math.max(shown, known), count);
  useEffect(() => {
    if (now >= count) return undefined;
    const timer = setTimeout(() => setShown(now + 1), pauseBefore(lines[now], pace));
    return () => clearTimeout(timer);
  }, [lines, count, now, pace]);
  useEffect(() => {
    if (count > 0) return undefined;
    const timer = setTimeout(() => setShown(0), 0);
    return () => clearTimeout(timer);
  }, [count]);
  return { shown: now, typing: now < count };
}
