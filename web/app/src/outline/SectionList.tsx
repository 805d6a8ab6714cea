import { clsx } from "clsx";

import { Button } from "../../../kit/ui";
import type { DraftView } from "../dialogue/useDraft";

/** What the middle of the outline stage shows beside the outline. */
export type Panel = "outline" | "side-talk" | "offers" | "greeting" | "phrases" | "tables" | "manners";

const entry = "flex w-full items-baseline gap-2 rounded-md border px-2 py-1 text-left";
const plain = "border-transparent hover:bg-hair";
const here = "border-line bg-paper font-semibold";

/** Sections at the left, with how many turns each has and what the checks found in it; below them what holds any time. */
export function SectionList({
  draft,
  current,
  panel,
  onPanel,
  onPick,
  onAdd,
}: {
  draft: DraftView;
  current: string | undefined;
  panel: Panel;
  onPanel: (panel: Panel) => void;
  onPick: (id: string) => void;
  onAdd: () => void;
}) {
  const { dialogue } = draft;
  const others: { title: string; entries: [Panel, string, number | null][] }[] = [
    {
      title: "Any time",
      entries: [
        ["side-talk", "Side-talk", dialogue.side_talk?.length ?? 0],
        ["offers", "Offers", dialogue.offers?.length ?? 0],
      ],
    },
    {
      title: "Kept with it",
      entries: [
        ["greeting", "Greeting", null],
        ["tables", "Tables", dialogue.tables?.length ?? 0],
        ["phrases", "Phrases", Object.keys(dialogue.phrases ?? {}).length],
        ["manners", "Pace and limits", null],
      ],
    },
  ];
  return (
    <nav aria-label="Sections" className="w-42 shrink-0 overflow-auto border-r border-line px-2 py-3 max-lg:hidden">
      <h2 className="mb-1.5 px-2 text-xs font-medium text-soft">Sections</h2>
      <ul>
        {dialogue.sections.map((section, place) => {
          const found = draft.findings.filter(
            (finding) => finding.at === section.id || finding.at.startsWith(`${section.id}/`),
          ).length;
          const turns = draft.rows.filter((row) => row.kind === "turn" && row.section === section.id).length;
          const is = panel === "outline" && section.id === current;
          return (
            <li key={section.id}>
              <button
                type="button"
                aria-current={is}
                onClick={() => onPick(section.id)}
                className={clsx(entry, is ? here : plain)}
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
      {others.map(({ title, entries }) => (
        <div key={title}>
          <h2 className="mt-5 mb-1.5 px-2 text-xs font-medium text-soft">{title}</h2>
          <ul>
            {entries.map(([key, label, count]) => (
              <li key={key}>
                <button
                  type="button"
                  aria-current={panel === key}
                  onClick={() => onPanel(key)}
                  className={clsx(entry, panel === key ? here : plain)}
                >
                  <span className="grow">{label}</span>
                  {count !== null && <span className="text-xs font-normal text-soft figures">{count}</span>}
                </button>
              </li>
            ))}
          </ul>
        </div>
      ))}
    </nav>
  );
}
