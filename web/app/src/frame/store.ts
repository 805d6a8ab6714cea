/** A value that components outside one tree share. */
import { useSyncExternalStore } from "react";

export type Shared<T> = { get: () => T; set: (change: (value: T) => T) => void; use: () => T };

export function create<T>(initial: T): Shared<T> {
  let value = initial;
  const listeners = new Set<() => void>();
  const subscribe = (listener: () => void) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  };
  const get = () => value;
  return {
    get,
    set: (change) => {
      value = change(value);
      for (const listener of listeners) listener();
    },
    use: () => useSyncExternalStore(subscribe, get),
  };
}
