import { Dialog } from "radix-ui";
import { useState } from "react";

import { Modal } from "../../../kit/Modal";
import { Button, TextInput } from "../../../kit/ui";

/** Asks for the title of a section that is made of the picked turns. */
export function ToSection({
  suggested,
  onMake,
  onClose,
}: {
  suggested: string;
  onMake: (title: string) => void;
  onClose: () => void;
}) {
  const [title, setTitle] = useState(suggested);
  return (
    <Modal open onOpenChange={(open) => !open && onClose()} className="w-96 p-5">
      <Dialog.Title className="font-serif text-lg">Make a section</Dialog.Title>
      <form
        className="mt-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (title.trim()) onMake(title.trim());
        }}
      >
        <TextInput
          aria-label="Title of the section"
          autoFocus
          maxLength={80}
          value={title}
          onFocus={(event) => event.target.select()}
          onChange={(event) => setTitle(event.target.value)}
        />
        <p className="mt-1.5 text-xs text-soft">
          A Visit takes the turns’ place, so the conversation stays the same. Where they are the rest of their section,
          the new one follows it.
        </p>
        <div className="mt-3 flex gap-2">
          <Button look="primary" type="submit" disabled={!title.trim()}>
            Make it
          </Button>
          <Button onClick={onClose}>Not now</Button>
        </div>
      </form>
    </Modal>
  );
}
