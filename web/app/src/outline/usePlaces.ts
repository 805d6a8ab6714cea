/** Lets find-or-do go to every turn and section, and to where each field is used. */
import { useEffect } from "react";

import type { DraftView } from "../dialogue/useDraft";
import { places } from "../frame/places";
import { rowKey } from "./folding";
import type { index } from "./names";
import { summary } from "./names";

export function usePlaces(
  { rows, dialogue }: DraftView,
  found: ReturnType<typeof index>,
  goTo: (row: string) => void,
  showUses: (field: string) => void,
) {
  useEffect(() => {
    const turns = rows
      .filter((row) => row.kind === "turn" || row.kind === "section")
      .map((row) => {
        const turn = found.turns.get(row.id);
        const section = dialogue.sections.find((one) => one.id === row.id);
        return {
          key: rowKey(row),
          label: turn ? summary(dialogue, turn) : (section?.title ?? row.id),
          what: turn ? "row" : "section",
          go: () => goTo(rowKey(row)),
        };
      });
    const fields = (dialogue.fields ?? []).map((field) => ({
      key: `field:${field.id}`,
      label: `Where ${field.label} is used`,
      what: "field",
      go: () => showUses(field.key),
    }));
    places.set(() => [...turns, ...fields]);
    return () => places.set(() => []);
  }, [rows, found, dialogue, goTo, showUses]);
}
