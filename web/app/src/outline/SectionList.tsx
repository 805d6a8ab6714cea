import { clsx } from "clsx";

import { Button } from "../../../kit/ui";
import type { DraftView } from "../dialogue/useDraft";

/** Sections at the left, with how many turns each has and what the checks found in it. */
export function SectionList({
  draft,
  current,
  onPick,
  onAdd,
}: {
  draft: DraftView;
  current: string | undefined;
  onPick: (id: string) => void;
  onAdd: () => void;
}) {
  return (
    <nav aria-label="Sections" className="w-42 shrink-0 overflow-auto border-r border-line px-2 py-3 max-lg:hidden">
      <h2 className="mb-1.5 px-2 text-xs font-medium text-soft">Sections</h2>
      <ul>
        {draft.dialogue.sections.map((section, place) => {
          const found = draft.findings.filter(
            (finding) => finding.at === section.id || finding.at.startsWith(`${section.id}/`),
          ).length;
          const turns = draft.rows.filter((row) => row.kind === "turn" && row.section === section.id).length;
          return (
            <li key={section.id}>
              <button
                type="button"
                aria-current={section.id === current}
                onClick={() => onPick(section.id)}
                className={clsx(
                  "flex w-full items-baseline gap-2 rounded-md border px-2 py-1 text-left",
                  section.id === current ? "border-line bg-paper font-semibold" : "border-transparent hover:bg-hair",
                )}
              >
                <span className="w-4 text-xs text-soft figures">{place + 1}</span>
                <span className="min-w-0 grow truncate">{section.title}</span>
                {found > 0 ? (
                  <span className="text-xs font-semibold whitespace-nowrap text-amber">
                    {found} check{found === 1 ? "" : "s"}
                  </span>
                ) : (
                  <span className="text-xs font-normal text-soft figures">{turns}</span>
                )}
              </button>
            </li>
          );
        })}
      </ul>
      <Button look="quiet" className="mt-1 !text-xs" onClick={onAdd}>
        Add a section
      </Button>
    </nav>
  );
}
