/** Doing something that may fail, with the sentence of the last failure. */
import { useCallback, useState } from "react";

import { RequestFailed } from "../../../api";

export function useAttempt() {
  const [says, setSays] = useState("");
  /** Gives what came of it; nothing where it failed, and then `says` tells why. */
  const attempt = useCallback(async <T>(what: () => Promise<T>): Promise<T | null> => {
    setSays("");
    try {
      return await what();
    } catch (failed) {
      setSays(failed instanceof RequestFailed ? failed.message : String(failed));
      return null;
    }
  }, []);
  return { says, setSays, attempt };
}
