/** Lets a screen offer commands: their keys act while it is shown, and find-or-do lists them. */
import { useEffect, useRef } from "react";
import { create } from "./store";

import type { CommandId } from "./commands";
import type { Where } from "./commands";
import { commandFor, isTyping, keysOf } from "./commands";

export type Actions = Partial<Record<CommandId, () => void>>;
type Layer = { where: Where; actions: { current: Actions } };

/** The browser makes events of its own for these; screens act on those, so that the clipboard is at hand. */
const native = new Set<CommandId>(["copy", "cut", "paste"]);

/** Screens that offer commands now, the frame first. */
export const layers = create<Layer[]>([]);

export function useCommands(where: Layer["where"], actions: Actions) {
  const current = useRef(actions);
  useEffect(() => {
    current.current = actions;
  });
  useEffect(() => {
    const layer: Layer = { where, actions: current };
    layers.set((known) => [...known, layer]);
    const onKey = (event: KeyboardEvent) => {
      if (event.defaultPrevented) return;
      const keys = keysOf(event);
      const command = commandFor(where, keys);
      const run = command && !native.has(command.id) && current.current[command.id];
      // Single letters and Enter belong to text boxes; undo inside one is its own.
      // Escape closes what is open from within any of its boxes.
      const anywhere = ["find", "find-words", "close-row"].includes(command?.id ?? "") || keys.startsWith("Alt ");
      if (!run || (!anywhere && isTyping(event.target))) return;
      if (keys === "Enter" && event.target instanceof HTMLElement && event.target.closest("button, a, summary")) return;
      if (document.querySelector("[role=dialog]") && command.id !== "find") return;
      event.preventDefault();
      run();
    };
    window.addEventListener("keydown", onKey);
    return () => {
      window.removeEventListener("keydown", onKey);
      layers.set((known) => known.filter((other) => other !== layer));
    };
  }, [where]);
}
