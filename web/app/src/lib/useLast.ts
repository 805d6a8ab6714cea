import { useState } from "react";

/** A value, or the last one there was: what stood on the screen stays while something new cannot be shown. */
export function useLast<T>(value: T | undefined): T | undefined {
  const [last, setLast] = useState(value);
  if (value !== undefined && value !== last) setLast(value);
  return value ?? last;
}
