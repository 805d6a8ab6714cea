import { Tabs } from "radix-ui";
import { useState } from "react";

import { Button, Select } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { savedWords } from "../dialogue/saved";
import { BottomLine } from "../frame/BottomLine";
import { firstComparison } from "../outline/edit/operators";
import { CardHead, NoCard } from "./CardHead";
import { CardTable } from "./CardTable";
import { FilePane } from "./FilePane";
import { PastPane } from "./PastPane";
import { SuggestPane } from "./SuggestPane";
import { TryPane } from "./TryPane";
import type { Card } from "./card";
import { keyOf, lines, newCard } from "./card";
import type { Counts } from "./useBench";
import { useBench } from "./useBench";
import { endWords } from "./words";
import { useCardCommands } from "./useCardCommands";

type Pane = "past" | "suggest" | "try" | "file";

const panes: [Pane, string][] = [
  ["past", "Past leads"],
  ["suggest", "Suggest"],
  ["try", "Try a lead"],
  ["file", "A file"],
];

/** The scorecard at the left, what it does to leads at the right. */
export function ScoringStage() {
  const { draft, dialogue, change, saving } = useShownDraft();
  const cards = draft.dialogue.scorecards ?? [];
  const usual = draft.dialogue.default_scorecard ?? null;
  const [shown, setShown] = useState<string | null>(null);
  const [look, setLook] = useState<Card | null>(null);
  const [picked, setPicked] = useState<string | null>(null);
  const [open, setOpen] = useState<string | null>(null);
  const [pane, setPane] = useState<Pane>("past");
  const [counts, setCounts] = useState<Counts>("won");
  const kept = cards.find((known) => known.id === shown) ?? cards.find((known) => known.id === usual) ?? cards[0];
  const card = look && look.id === kept?.id ? look : kept;
  const replaced = (next: Card) => cards.map((known) => (known.id === next.id ? next : known));
  const bench = useBench(dialogue, draft.revision, kept?.id, counts, card && card !== kept ? replaced(card) : null);

  const keep = (next: Card) => {
    setLook(null);
    if (JSON.stringify(next) !== JSON.stringify(kept))
      change({ op: "set_scorecards", scorecards: replaced(next), default: usual });
  };
  const add = () => {
    const made = newCard(draft.dialogue, cards.length === 0 ? "Fit" : `Scorecard ${cards.length + 1}`);
    change({
      op: "set_scorecards",
      scorecards: [...cards, made],
      default: usual ?? (cards.length > 0 ? cards[0]?.id : null),
    });
    setShown(made.id);
  };
  const actions = useCardCommands({
    card,
    picked,
    open,
    setPicked,
    setOpen,
    onChange: keep,
    onTry: () => setPane("try"),
  });

  if (!card || !kept) return <NoCard fit={draft.dialogue.brief?.fit ?? ""} onAdd={add} />;

  const said = new Map(lines(card).map((line) => [keyOf(line), line]));
  const names = (key: string) => {
    const line = said.get(key);
    const words = draft.words[key] ?? draft.words[key.split("#")[0] ?? ""] ?? key;
    if (line?.kind === "criterion") {
      const { label, gives } = line.criterion;
      if ("table" in gives) return words;
      if ("formula" in gives) return label ?? gives.formula;
      return label ?? words;
    }
    return words;
  };
  const holds = { compare: firstComparison(draft.dialogue, draft.dialogue.fields?.[0]?.key ?? "@page") };
  const count = (n: number, words: string) => `${words}${n === 1 ? "" : "s"}`;
  const criteria = (card.dimensions ?? []).flatMap((dimension) => dimension.criteria ?? []).length;
  const musts = card.must_haves?.length ?? 0;
  const outs = card.rule_outs?.length ?? 0;
  return (
    <>
      <div className="flex min-h-0 grow max-lg:flex-col max-lg:overflow-auto">
        <main
          aria-label="Scorecard"
          className="min-h-0 min-w-0 grow-[19] basis-0 overflow-auto bg-paper px-5 py-3 max-lg:flex-none max-lg:basis-auto"
        >
          <CardHead card={card} cards={cards} usual={usual} onShow={setShown} onAdd={add} onKeep={keep} />
          <CardTable
            card={card}
            bench={bench.data?.bench}
            faults={bench.data?.faults ?? {}}
            changes={bench.data?.changes}
            misled={bench.data?.misled ?? {}}
            picked={picked}
            open={open}
            onPick={setPicked}
            onOpen={setOpen}
            onChange={keep}
          />
          <div className="mt-2 -ml-1.5 flex flex-wrap gap-x-2">
            <Button look="quiet" onClick={() => actions.addCriterion(holds)}>
              + criterion
            </Button>
            <Button look="quiet" onClick={actions.addDimension}>
              + dimension
            </Button>
            <Button look="quiet" onClick={() => actions.addMust(holds)}>
              + must-have
            </Button>
            <Button look="quiet" onClick={() => actions.addOut(holds)}>
              + rule-out
            </Button>
          </div>
          {(bench.data?.changes?.gone?.length ?? 0) > 0 && (
            <p className="mt-3 text-xs text-soft">Gone since the release: {bench.data?.changes?.gone?.join("; ")}.</p>
          )}
        </main>
        <Tabs.Root
          value={pane}
          onValueChange={(next) => setPane(next as Pane)}
          className="flex min-h-0 min-w-0 grow-[13] basis-0 flex-col border-l border-line bg-oat max-lg:flex-none max-lg:basis-auto max-lg:border-t max-lg:border-l-0"
        >
          <div className="flex flex-wrap items-center gap-x-1 border-b border-line px-4 pt-1.5">
            <Tabs.List aria-label="What it does to leads" className="flex gap-1">
              {panes.map(([key, words]) => (
                <Tabs.Trigger
                  key={key}
                  value={key}
                  className="border-b-2 border-transparent px-2 pb-1.5 text-sm text-soft data-[state=active]:border-spruce data-[state=active]:font-semibold data-[state=active]:text-ink"
                >
                  {words}
                </Tabs.Trigger>
              ))}
            </Tabs.List>
            <Select
              aria-label="What counts as won"
              className="mb-1 ml-auto !py-0 !text-xs"
              value={counts}
              onChange={(event) => setCounts(event.target.value as Counts)}
            >
              <option value="won">counting won</option>
              <option value="accepted">counting accepted</option>
            </Select>
          </div>
          <Tabs.Content value={pane} className="min-h-0 grow overflow-auto px-5 py-3">
            {pane === "past" && (
              <PastPane
                card={card}
                names={names}
                view={bench.data}
                stale={bench.isPlaceholderData}
                looking={card !== kept}
                error={bench.error}
                onLook={setLook}
                onKeep={() => look && keep(look)}
                onChange={keep}
              />
            )}
            {pane === "suggest" && (
              <SuggestPane
                dialogue={dialogue}
                revision={draft.revision}
                card={kept}
                counts={counts}
                names={names}
                onChange={keep}
              />
            )}
            {pane === "try" && <TryPane dialogue={dialogue} revision={draft.revision} card={kept} />}
            {pane === "file" && <FilePane dialogue={dialogue} card={kept} />}
          </Tabs.Content>
        </Tabs.Root>
      </div>
      <BottomLine right={savedWords(saving, draft.changed_at)}>
        {draft.reach.score && (
          <span>
            points from <b>{endWords(draft.reach.score.low, "no least")}</b> to{" "}
            <b>{endWords(draft.reach.score.high, "no most")}</b>
          </span>
        )}
        <span>
          <b>{criteria}</b> {criteria === 1 ? "criterion" : "criteria"}, <b>{musts}</b> {count(musts, "must-have")},{" "}
          <b>{outs}</b> {count(outs, "rule-out")}
        </span>
        <span>J K lines · Enter open · + − points · A criterion · T try a lead · ? all</span>
      </BottomLine>
    </>
  );
}
