import { useEffect, useState } from "react";

/** True once something has lasted for so many milliseconds: what is over in a moment is never shown. */
export function useLate(lasts: boolean, after = 600): boolean {
  const [late, setLate] = useState(false);
  useEffect(() => {
    if (!lasts) return;
    const timer = setTimeout(() => setLate(true), after);
    return () => {
      clearTimeout(timer);
      setLate(false);
    };
  }, [lasts, after]);
  return late;
}
