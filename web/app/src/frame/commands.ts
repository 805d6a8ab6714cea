/** Every command with its shortcut: find-or-do and the shortcuts sheet both read this table. */

export type CommandId =
  | "dialogues"
  | "leads"
  | "find"
  | "shortcuts"
  | "sign-out"
  | "undo"
  | "redo"
  | "next-row"
  | "previous-row"
  | "open-row"
  | "add-below"
  | "add-arm"
  | "add-section"
  | "move-up"
  | "move-down"
  | "into-arm"
  | "out-of-arm"
  | "remove"
  | "rehearse"
  | "checks"
  | "release"
  | "mark-called"
  | "mark-won"
  | "mark-lost"
  | "mark-no-fit";

export type Command = { id: CommandId; label: string; keys: string; where: "everywhere" | "outline" | "leads" };

export const commands: Command[] = [
  { id: "find", label: "Find or do", keys: "Ctrl K", where: "everywhere" },
  { id: "shortcuts", label: "Show all shortcuts", keys: "?", where: "everywhere" },
  { id: "dialogues", label: "Go to Dialogues", keys: "", where: "everywhere" },
  { id: "leads", label: "Go to Leads", keys: "", where: "everywhere" },
  { id: "sign-out", label: "Sign out", keys: "", where: "everywhere" },
  { id: "next-row", label: "Next row", keys: "J", where: "outline" },
  { id: "previous-row", label: "Previous row", keys: "K", where: "outline" },
  { id: "open-row", label: "Open or close the row", keys: "Enter", where: "outline" },
  { id: "add-below", label: "Add a turn below", keys: "A", where: "outline" },
  { id: "add-arm", label: "Add an arm", keys: "B", where: "outline" },
  { id: "add-section", label: "Add a section below", keys: "S", where: "outline" },
  { id: "move-up", label: "Move up", keys: "Alt ↑", where: "outline" },
  { id: "move-down", label: "Move down", keys: "Alt ↓", where: "outline" },
  { id: "into-arm", label: "Move into the arm above", keys: "Alt →", where: "outline" },
  { id: "out-of-arm", label: "Move out of the arm", keys: "Alt ←", where: "outline" },
  { id: "remove", label: "Take out", keys: "Delete", where: "outline" },
  { id: "undo", label: "Undo", keys: "Ctrl Z", where: "outline" },
  { id: "redo", label: "Redo", keys: "Ctrl Shift Z", where: "outline" },
  { id: "rehearse", label: "Rehearse from the start", keys: "R", where: "outline" },
  { id: "checks", label: "Show checks", keys: "C", where: "outline" },
  { id: "release", label: "Release", keys: "", where: "outline" },
  { id: "next-row", label: "Next lead", keys: "J", where: "leads" },
  { id: "previous-row", label: "Previous lead", keys: "K", where: "leads" },
  { id: "mark-called", label: "Mark called", keys: "C", where: "leads" },
  { id: "mark-won", label: "Mark won", keys: "W", where: "leads" },
  { id: "mark-lost", label: "Mark lost", keys: "L", where: "leads" },
  { id: "mark-no-fit", label: "Mark not a fit", keys: "N", where: "leads" },
];

/** The keys of an event in the words of the table. */
export function keysOf(event: KeyboardEvent): string {
  const key =
    { ArrowUp: "↑", ArrowDown: "↓", ArrowLeft: "←", ArrowRight: "→" }[event.key] ??
    (event.key.length === 1 ? event.key.toUpperCase() : event.key);
  const held = [
    event.ctrlKey || event.metaKey ? "Ctrl" : "",
    event.altKey ? "Alt" : "",
    event.shiftKey && event.key.length > 1 ? "Shift" : "",
  ];
  const shifted = event.shiftKey && event.key.length === 1 && (event.ctrlKey || event.metaKey) ? "Shift" : "";
  return [...held, shifted, key].filter(Boolean).join(" ");
}

/** True where typing belongs to a text box and single letters must not act. */
export function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || ["INPUT", "TEXTAREA", "SELECT"].includes(target.tagName))
  );
}
