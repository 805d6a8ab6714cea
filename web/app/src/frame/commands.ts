/** Every command with its shortcut: find-or-do, the shortcuts sheet and the text boxes all read this table. */

export type Where =
  "everywhere" | "outline" | "scoring" | "routing" | "placement" | "answers" | "text" | "leads" | "records";

export const commands = [
  { id: "find", label: "Find or do", keys: "Ctrl K", where: "everywhere" },
  { id: "shortcuts", label: "Show all shortcuts", keys: "?", where: "everywhere" },
  { id: "dialogues", label: "Go to Dialogues", keys: "", where: "everywhere" },
  { id: "leads", label: "Go to Leads", keys: "", where: "everywhere" },
  { id: "requests", label: "Go to Requests", keys: "", where: "everywhere" },
  { id: "contacts", label: "Go to Contacts", keys: "", where: "everywhere" },
  { id: "companies", label: "Go to Companies", keys: "", where: "everywhere" },
  { id: "team", label: "Go to Team", keys: "", where: "everywhere" },
  { id: "settings", label: "Go to Settings", keys: "", where: "everywhere" },
  { id: "sign-out", label: "Sign out", keys: "", where: "everywhere" },

  { id: "next-row", label: "Next row", keys: "J", also: "↓", where: "outline" },
  { id: "previous-row", label: "Previous row", keys: "K", also: "↑", where: "outline" },
  { id: "next-section", label: "Next section", keys: "]", where: "outline" },
  { id: "previous-section", label: "Previous section", keys: "[", where: "outline" },
  { id: "open-row", label: "Open or close the row", keys: "Enter", where: "outline" },
  { id: "add-below", label: "Add below", keys: "A", where: "outline" },
  { id: "add-arm", label: "Add an arm", keys: "B", where: "outline" },
  { id: "add-section", label: "Add a section below", keys: "S", where: "outline" },
  { id: "pick-down", label: "Pick the next row as well", keys: "Shift ↓", where: "outline" },
  { id: "pick-up", label: "Pick the row above as well", keys: "Shift ↑", where: "outline" },
  { id: "pick-none", label: "Pick only this row", keys: "Escape", where: "outline" },
  { id: "move-up", label: "Move up", keys: "Alt ↑", where: "outline" },
  { id: "move-down", label: "Move down", keys: "Alt ↓", where: "outline" },
  { id: "into-arm", label: "Move into the arm above", keys: "Alt →", where: "outline" },
  { id: "out-of-arm", label: "Move out of the arm", keys: "Alt ←", where: "outline" },
  { id: "duplicate", label: "Duplicate", keys: "Ctrl D", where: "outline" },
  { id: "copy", label: "Copy", keys: "Ctrl C", where: "outline" },
  { id: "cut", label: "Cut", keys: "Ctrl X", where: "outline" },
  { id: "paste", label: "Paste below", keys: "Ctrl V", where: "outline" },
  { id: "to-section", label: "Make a section of the picked turns", keys: "Shift S", where: "outline" },
  { id: "remove", label: "Take out", keys: "Delete", where: "outline" },
  { id: "undo", label: "Undo", keys: "Ctrl Z", where: "outline" },
  { id: "redo", label: "Redo", keys: "Ctrl Shift Z", where: "outline" },
  { id: "find-words", label: "Find and replace", keys: "Ctrl F", where: "outline" },
  { id: "uses", label: "Where its field is used", keys: "U", where: "outline" },
  { id: "follow", label: "Go where it leads", keys: "G", where: "outline" },
  { id: "fold", label: "Fold or unfold", keys: "F", where: "outline" },
  { id: "fold-all", label: "Fold or unfold all sections", keys: "Shift F", where: "outline" },
  { id: "next-change", label: "Next change since the release", keys: "N", where: "outline" },
  { id: "next-check", label: "Next finding", keys: "P", where: "outline" },
  { id: "rehearse-finding", label: "Rehearse what its finding says", keys: "W", where: "outline" },
  { id: "comment", label: "Comment on the row", keys: "M", where: "outline" },
  { id: "rehearse", label: "Rehearse from the start", keys: "R", where: "outline" },
  { id: "rehearse-here", label: "Rehearse from here", keys: "Shift R", where: "outline" },
  { id: "rehearsed-line", label: "Show its line in the rehearsal", keys: "L", where: "outline" },
  { id: "checks", label: "Show checks", keys: "C", where: "outline" },
  { id: "history", label: "Show the history", keys: "H", where: "outline" },
  { id: "side-talk", label: "Edit side-talk", keys: "", where: "outline" },
  { id: "offers", label: "Edit offers", keys: "", where: "outline" },
  { id: "greeting", label: "Edit the greeting", keys: "", where: "outline" },
  { id: "phrases", label: "Edit built-in phrases", keys: "", where: "outline" },
  { id: "tables", label: "Edit tables", keys: "", where: "outline" },
  { id: "manners", label: "Edit pace and limits", keys: "", where: "outline" },
  { id: "brief", label: "Go to the brief", keys: "", where: "outline" },
  { id: "releases", label: "Go to the releases", keys: "", where: "outline" },
  { id: "release", label: "Release", keys: "", where: "outline" },

  { id: "next-row", label: "Next line", keys: "J", also: "↓", where: "scoring" },
  { id: "previous-row", label: "Previous line", keys: "K", also: "↑", where: "scoring" },
  { id: "open-row", label: "Open or close the line", keys: "Enter", where: "scoring" },
  { id: "close-row", label: "Close the line", keys: "Escape", where: "scoring" },
  { id: "more-points", label: "One point more", keys: "+", also: "=", where: "scoring" },
  { id: "fewer-points", label: "One point fewer", keys: "-", where: "scoring" },
  { id: "add-criterion", label: "Add a criterion", keys: "A", where: "scoring" },
  { id: "add-dimension", label: "Add a dimension", keys: "D", where: "scoring" },
  { id: "add-must", label: "Add a must-have", keys: "M", where: "scoring" },
  { id: "add-rule-out", label: "Add a rule-out", keys: "O", where: "scoring" },
  { id: "move-up", label: "Move up", keys: "Alt ↑", where: "scoring" },
  { id: "move-down", label: "Move down", keys: "Alt ↓", where: "scoring" },
  { id: "remove", label: "Take out", keys: "Delete", where: "scoring" },
  { id: "try-lead", label: "Try a lead", keys: "T", where: "scoring" },
  { id: "undo", label: "Undo", keys: "Ctrl Z", where: "scoring" },
  { id: "redo", label: "Redo", keys: "Ctrl Shift Z", where: "scoring" },
  { id: "release", label: "Release", keys: "", where: "scoring" },

  { id: "next-row", label: "Next rule", keys: "J", also: "↓", where: "routing" },
  { id: "previous-row", label: "Previous rule", keys: "K", also: "↑", where: "routing" },
  { id: "open-row", label: "Open or close the rule", keys: "Enter", where: "routing" },
  { id: "close-row", label: "Close the rule", keys: "Escape", where: "routing" },
  { id: "add-rule", label: "Add a rule", keys: "A", where: "routing" },
  { id: "move-up", label: "Move up", keys: "Alt ↑", where: "routing" },
  { id: "move-down", label: "Move down", keys: "Alt ↓", where: "routing" },
  { id: "remove", label: "Take out", keys: "Delete", where: "routing" },
  { id: "try-lead", label: "Try a lead", keys: "T", where: "routing" },
  { id: "past-leads", label: "Past leads again", keys: "P", where: "routing" },
  { id: "undo", label: "Undo", keys: "Ctrl Z", where: "routing" },
  { id: "redo", label: "Redo", keys: "Ctrl Shift Z", where: "routing" },
  { id: "release", label: "Release", keys: "", where: "routing" },
  { id: "next-row", label: "Next placement", keys: "J", also: "↓", where: "placement" },
  { id: "previous-row", label: "Previous placement", keys: "K", also: "↑", where: "placement" },
  { id: "add-placement", label: "Add a placement", keys: "A", where: "placement" },
  { id: "move-up", label: "Move up", keys: "Alt ↑", where: "placement" },
  { id: "move-down", label: "Move down", keys: "Alt ↓", where: "placement" },
  { id: "try-address", label: "Try an address", keys: "T", where: "placement" },

  { id: "next-row", label: "Next conversation", keys: "J", also: "↓", where: "answers" },
  { id: "previous-row", label: "Previous conversation", keys: "K", also: "↑", where: "answers" },
  { id: "release", label: "Release", keys: "", where: "answers" },

  { id: "next-row", label: "Next line", keys: "J", also: "↓", where: "records" },
  { id: "previous-row", label: "Previous line", keys: "K", also: "↑", where: "records" },

  { id: "close-row", label: "Close the row", keys: "Escape", where: "text" },
  { id: "done", label: "Done, close the row", keys: "Enter", where: "text" },
  { id: "new-line", label: "New line", keys: "Shift Enter", where: "text" },
  { id: "insert-value", label: "Insert a known value", keys: "{", where: "text" },
  { id: "change-value", label: "Change the value at the caret", keys: "Alt Enter", where: "text" },
  { id: "emoji", label: "Insert an emoji by name", keys: ":", where: "text" },

  { id: "next-row", label: "Next lead", keys: "J", where: "leads" },
  { id: "previous-row", label: "Previous lead", keys: "K", where: "leads" },
  { id: "next-to-call", label: "Open the next to call", keys: "Enter", where: "leads" },
  { id: "dial", label: "Call", keys: "C", where: "leads" },
  { id: "call-spoke", label: "The call: spoke", keys: "1", where: "leads" },
  { id: "call-no-reply", label: "The call: no reply", keys: "2", where: "leads" },
  { id: "call-message", label: "The call: left a message", keys: "3", where: "leads" },
  { id: "call-wrong", label: "The call: wrong number", keys: "4", where: "leads" },
  { id: "step-back", label: "Take the last step back", keys: "Z", where: "leads" },
  { id: "write-note", label: "Write a note", keys: "M", where: "leads" },
  { id: "write-mail", label: "Write a mail", keys: "E", where: "leads" },
  { id: "pick-lead", label: "Pick the lead among several", keys: "X", where: "leads" },
  { id: "write-tag", label: "Put a tag on", keys: "G", where: "leads" },
  { id: "take-lead", label: "Take the lead", keys: "T", where: "leads" },
  { id: "mark-won", label: "Mark won", keys: "W", where: "leads" },
  { id: "mark-lost", label: "Mark lost", keys: "L", where: "leads" },
  { id: "mark-no-fit", label: "Mark not a fit", keys: "N", where: "leads" },
] as const satisfies { id: string; label: string; keys: string; also?: string; where: Where }[];

