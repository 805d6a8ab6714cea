/** Doing what lets one in: busy while it is under way, a sentence where it failed. */
import { useState } from "react";

import { RequestFailed } from "../../../api";

export function useComingIn() {
  const [says, setSays] = useState("");
  const [busy, setBusy] = useState(false);
  /**
   * Does it, and goes to `then` where it worked, or else to the address that it gave; gives the failure's code where
   * it did not.
   */
  const comeIn = async (what: () => Promise<unknown>, then?: string): Promise<string | null> => {
    setBusy(true);
    setSays("");
    try {
      const gave = await what();
      location.assign(then ?? String(gave));
      return null;
    } catch (error) {
      setBusy(false);
      setSays(error instanceof RequestFailed ? error.message : "That failed. Try again.");
      return error instanceof RequestFailed ? error.code : "failed";
    }
  };
  return { says, setSays, busy, comeIn };
}

/** The zone of this browser. */
export const ownZone = (): string => Intl.DateTimeFormat().resolvedOptions().timeZone;
