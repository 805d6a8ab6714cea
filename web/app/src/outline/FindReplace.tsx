import { useQuery } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";

import { ask, client } from "../../../api";
import { Modal } from "../../../kit/Modal";
import { Button, TextInput } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { Words } from "./Words";

/** Find and replace over everything that a prospect reads and authors name, with a preview of every place. */
export function FindReplace({ onClose, onGoTo }: { onClose: () => void; onGoTo: (row: string) => void }) {
  const { dialogue, draft, make } = useShownDraft();
  const [find, setFind] = useState("");
  const [with_, setWith] = useState("");
  const [matchCase, setMatchCase] = useState(false);
  const [wholeWords, setWholeWords] = useState(false);
  const [left, setLeft] = useState<Set<number>>(() => new Set());
  const search = { find, match_case: matchCase, whole_words: wholeWords };
  const { data } = useQuery({
    queryKey: ["find", dialogue, draft.revision, search, with_],
    queryFn: () =>
      ask(
        client.POST("/api/dialogues/{dialogue}/find", {
          params: { path: { dialogue } },
          body: { search, with: with_ },
        }),
      ),
    enabled: find !== "",
    placeholderData: (known) => known,
  });
  const found = find === "" ? [] : (data ?? []);
  const only = found.map((_, place) => place).filter((place) => !left.has(place));
  const replace = () => {
    make({ gesture: "replace", search, with: with_, ...(left.size > 0 ? { only } : {}) });
    onClose();
  };
  const change = <T,>(set: (value: T) => void) => {
    return (value: T) => {
      set(value);
      setLeft(new Set());
    };
  };
  return (
    <Modal open onOpenChange={(open) => !open && onClose()} className="w-[46rem] p-5">
      <Dialog.Title className="font-serif text-lg">Find and replace</Dialog.Title>
      <form
        className="mt-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (only.length > 0) replace();
        }}
      >
        <div className="flex gap-2">
          <TextInput
            aria-label="Find"
            placeholder="Find"
            autoFocus
            className="font-serif"
            value={find}
            maxLength={200}
            onChange={(event) => change(setFind)(event.target.value)}
          />
          <TextInput
            aria-label="Replace with"
            placeholder="Replace with"
            className="font-serif"
            value={with_}
            maxLength={2000}
            onChange={(event) => setWith(event.target.value)}
          />
        </div>
        <div className="mt-2 flex items-center gap-5 text-sm">
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="size-5"
              checked={matchCase}
              onChange={(event) => change(setMatchCase)(event.target.checked)}
            />
            capitals as written
          </label>
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="size-5"
              checked={wholeWords}
              onChange={(event) => change(setWholeWords)(event.target.checked)}
            />
            whole words
          </label>
          <span className="ml-auto text-soft" role="status">
            {find === "" ? "" : found.length === 0 ? "found nowhere" : `${only.length} of ${found.length} places`}
          </span>
          <Button look="primary" type="submit" disabled={only.length === 0}>
            Replace
          </Button>
        </div>
      </form>
      <ul className="mt-3 max-h-96 overflow-auto">
        {found.map((place, at) => (
          // oxlint-disable-next-line react/no-array-index-key -- places are numbered in this order
          <li key={at} className="flex items-start gap-2.5 border-t border-hair py-2">
            <input
              type="checkbox"
              aria-label={`Replace in ${place.place}`}
              className="mt-0.5 size-5 shrink-0"
              checked={!left.has(at)}
              onChange={(event) => {
                const next = new Set(left);
                if (event.target.checked) next.delete(at);
                else next.add(at);
                setLeft(next);
              }}
            />
            <div className="min-w-0 grow">
              <p className="text-xs text-soft">{place.place}</p>
              <p className="text-clay">
                <Words dialogue={draft.dialogue} text={place.before} />
              </p>
              {place.after !== place.before && (
                <p className="text-spruce">
                  <Words dialogue={draft.dialogue} text={place.after} />
                </p>
              )}
            </div>
            {/^(turn|arm|section):/.test(place.at) && (
              <Button
                look="quiet"
                onClick={() => {
                  onClose();
                  onGoTo(place.at);
                }}
              >
                Go there
              </Button>
            )}
          </li>
        ))}
      </ul>
    </Modal>
  );
}