export type CommandId = (typeof commands)[number]["id"];
export type Command = { id: CommandId; label: string; keys: string; also?: string; where: Where };

/** The command of a screen that an event's keys stand for. */
export const commandFor = (where: Where, keys: string): Command | undefined =>
  (commands as readonly Command[]).find(
    (known) => known.where === where && keys !== "" && (known.keys === keys || known.also === keys),
  );

/** The keys of an event in the words of the table. */
export function keysOf(event: Pick<KeyboardEvent, "key" | "ctrlKey" | "metaKey" | "altKey" | "shiftKey">): string {
  const key =
    { ArrowUp: "↑", ArrowDown: "↓", ArrowLeft: "←", ArrowRight: "→" }[event.key] ??
    (event.key.length === 1 ? event.key.toUpperCase() : event.key);
  // Signs such as ? need Shift on most keyboards; only with letters and named keys does it mean something else.
  const shift = event.shiftKey && (event.key.length > 1 || /\p{L}/u.test(event.key));
  return [event.ctrlKey || event.metaKey ? "Ctrl" : "", event.altKey ? "Alt" : "", shift ? "Shift" : "", key]
    .filter(Boolean)
    .join(" ");
}

/** True where typing belongs to a text box and single letters must not act. */
export function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || ["INPUT", "TEXTAREA", "SELECT"].includes(target.tagName))
  );
}
