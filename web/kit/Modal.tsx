import { clsx } from "clsx";
import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

/** A dialog over the screen, for what is no ordinary edit: finding, shortcuts, releasing. */
export function Modal({
  open,
  onOpenChange,
  className,
  children,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  className?: string;
  children: ReactNode;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-ink/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className={clsx(
            "fixed top-20 left-1/2 z-30 max-h-[80vh] max-w-[calc(100vw-1rem)] -translate-x-1/2 overflow-auto rounded-md border border-line bg-paper",
            className,
          )}
        >
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
