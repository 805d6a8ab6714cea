import { Button, Select, TextInput } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import type { Card } from "./card";

/** Which scorecard is shown, its name, and whether it is the usual one. */
export function CardHead({
  card,
  cards,
  usual,
  onShow,
  onAdd,
  onKeep,
}: {
  card: Card;
  cards: Card[];
  usual: string | null;
  onShow: (id: string) => void;
  onAdd: () => void;
  onKeep: (card: Card) => void;
}) {
  const { change } = useShownDraft();
  const isUsual = usual === card.id || (usual === null && cards.length === 1);
  return (
    <div className="mb-3 -ml-1 flex flex-wrap items-center gap-x-3 gap-y-1">
      <TextInput
        aria-label="Name of the scorecard"
        maxLength={60}
        key={`${card.id} ${card.title}`}
        className="field-sizing-content !w-auto min-w-20 !border-transparent !bg-transparent !px-1 font-serif !text-base font-semibold hover:!border-line focus:!border-line"
        defaultValue={card.title}
        onBlur={(event) => {
          const title = event.target.value.trim();
          if (title && title !== card.title) onKeep({ ...card, title });
        }}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
      />
      {cards.length > 1 && (
        <>
          <Select aria-label="Scorecard" value={card.id} onChange={(event) => onShow(event.target.value)}>
            {cards.map((known) => (
              <option key={known.id} value={known.id}>
                {known.title}
              </option>
            ))}
          </Select>
          {isUsual ? (
            <span className="text-xs text-soft">used where File lead names none</span>
          ) : (
            <Button look="quiet" onClick={() => change({ op: "set_scorecards", scorecards: cards, default: card.id })}>
              Use where File lead names none
            </Button>
          )}
          <Button
            look="quiet"
            className="!text-clay"
            onClick={() => {
              const left = cards.filter((known) => known.id !== card.id);
              change({
                op: "set_scorecards",
                scorecards: left,
                default: isUsual ? (left.length > 1 ? left[0]?.id : null) : usual,
              });
            }}
          >
            Take out
          </Button>
        </>
      )}
      <Button look="quiet" onClick={onAdd}>
        + scorecard
      </Button>
    </div>
  );
}

/** What to do where there is no scorecard yet. */
export function NoCard({ fit, onAdd }: { fit: string; onAdd: () => void }) {
  return (
    <main aria-label="Scorecard" className="min-h-0 grow overflow-auto bg-paper px-6 py-8">
      <h2 className="font-serif text-lg font-semibold">No scorecard yet</h2>
      <p className="mt-1 max-w-xl">
        A scorecard says what makes a good lead: points for answers, what a lead must have, what rules it out, and bands
        from the worst to the best.
      </p>
      {fit && (
        <p className="mt-3 max-w-xl border-l-2 border-line pl-3 text-sm text-soft">
          Your brief says who is a fit: <span className="font-serif text-ink">{fit}</span>
        </p>
      )}
      <Button look="primary" className="mt-4" onClick={onAdd}>
        Make a scorecard
      </Button>
    </main>
  );
}
