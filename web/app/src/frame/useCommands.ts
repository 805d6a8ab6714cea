/** Lets a screen offer commands: their keys act while it is shown, and find-or-do lists them. */
import { useEffect, useRef } from "react";
import { create } from "./store";

import type { CommandId } from "./commands";
import { commands, isTyping, keysOf } from "./commands";

export type Actions = Partial<Record<CommandId, () => void>>;
type Layer = { where: "everywhere" | "outline" | "leads"; actions: { current: Actions } };

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
      const command = commands.find((known) => known.where === where && known.keys !== "" && known.keys === keys);
      const run = command && current.current[command.id];
      // Single letters and Enter belong to text boxes; undo inside one is its own.
      const plain = !keys.startsWith("Ctrl K") && !keys.startsWith("Alt ");
      if (!run || (plain && isTyping(event.target))) return;
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
