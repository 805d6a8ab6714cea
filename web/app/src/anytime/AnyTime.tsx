import type { Panel } from "../outline/SectionList";
import { GreetingPanel } from "./GreetingPanel";
import { MannersPanel } from "./MannersPanel";
import { OffersPanel } from "./OffersPanel";
import { PhrasesPanel } from "./PhrasesPanel";
import { SideTalkPanel } from "./SideTalkPanel";
import { TablesPanel } from "./TablesPanel";

/** What holds at any moment of the conversation, and what is kept with the dialogue. */
export function AnyTime({ panel, onGoTo }: { panel: Panel; onGoTo: (row: string) => void }) {
  return (
    <main aria-label={panel} className="min-w-0 grow overflow-auto border-r border-line bg-paper px-6 py-5">
      {panel === "side-talk" && <SideTalkPanel onGoTo={onGoTo} />}
      {panel === "offers" && <OffersPanel />}
      {panel === "greeting" && <GreetingPanel />}
      {panel === "phrases" && <PhrasesPanel />}
      {panel === "tables" && <TablesPanel />}
      {panel === "manners" && <MannersPanel />}
    </main>
  );
}
