import { Button, Labelled, Select } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { ConditionEditor } from "../outline/edit/ConditionEditor";
import type { Brief, Fit } from "./fit";
import { freshId, scored, unscored } from "./fit";

/** Who is a fit, and who is none, as conditions: they become the first criteria and rule-outs. */
export function FitConditions({ brief, onChange }: { brief: Brief; onChange: (brief: Brief) => void }) {
  const { draft, change } = useShownDraft();
  const { dialogue } = draft;
  const fits = brief.fits ?? [];
  const keep = (next: Fit[]) => onChange({ ...brief, fits: next });
  const missing = unscored(dialogue);
  const add = () => {
    const what = dialogue.fields?.[0]?.key;
    if (!what) return;
    keep([
      ...fits,
      {
        id: freshId(
          "fit",
          fits.map((fit) => fit.id),
        ),
        holds: { compare: { what, is: "is_known" } },
      },
    ]);
  };
  return (
    <Labelled label="As conditions" hint="They become the first criteria, ten points each, and the rule-outs.">
      {() => (
        <>
          {fits.map((fit) => (
            <div key={fit.id} className="mb-2 flex items-start gap-2 border-b border-hair pb-2">
              <Select
                aria-label="What it says of them"
                value={fit.out ? "out" : "fit"}
                onChange={(event) =>
                  keep(
                    fits.map((known) =>
                      known.id === fit.id ? { id: fit.id, holds: fit.holds, out: event.target.value === "out" } : known,
                    ),
                  )
                }
              >
                <option value="fit">a fit where</option>
                <option value="out">no fit where</option>
              </Select>
              <div className="min-w-0 grow [&>div]:mt-0">
                <ConditionEditor
                  condition={fit.holds}
                  onChange={(holds) => keep(fits.map((known) => (known.id === fit.id ? { ...known, holds } : known)))}
                />
              </div>
              <Button
                look="quiet"
                aria-label="Take out this condition"
                onClick={() => keep(fits.filter((known) => known.id !== fit.id))}
              >
                ×
              </Button>
            </div>
          ))}
          <div className="flex flex-wrap items-center gap-2">
            <Button look="quiet" className="-ml-1.5" disabled={(dialogue.fields ?? []).length === 0} onClick={add}>
              Add a condition
            </Button>
            {missing.length > 0 && (
              <Button
                onClick={() =>
                  change({
                    op: "set_scorecards",
                    scorecards: scored(dialogue),
                    default: dialogue.default_scorecard ?? null,
                  })
                }
              >
                Put {missing.length === 1 ? "it" : `these ${missing.length}`} into the scorecard
              </Button>
            )}
          </div>
        </>
      )}
    </Labelled>
  );
}
