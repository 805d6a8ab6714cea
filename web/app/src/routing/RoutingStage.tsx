import { useQuery } from "@tanstack/react-query";
import { Tabs } from "radix-ui";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { Notice } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { savedWords } from "../dialogue/saved";
import { BottomLine } from "../frame/BottomLine";
import { useCommands } from "../frame/useCommands";
import { routingQuery } from "../lib/query";
import { firstComparison } from "../outline/edit/operators";
import { AgainPane, useAgain } from "./AgainPane";
import { NoLeads } from "./NoLeads";
import { QueuePanel } from "./QueuePanel";
import { RuleTable } from "./RuleTable";
import { TerritoryPanel } from "./TerritoryPanel";
import { TryPane } from "./TryPane";
import type { Routing } from "./rules";
import { addedRule, freshRule, movedRule, rulesOf, withoutRule } from "./rules";

type Pane = "try" | "again";

/** Rules and queues at the left, a tried lead and past leads given out again at the right. */
export function RoutingStage() {
  const { draft, dialogue, change, undo, redo, release, saving } = useShownDraft();
  const settings = useQuery(routingQuery);
  const [picked, setPicked] = useState<string | null>(null);
  const [open, setOpen] = useState<string | null>(null);
  const [made, setMade] = useState<string | null>(null);
  const [queue, setQueue] = useState<string | null>(null);
  const [table, setTable] = useState<string | null>(null);
  const [pane, setPane] = useState<Pane>("try");
  const [days, setDays] = useState(30);
  const again = useAgain(dialogue, draft.revision, days);
  const routing: Routing = draft.dialogue.routing ?? {};
  const rules = rulesOf(routing);
  const keep = (next: Routing) => change({ op: "set_routing", routing: next });
  const order = [...rules.map((rule) => rule.id), "@otherwise"];
  const at = picked ? order.indexOf(picked) : -1;
  const pick = (place: number) => setPicked(order[Math.min(Math.max(place, 0), order.length - 1)] ?? null);
  const queues: Schemas["QueueSetting"][] = settings.data?.queues ?? [];
  const add = () => {
    const id = freshRule(draft.dialogue);
    const what = draft.dialogue.fields?.[0]?.key ?? "@band";
    const holds = { compare: firstComparison(draft.dialogue, what) };
    keep(addedRule(routing, { id, holds, queue: queues[0]?.key ?? "" }, picked));
    setPicked(id);
    setMade(id);
    setOpen(id);
  };
  const rule = rules.find((known) => known.id === picked);
  useCommands("routing", {
    "next-row": () => pick(at + 1),
    "previous-row": () => pick(at < 0 ? 0 : at - 1),
    "open-row": () => picked && setOpen(open === picked ? null : picked),
    "close-row": () => setOpen(null),
    "add-rule": add,
    "move-up": () => rule && keep(movedRule(routing, rule.id, -1)),
    "move-down": () => rule && keep(movedRule(routing, rule.id, 1)),
    remove: () => {
      if (!rule) return;
      keep(withoutRule(routing, rule.id));
      setOpen(null);
    },
    "try-lead": () => setPane("try"),
    "past-leads": () => setPane("again"),
    undo,
    redo,
    release,
  });
  const shown = queues.find((known) => known.key === queue) ?? queues.find((known) => known.key === routing.otherwise);
  return (
    <>
      <div className="flex min-h-0 grow max-lg:flex-col max-lg:overflow-auto">
        <main
          aria-label="Routing"
          className="min-h-0 min-w-0 grow-[19] basis-0 overflow-auto bg-paper px-5 py-3 max-lg:flex-none max-lg:basis-auto"
        >
          {settings.error && <Notice tone="wrong">{settings.error.message}</Notice>}
          <RuleTable
            routing={routing}
            queues={queues}
            tables={settings.data?.territories ?? []}
            again={again.data}
            picked={picked}
            open={open}
            made={made}
            onPick={setPicked}
            onOpen={setOpen}
            onQueue={setQueue}
            onTable={setTable}
            onAdd={add}
            onChange={keep}
          />
          <NoLeads queues={queues} />
          {settings.data && (
            <QueuePanel
              key={queue === "@new" ? "@new" : (shown?.key ?? "none")}
              settings={settings.data}
              shown={queue === "@new" ? null : (shown ?? null)}
              onShow={setQueue}
            />
          )}
          {settings.data && <TerritoryPanel settings={settings.data} picked={table} onPick={setTable} />}
        </main>
        <Tabs.Root
          value={pane}
          onValueChange={(next) => setPane(next as Pane)}
          className="flex min-h-0 min-w-0 grow-[13] basis-0 flex-col border-l border-line bg-oat max-lg:flex-none max-lg:basis-auto max-lg:border-t max-lg:border-l-0"
        >
          <Tabs.List aria-label="What it does to leads" className="flex gap-1 border-b border-line px-4 pt-1.5">
            {(
              [
                ["try", "Try a lead"],
                ["again", "Past leads again"],
              ] as [Pane, string][]
            ).map(([key, words]) => (
              <Tabs.Trigger
                key={key}
                value={key}
                className="border-b-2 border-transparent px-2 pb-1.5 text-sm text-soft data-[state=active]:border-spruce data-[state=active]:font-semibold data-[state=active]:text-ink"
              >
                {words}
              </Tabs.Trigger>
            ))}
          </Tabs.List>
          <Tabs.Content value={pane} className="min-h-0 grow overflow-auto px-5 py-3">
            {pane === "try" ? (
              <TryPane dialogue={dialogue} revision={draft.revision} />
            ) : (
              <AgainPane
                view={again.data}
                error={again.error}
                days={days}
                onDays={setDays}
                stale={again.isPlaceholderData}
              />
            )}
          </Tabs.Content>
        </Tabs.Root>
      </div>
      <BottomLine right={savedWords(saving, draft.changed_at)}>
        <span>
          <b>{rules.length}</b> rule{rules.length === 1 ? "" : "s"}
        </span>
        <span>
          <b>{queues.length}</b> queue{queues.length === 1 ? "" : "s"}
        </span>
        <span>J K rules · Enter open · A rule · Alt ↑ ↓ move · T try a lead · P past leads · ? all</span>
      </BottomLine>
    </>
  );
}
