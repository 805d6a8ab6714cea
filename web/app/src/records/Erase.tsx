import { useQuery } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";

import { ask, client } from "../../../api";
import { Modal } from "../../../kit/Modal";
import { Button, Notice, TextInput } from "../../../kit/ui";
import { erasureQuery, queries } from "../lib/query";
import { useAttempt } from "../lib/useAttempt";
import { erasureWords } from "./words";

/** Erasing cannot be undone: it says what it will blank, and has the name typed first. */
export function Erase({
  id,
  name,
  onClose,
  onGone,
}: {
  id: string;
  name: string;
  onClose: () => void;
  onGone: () => void;
}) {
  const { data: of, error } = useQuery(erasureQuery(id));
  const [typed, setTyped] = useState("");
  const { says, attempt } = useAttempt();
  const erase = async () => {
    if (!of) return;
    const body = { leads: of.leads, conversations: of.conversations };
    const done = await attempt(() =>
      ask(client.POST("/api/contacts/{contact}/erasure", { params: { path: { contact: id } }, body })),
    );
    if (!done) return;
    queries.removeQueries({ queryKey: ["contact", id] });
    await Promise.all(
      ["contacts", "companies", "company", "leads", "lead", "answers"].map((key) =>
        queries.invalidateQueries({ queryKey: [key] }),
      ),
    );
    onGone();
  };
  return (
    <Modal open onOpenChange={(open) => !open && onClose()} className="w-[32rem] p-5">
      <Dialog.Title className="mb-2 font-serif text-lg font-semibold">Erase {name}</Dialog.Title>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void erase();
        }}
      >
        {error && <Notice tone="wrong">{error.message}</Notice>}
        <p>This is blanked for good, and cannot be undone:</p>
        <ul className="my-2 list-disc pl-5">
          {of ? erasureWords(of).map((line) => <li key={line}>{line}</li>) : <li>Counting what there is</li>}
        </ul>
        <p className="text-sm text-soft">
          That there were leads, with their scores and what became of them, stays for the numbers. Backups run out by
          themselves after their own time.
        </p>
        <label className="mt-3 block text-sm" htmlFor="erase-name">
          Type <b className="font-semibold">{name}</b> to erase them
        </label>
        <TextInput
          id="erase-name"
          className="mt-1"
          autoComplete="off"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
        {says && (
          <p role="alert" className="mt-2 text-sm text-clay">
            {says}
          </p>
        )}
        <div className="mt-4 flex justify-end gap-2">
          <Button onClick={onClose}>Keep them</Button>
          <Button type="submit" className="!text-clay" disabled={!of || typed.trim() !== name}>
            Erase for good
          </Button>
        </div>
      </form>
    </Modal>
  );
}
