import { clock } from "../lib/time";
import type { Saving } from "./useDraft";

/** What the foot of a stage says of the draft: that it is kept, and since when, or what stands in the way. */
export function savedWords(saving: Saving, at: string): string {
  if (saving === "saving") return "Saving";
  if (saving === "offline") return "Not saved: no connection";
  if (saving === "collided") return "Not saved: see above";
  return `Saved ${clock(at)}`;
}
