import { Tabs } from "radix-ui";

import { useShownDraft } from "../dialogue/DialogueScreen";
import { Checks } from "./Checks";
import { History } from "./History";
import { Rehearse } from "./Rehearse";

type Tab = "rehearse" | "checks" | "history";

const tab =
  "border-b-2 border-transparent py-2.5 text-sm text-soft data-[state=active]:border-ink data-[state=active]:font-semibold data-[state=active]:text-ink";

/** The dock at the right of the outline. */
export function Dock({
  tab: open,
  onTab,
  round,
  onGoTo,
}: {
  tab: Tab;
  onTab: (tab: Tab) => void;
  round: number;
  onGoTo: (row: string) => void;
}) {
  const { draft } = useShownDraft();
  return (
    <Tabs.Root asChild value={open} onValueChange={(value) => onTab(value as Tab)}>
      <aside
        aria-label="Dock"
        className="flex w-[372px] shrink-0 flex-col max-lg:h-[70vh] max-lg:w-full max-lg:border-t max-lg:border-line"
      >
        <Tabs.List aria-label="Dock" className="flex gap-5 border-b border-line px-4">
          <Tabs.Trigger value="rehearse" className={tab}>
            Rehearse
          </Tabs.Trigger>
          <Tabs.Trigger value="checks" className={tab}>
            Checks{draft.findings.length > 0 && ` ${draft.findings.length}`}
          </Tabs.Trigger>
          <Tabs.Trigger value="history" className={tab}>
            History
          </Tabs.Trigger>
        </Tabs.List>
        <Tabs.Content value="rehearse" className="flex min-h-0 grow flex-col">
          <Rehearse key={round} focus={round > 0} onGoTo={onGoTo} />
        </Tabs.Content>
        <Tabs.Content value="checks" className="min-h-0 grow overflow-auto">
          <Checks onGoTo={onGoTo} />
        </Tabs.Content>
        <Tabs.Content value="history" className="min-h-0 grow overflow-auto">
          <History />
        </Tabs.Content>
      </aside>
    </Tabs.Root>
  );
}
