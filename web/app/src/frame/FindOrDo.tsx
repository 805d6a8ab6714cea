import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { Command } from "cmdk";
import { Dialog } from "radix-ui";

import { Modal } from "../../../kit/Modal";
import { dialoguesQuery, meQuery } from "../lib/query";
import type { Command as Known } from "./commands";
import { commands } from "./commands";
import { places } from "./places";
import { layers } from "./useCommands";

const item = "flex cursor-pointer justify-between rounded-sm px-3 py-1.5 data-[selected=true]:bg-hair";

/** Finds dialogues and does commands, by typing. */
export function FindOrDo({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const navigate = useNavigate();
  const me = useQuery(meQuery).data;
  const dialogues = useQuery({ ...dialoguesQuery, enabled: open && me?.writes_dialogues === true }).data ?? [];
  const offered = layers
    .use()
    .flatMap((layer) =>
      (commands as readonly Known[])
        .filter((command) => command.where === layer.where && layer.actions.current[command.id])
        .map((command) => ({ command, layer })),
    );
  const found = places.use();
  const all = layers.use();
  const sheet = all.find((layer) => layer.where === "everywhere")?.actions.current.shortcuts;
  const inTexts = all.some((layer) => layer.where === "outline")
    ? (commands as readonly Known[]).filter((command) => command.where === "text")
    : [];
  const run = (action: () => void) => {
    onOpenChange(false);
    // The dialog gives focus back first, so that a command may take it.
    setTimeout(action, 0);
  };
  return (
    <Modal open={open} onOpenChange={onOpenChange} className="w-[34rem]">
      <Dialog.Title className="sr-only">Find or do</Dialog.Title>
      <Command label="Find or do" className="text-sm">
        <Command.Input
          placeholder="Find a dialogue, row or field, or do something"
          className="w-full border-b border-line bg-paper px-3 py-2.5 outline-none placeholder:text-soft"
        />
        <Command.List className="max-h-80 overflow-auto p-1">
          <Command.Empty className="px-3 py-2 text-soft">Nothing by that name.</Command.Empty>
          {dialogues.map((dialogue) => (
            <Command.Item
              key={dialogue.id}
              value={`dialogue ${dialogue.title}`}
              className={item}
              onSelect={() =>
                run(() => void navigate({ to: "/dialogues/$dialogue", params: { dialogue: dialogue.id } }))
              }
            >
              {dialogue.title}
              <span className="text-xs text-soft">dialogue</span>
            </Command.Item>
          ))}
          {found.map((place) => (
            <Command.Item
              key={place.key}
              value={`${place.label} ${place.key}`}
              className={item}
              onSelect={() => run(place.go)}
            >
              <span className="min-w-0 truncate">{place.label}</span>
              <span className="ml-3 shrink-0 text-xs text-soft">{place.what}</span>
            </Command.Item>
          ))}
          {/* What acts at the caret of a text has no place to act from here; it leads to the sheet with its keys. */}
          {inTexts.map((command) => (
            <Command.Item
              key={command.id}
              value={`${command.label} in a text`}
              className={item}
              onSelect={() => run(() => sheet?.())}
            >
              {command.label}
              <span className="text-xs text-soft">in a text, {command.keys}</span>
            </Command.Item>
          ))}
          {offered.map(({ command, layer }) => (
            <Command.Item
              key={`${layer.where}-${command.id}`}
              value={command.label}
              className={item}
              onSelect={() => run(() => layer.actions.current[command.id]?.())}
            >
              {command.label}
              <kbd className="font-sans text-xs text-soft">{command.keys}</kbd>
            </Command.Item>
          ))}
        </Command.List>
      </Command>
    </Modal>
  );
}
