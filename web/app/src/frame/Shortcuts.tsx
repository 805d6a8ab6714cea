import { clsx } from "clsx";
import { Dialog } from "radix-ui";

import { Modal } from "../../../kit/Modal";
import { Button } from "../../../kit/ui";
import type { Command } from "./commands";
import { commands } from "./commands";

const places = [
  ["everywhere", "Everywhere"],
  ["outline", "In the outline"],
  ["text", "In a text"],
  ["leads", "In the leads"],
] as const;

/** Every shortcut, from the same table that makes them act. */
export function Shortcuts({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <Modal open={open} onOpenChange={onOpenChange} className="w-[62rem] p-5">
      <Dialog.Title className="font-serif text-lg">Shortcuts</Dialog.Title>
      <div className="mt-3 columns-3 gap-6 max-md:columns-1">
        {places.map(([where, title]) => (
          <section key={where} className={clsx("mb-4", where !== "outline" && "break-inside-avoid")}>
            <h3 className="mb-1 text-xs text-soft">{title}</h3>
            <dl className="text-sm">
              {(commands as readonly Command[])
                .filter((command) => command.where === where)
                .map((command) => (
                  <div key={command.label} className="flex justify-between gap-2 border-b border-hair py-1">
                    <dt>{command.label}</dt>
                    <dd className="text-xs whitespace-nowrap text-soft">
                      {command.also ? `${command.keys} or ${command.also}` : command.keys || "by name"}
                    </dd>
                  </div>
                ))}
            </dl>
          </section>
        ))}
      </div>
      <p className="mt-3 text-xs text-soft">
        Single letters act outside text boxes only. By name: Ctrl K, then the first letters of the command.
      </p>
      <Dialog.Close asChild>
        <Button className="mt-3">Close</Button>
      </Dialog.Close>
    </Modal>
  );
}
