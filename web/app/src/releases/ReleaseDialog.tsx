import { Dialog } from "radix-ui";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { RequestFailed, ask, client } from "../../../api";
import { Modal } from "../../../kit/Modal";
import { Button, TextArea } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { draftQuery, queries, releasesQuery } from "../lib/query";

/** Freezes the draft and puts it on air, with a note. */
export function ReleaseDialog({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const { draft, dialogue, saving } = useShownDraft();
  const [note, setNote] = useState("");
  const [says, setSays] = useState("");
  const [findings, setFindings] = useState<Schemas["Finding"][]>([]);
  const [made, setMade] = useState<number | null>(null);
  const blocking = [...draft.findings.filter((finding) => finding.severity === "error"), ...findings];

  const release = async () => {
    setSays("");
    setFindings([]);
    try {
      const { number } = await ask(
        client.POST("/api/dialogues/{dialogue}/releases", {
          params: { path: { dialogue } },
          body: { revision: draft.revision, note },
        }),
      );
      setMade(number);
      setNote("");
      await Promise.all([
        queries.invalidateQueries({ queryKey: releasesQuery(dialogue).queryKey }),
        queries.refetchQueries({ queryKey: draftQuery(dialogue).queryKey }),
      ]);
    } catch (error) {
      if (!(error instanceof RequestFailed)) throw error;
      setSays(error.message);
      setFindings(error.problem?.findings ?? []);
    }
  };
  const close = (next: boolean) => {
    onOpenChange(next);
    if (!next) {
      setMade(null);
      setSays("");
      setFindings([]);
    }
  };
  const next = (draft.newest_release ?? 0) + 1;
  return (
    <Modal open={open} onOpenChange={close} className="w-[32rem] p-5">
      {made === null ? (
        <>
          <Dialog.Title className="font-serif text-lg">Release {next}</Dialog.Title>
          <p className="mt-1 text-sm text-soft">New conversations get it at once. Those under way stay on theirs.</p>
          {blocking.length > 0 && (
            <ul className="mt-3 space-y-2">
              {blocking.map((finding) => (
                <li key={finding.at + finding.says} className="border-l-2 border-clay pl-2 text-sm">
                  {finding.says}
                  {finding.mend && <span className="block text-soft">{finding.mend}</span>}
                </li>
              ))}
            </ul>
          )}
          <form
            className="mt-3"
            onSubmit={(event) => {
              event.preventDefault();
              void release();
            }}
          >
            <label className="text-xs text-soft" htmlFor="note">
              What changed
            </label>
            <TextArea
              id="note"
              autoFocus
              value={note}
              maxLength={500}
              onChange={(event) => setNote(event.target.value)}
            />
            <p role="alert" className="min-h-5 pt-1 text-sm text-clay">
              {says}
            </p>
            <div className="flex gap-2">
              <Button look="primary" type="submit" disabled={!note.trim() || saving !== "saved"}>
                Release
              </Button>
              <Dialog.Close asChild>
                <Button>Not now</Button>
              </Dialog.Close>
            </div>
          </form>
        </>
      ) : (
        <>
          <Dialog.Title className="font-serif text-lg">Release {made} is on air</Dialog.Title>
          <p className="mt-2">
            <a className="text-spruce underline" href={`/p/${draft.slug}`} target="_blank" rel="noreferrer">
              Open the prospect’s page
            </a>
          </p>
          <Dialog.Close asChild>
            <Button className="mt-4">Close</Button>
          </Dialog.Close>
        </>
      )}
    </Modal>
  );
}
