import { Dialog } from "radix-ui";
import { useState } from "react";

import { Modal } from "../../../kit/Modal";
import { Button } from "../../../kit/ui";
import { mine, theirs } from "./collide";
import type { Collision, Edit } from "./useDraft";

/** Both versions of what two authors changed at once, side by side; the author picks for each. */
export function CollisionDialog({
  collision,
  onResolve,
}: {
  collision: Collision;
  onResolve: (picked: Edit[]) => void;
}) {
  const [keepMine, setKeepMine] = useState<Set<number>>(() => new Set());
  const clashes = collision.edits.map((entry, place) => ({ ...entry, place })).filter(({ free }) => !free);
  const set = (place: number, wanted: boolean) =>
    setKeepMine((known) => {
      const next = new Set(known);
      if (wanted) next.add(place);
      else next.delete(place);
      return next;
    });
  const { dialogue } = collision.draft;
  return (
    <Modal open onOpenChange={() => undefined} className="w-[46rem] p-5">
      <Dialog.Title className="font-serif text-lg">
        {collision.people.join(" and ") || "Somebody"} changed the same {clashes.length === 1 ? "row" : "rows"}
      </Dialog.Title>
      <p className="mt-1 text-sm text-soft">Pick one of the two for each. Nothing is saved until you do.</p>
      <table className="mt-3 w-full border-collapse text-sm">
        <thead>
          <tr className="border-b border-line text-left text-xs text-soft [&_th]:pb-1 [&_th]:font-normal">
            <th className="w-1/2">Theirs, as it is now</th>
            <th>Yours, not saved yet</th>
          </tr>
        </thead>
        <tbody>
          {clashes.map(({ edit, place }) => (
            <tr key={place} className="border-b border-line align-top [&_td]:py-2 [&_td]:pr-3">
              <td>
                <Version
                  place={place}
                  words={theirs(dialogue, edit)}
                  picked={!keepMine.has(place)}
                  onPick={() => set(place, false)}
                />
              </td>
              <td>
                <Version
                  place={place}
                  words={mine(dialogue, edit)}
                  picked={keepMine.has(place)}
                  onPick={() => set(place, true)}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-4 flex gap-2">
        <Button
          look="primary"
          onClick={() =>
            onResolve(collision.edits.filter(({ free }, place) => free || keepMine.has(place)).map(({ edit }) => edit))
          }
        >
          Keep what I picked
        </Button>
        <Button onClick={() => setKeepMine(new Set(clashes.map(({ place }) => place)))}>Pick all of mine</Button>
        <Button onClick={() => setKeepMine(new Set())}>Pick all of theirs</Button>
      </div>
    </Modal>
  );
}

function Version({
  place,
  words,
  picked,
  onPick,
}: {
  place: number;
  words: string;
  picked: boolean;
  onPick: () => void;
}) {
  return (
    <label className="flex gap-2">
      <input
        type="radio"
        className="mt-0.5 size-5 shrink-0"
        name={`pick-${place}`}
        checked={picked}
        onChange={onPick}
      />
      <span className="font-serif">{words}</span>
    </label>
  );
}
