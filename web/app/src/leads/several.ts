/** Doing one thing to several leads, one after the other. */
import { RequestFailed } from "../../../api";

/** How far it is, and what could not be done, a sentence each. */
export type Progress = { done: number; of: number; failed: string[]; ended: boolean };

export type Named = { id: string; name: string };

/**
 * Does something to each of some leads; says after each how far it is, and ends early where it is told to stop. Gives
 * the ids of those that it was done to.
 */
export async function eachOf(
  leads: Named[],
  act: (id: string) => Promise<unknown>,
  tell: (progress: Progress) => void,
  stopped: () => boolean,
): Promise<string[]> {
  const failed: string[] = [];
  const done: string[] = [];
  for (const { id, name } of leads) {
    if (stopped()) break;
    try {
      await act(id);
      done.push(id);
    } catch (error) {
      if (!(error instanceof RequestFailed)) throw error;
      failed.push(`${name}: ${error.message}`);
    }
    tell({ done: done.length, of: leads.length, failed: [...failed], ended: false });
  }
  tell({ done: done.length, of: leads.length, failed, ended: true });
  return done;
}
