import type { Schemas } from "../../../api";
import { Button, Labelled, Select, TextArea } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { PartsEditor } from "../outline/edit/PartsEditor";
import { useAutosave } from "../outline/edit/useAutosave";
import { freshId } from "../outline/make";

type SideTalk = Schemas["SideTalk"];

/** Things a prospect may say at any moment, and what we do. */
export function SideTalkPanel({ onGoTo }: { onGoTo: (row: string) => void }) {
  const { draft, change } = useShownDraft();
  const { dialogue } = draft;
  const { language } = dialogue;
  const {
    value,
    change: edit,
    flush,
  } = useAutosave<SideTalk[]>(dialogue.side_talk ?? [], (side_talk) =>
    change({ op: "set_any_time", side_talk, offers: dialogue.offers ?? [] }),
  );
  const set = (place: number, part: Partial<SideTalk>, now = false) =>
    edit(
      value.map((known, at) => (at === place ? { ...known, ...part } : known)),
      now,
    );
  const add = () =>
    edit(
      [
        ...value,
        {
          id: freshId(dialogue, "st"),
          phrases: { [language]: [] },
          matches: "part",
          does: { answer: [{ line: { text: { [language]: "We ask so that the right person can help you." } } }] },
        },
      ],
      true,
    );
  return (
    <div className="max-w-3xl" onBlur={flush}>
      <h2 className="font-serif text-lg font-semibold">Side-talk</h2>
      <p className="mb-3 text-sm text-soft">
        What a prospect may say at any moment. It is answered, and the open question is asked again; or it leads to a
        section. It is kept in the draft; a release waits for the version that runs it.
      </p>
      {value.length === 0 && <p className="mb-2">Nothing yet. The most common one: “why do you ask?”</p>}
      {value.map((talk, place) => (
        <section key={talk.id} className="border-t border-line py-3">
          <Labelled label="They say" hint="One phrase a line.">
            {(id) => (
              <TextArea
                id={id}
                className="font-serif"
                placeholder={"what do you want that for\nwhy do you need to know"}
                value={(talk.phrases[language] ?? []).join("\n")}
                onChange={(event) =>
                  set(place, { phrases: { ...talk.phrases, [language]: event.target.value.split("\n") } })
                }
                onBlur={() =>
                  set(place, {
                    phrases: {
                      ...talk.phrases,
                      [language]: (talk.phrases[language] ?? []).map((phrase) => phrase.trim()).filter(Boolean),
                    },
                  })
                }
              />
            )}
          </Labelled>
          <Labelled label="Heard when it is">
            {(id) => (
              <Select
                id={id}
                value={talk.matches ?? "whole"}
                onChange={(event) => set(place, { matches: event.target.value as SideTalk["matches"] }, true)}
              >
                <option value="whole">the whole reply</option>
                <option value="part">a part of the reply</option>
                <option value="words">all of its words, anywhere in the reply</option>
              </Select>
            )}
          </Labelled>
          <Labelled label="Then we">
            {(id) => (
              <Select
                id={id}
                value={"go_to" in talk.does ? talk.does.go_to : ""}
                onChange={(event) =>
                  set(
                    place,
                    {
                      does: event.target.value
                        ? { go_to: event.target.value }
                        : { answer: [{ line: { text: { [language]: "" } } }] },
                    },
                    true,
                  )
                }
              >
                <option value="">answer, and ask again</option>
                {dialogue.sections.map((section, at) => (
                  <option key={section.id} value={section.id}>
                    go to {at + 1} {section.title}
                  </option>
                ))}
              </Select>
            )}
          </Labelled>
          {"answer" in talk.does ? (
            <Labelled label="Answer">
              {() => (
                <PartsEditor
                  parts={"answer" in talk.does ? talk.does.answer : []}
                  onChange={(answer, now) => set(place, { does: { answer } }, now)}
                />
              )}
            </Labelled>
          ) : (
            <Button look="quiet" onClick={() => "go_to" in talk.does && onGoTo(`section:${talk.does.go_to}`)}>
              Show the section
            </Button>
          )}
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
      <Button onClick={add}>Add side-talk</Button>
    </div>
  );
}
