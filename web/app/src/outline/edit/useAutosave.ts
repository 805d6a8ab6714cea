/** A form's values, saved a moment after typing stops, and at once when it closes. */
import { useCallback, useEffect, useRef, useState } from "react";

const IDLE_MS = 700;

export function useAutosave<T>(kept: T, save: (value: T) => void) {
  const [value, setValue] = useState(kept);
  const unsaved = useRef<{ value: T } | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const saver = useRef(save);
  const before = useRef(JSON.stringify(kept));
  useEffect(() => {
    saver.current = save;
  });

  const flush = useCallback(() => {
    clearTimeout(timer.current);
    const waiting = unsaved.current;
    unsaved.current = null;
    if (waiting && JSON.stringify(waiting.value) !== before.current) {
      before.current = JSON.stringify(waiting.value);
      saver.current(waiting.value);
    }
  }, []);

  /** Changes the value; `now` saves at once, for what is not typed. */
  const change = useCallback(
    (next: T, now = false) => {
      setValue(next);
      unsaved.current = { value: next };
      clearTimeout(timer.current);
      if (now) flush();
      else timer.current = setTimeout(flush, IDLE_MS);
    },
    [flush],
  );

  // What was changed elsewhere (an undo, another window) replaces what is shown, unless something is being typed.
  const keptText = JSON.stringify(kept);
  useEffect(() => {
    if (!unsaved.current && keptText !== before.current) {
      before.current = keptText;
      setValue(JSON.parse(keptText) as T);
    }
  }, [keptText]);
  useEffect(() => flush, [flush]);
  return { value, change, flush };
}
