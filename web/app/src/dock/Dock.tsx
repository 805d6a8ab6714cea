import { Tabs } from "radix-ui";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { Checks } from "./Checks";
import { Comments } from "./Comments";
import { History } from "./History";
import { Rehearse } from "./Rehearse";
import { Uses } from "./Uses";

export type DockTab = "rehearse" | "checks" | "uses" | "comments" | "history";

const tab =
  "border-b-2 border-transparent py-2.5 text-sm text-soft data-[state=active]:border-ink data-[state=active]:font-semibold data-[state=active]:text-ink";

/** The dock at the right of the outline. */
export function Dock({
  tab: open,
  onTab,
  uses,
  openComments,
  onGoTo,
  onWay,
}: {
  tab: DockTab;
  onTab: (tab: DockTab) => void;
  /** Key of the field whose uses were asked for. */
  uses: string | null;
  openComments: number;
  onGoTo: (row: string) => void;
  onWay: (way: Schemas["Witness"]) => void;
}) {
  const { draft } = useShownDraft();
  const [field, setField] = useState<{ asked: string | null; shown: string | null }>({ asked: null, shown: null });
  if (field.asked !== uses) setField({ asked: uses, shown: uses });
  const tabs: [DockTab, string][] = [
    ["rehearse", "Rehearse"],
    ["checks", `Checks${draft.findings.length > 0 ? ` ${draft.findings.length}` : ""}`],
    ["uses", "Uses"],
    ["comments", `Comments${openComments > 0 ? ` ${openComments}` : ""}`],
    ["history", "History"],
  ];
  const page = "min-h-0 grow overflow-auto";
  return (
    <Tabs.Root asChild value={open} onValueChange={(value) => onTab(value as DockTab)}>
      <aside
        aria-label="Dock"
        className="flex w-[372px] shrink-0 flex-col max-lg:h-[70vh] max-lg:w-full max-lg:border-t max-lg:border-line"
      >
        <Tabs.List aria-label="Dock" className="flex gap-4 border-b border-line px-4">
          {tabs.map(([key, label]) => (
            <Tabs.Trigger key={key} value={key} className={tab}>
              {label}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value="rehearse" className="flex min-h-0 grow flex-col data-[state=inactive]:hidden">
          <Rehearse onGoTo={onGoTo} />
        </Tabs.Content>
        <Tabs.Content value="checks" className={page}>
          <Checks onGoTo={onGoTo} onWay={onWay} />
        </Tabs.Content>
        <Tabs.Content value="uses" className={page}>
          <Uses field={field.shown} onField={(shown) => setField({ asked: uses, shown })} onGoTo={onGoTo} />
        </Tabs.Content>
        <Tabs.Content value="comments" className={page}>
          <Comments onGoTo={onGoTo} />
        </Tabs.Content>
        <Tabs.Content value="history" className={page}>
          <History />
        </Tabs.Content>
      </aside>
    </Tabs.Root>
  );
}
