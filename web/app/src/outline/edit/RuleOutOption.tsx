import { Labelled, TextInput } from "../../../../kit/ui";
import { useShownDraft } from "../../dialogue/DialogueScreen";
import type { Card } from "../../scoring/card";
import { changeOut, freshPart, newCard, withRuleOut } from "../../scoring/card";
import { usualCard, words } from "../names";

const condition = (field: string, options: string[]) =>
  options.length === 1
    ? { compare: { what: field, is: "is" as const, to: options[0] ?? "" } }
    : { compare: { what: field, is: "is_one_of" as const, to: options } };

/** Whether an answer rules out, said where the answer is: the rule stands in the scorecard. */
export function RuleOutOption({ field, options }: { field: string; options: string[] }) {
  const { draft, change } = useShownDraft();
  const { dialogue } = draft;
  const card = usualCard(dialogue);
  const holds = condition(field, options);
  const rule = card?.rule_outs?.find((known) => JSON.stringify(known.holds) === JSON.stringify(holds));
  const keep = (next: Card) => {
    const cards = dialogue.scorecards ?? [];
    change({
      op: "set_scorecards",
      scorecards: card ? cards.map((known) => (known.id === next.id ? next : known)) : [next],
      default: dialogue.default_scorecard ?? null,
    });
  };
  const set = (out: boolean) => {
    const known = card ?? newCard(dialogue, "Fit");
    const others = { ...known, rule_outs: (known.rule_outs ?? []).filter((one) => one.id !== rule?.id) };
    keep(out ? withRuleOut(others, dialogue, freshPart(dialogue, "o"), holds) : others);
  };
  return (
    <Labelled label="Rules out">
      {(id) => (
        <span className="flex flex-wrap items-center gap-2">
          <input
            id={id}
            type="checkbox"
            className="size-6"
            checked={rule !== undefined}
            onChange={(event) => set(event.target.checked)}
          />
          {rule && card ? (
            <>
              <span className="text-sm text-soft">because</span>
              <TextInput
                aria-label="Why it rules out"
                className="!w-72"
                maxLength={200}
                value={words(rule.reason, dialogue.language)}
                onChange={(event) =>
                  keep(
                    changeOut(card, {
                      ...rule,
                      reason: { ...rule.reason, [dialogue.language]: event.target.value },
                    }),
                  )
                }
              />
            </>
          ) : (
            <span className="text-sm text-soft">whoever answers so is no lead for a rep</span>
          )}
        </span>
      )}
    </Labelled>
  );
}
