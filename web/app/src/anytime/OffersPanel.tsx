import type { Schemas } from "../../../api";
import { Button, Labelled, Select, TextInput } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { PartsEditor } from "../outline/edit/PartsEditor";
import { useAutosave } from "../outline/edit/useAutosave";
import { freshId } from "../outline/make";

type Offer = Schemas["Offer"];

/** Things shown now and then while the prospect asks questions. */
export function OffersPanel() {
  const { draft, change } = useShownDraft();
  const { dialogue } = draft;
  const { language } = dialogue;
  const {
    value,
    change: edit,
    flush,
  } = useAutosave<Offer[]>(dialogue.offers ?? [], (offers) =>
    change({ op: "set_any_time", side_talk: dialogue.side_talk ?? [], offers }),
  );
  const set = (place: number, part: Partial<Offer>, now = false) =>
    edit(
      value.map((known, at) => (at === place ? { ...known, ...part } : known)),
      now,
    );
  return (
    <div className="max-w-3xl" onBlur={flush}>
      <h2 className="font-serif text-lg font-semibold">Offers</h2>
      <p className="mb-3 text-sm text-soft">
        Shown while the prospect asks questions: every so many messages, in rotation, or because of what they ask about.
        Kept in the draft; a release waits for the version that runs them.
      </p>
      {value.length === 0 && (
        <p className="mb-2">Nothing yet. An offer is best something small: a price list, a visit.</p>
      )}
      {value.map((offer, place) => (
        <section key={offer.id} className="border-t border-line py-3">
          <Labelled label="Shown">
            {(id) => (
              <div className="flex flex-wrap items-center gap-2">
                <Select
                  id={id}
                  value={"every" in offer.when ? "every" : "about"}
                  onChange={(event) =>
                    set(place, { when: event.target.value === "every" ? { every: 3 } : { about: [] } }, true)
                  }
                >
                  <option value="every">every so many messages, in rotation</option>
                  <option value="about">when they ask about</option>
                </Select>
                {"every" in offer.when ? (
                  <TextInput
                    aria-label="Messages between"
                    type="number"
                    min={1}
                    max={50}
                    className="!w-20"
                    value={offer.when.every}
                    onChange={(event) =>
                      set(place, { when: { every: Math.min(50, Math.max(1, Number(event.target.value) || 1)) } })
                    }
                  />
                ) : (
                  <TextInput
                    aria-label="What they ask about"
                    placeholder="price, cost, quote"
                    className="!w-72"
                    defaultValue={offer.when.about.join(", ")}
                    onChange={(event) =>
                      set(place, {
                        when: {
                          about: event.target.value
                            .split(",")
                            .map((word) => word.trim())
                            .filter(Boolean),
                        },
                      })
                    }
                  />
                )}
              </div>
            )}
          </Labelled>
          <Labelled label="Says">
            {() => <PartsEditor parts={offer.say} onChange={(say, now) => set(place, { say }, now)} />}
          </Labelled>
          <Button
            look="quiet"
            className="-ml-1.5 !text-clay"
            onClick={() =>
              edit(
                value.filter((_, at) => at !== place),
                true,
              )
            }
          >
            Take out
          </Button>
        </section>
      ))}
      <Button
        onClick={() =>
          edit(
            [
              ...value,
              {
                id: freshId(dialogue, "of"),
                when: { every: 3 },
                say: [{ line: { text: { [language]: "Shall we send you the price list?" } } }],
              },
            ],
            true,
          )
        }
      >
        Add an offer
      </Button>
    </div>
  );
}
