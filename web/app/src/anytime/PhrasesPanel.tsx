import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { Button, TextInput } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { phrasesQuery } from "../lib/query";
import { useAutosave } from "../outline/edit/useAutosave";
import { words } from "../outline/names";

const languages: Record<string, string> = {
  en: "English",
  de: "German",
  fr: "French",
  es: "Spanish",
  nl: "Dutch",
  pl: "Polish",
};

const groups: [prefix: string, title: string, says: string][] = [
  ["type.", "When a reply cannot be read", "By what is asked. {heard} is what was understood."],
  ["rule.", "When a rule refuses it", "{heard}, {min} and {max} are filled in."],
  ["", "In the conversation", ""],
  ["ui.", "On the page", ""],
];

/** Built-in phrases, and the author's own wording of them, in the dialogue's language. */
export function PhrasesPanel() {
  const { draft, dialogue } = useShownDraft();
  const { data, isPending } = useQuery(phrasesQuery(dialogue));
  const [filter, setFilter] = useState("");
  const { language, phrases = {} } = draft.dialogue;
  const own = Object.keys(phrases).length;
  const wanted = filter.trim().toLowerCase();
  const shown = (data ?? []).filter(
    (phrase) =>
      !wanted ||
      phrase.words.toLowerCase().includes(wanted) ||
      words(phrases[phrase.key], language).toLowerCase().includes(wanted),
  );
  const groupOf = (key: string) => groups.find(([prefix]) => prefix && key.startsWith(prefix))?.[0] ?? "";
  return (
    <div className="max-w-4xl">
      <h2 className="font-serif text-lg font-semibold">Phrases</h2>
      <p className="mb-3 text-sm text-soft">
        What Lumbo says by itself, in {languages[language] ?? language}. Your own wording takes its place in this
        dialogue{own > 0 && `; ${own} have one`}.
      </p>
      <TextInput
        aria-label="Find a phrase"
        placeholder="Find a phrase"
        className="!w-72"
        value={filter}
        onChange={(event) => setFilter(event.target.value)}
      />
      {isPending && <p className="mt-3 text-soft">Reading the phrases</p>}
      {groups.map(([prefix, title, says]) => {
        const list = shown.filter((phrase) => groupOf(phrase.key) === prefix);
        if (list.length === 0) return null;
        return (
          <section key={title} className="mt-5">
            <h3 className="text-sm font-semibold">
              {title} <span className="font-normal text-soft">{says}</span>
            </h3>
            {list.map((phrase) => (
              <PhraseRow key={phrase.key} name={phrase.key} builtIn={phrase.words} />
            ))}
          </section>
        );
      })}
    </div>
  );
}

function PhraseRow({ name, builtIn }: { name: string; builtIn: string }) {
  const { draft, change } = useShownDraft();
  const { language, phrases = {} } = draft.dialogue;
  const kept = words(phrases[name], language);
  const {
    value,
    change: edit,
    flush,
  } = useAutosave(kept, (text) =>
    change({ op: "set_phrase", key: name, text: text.trim() ? { ...phrases[name], [language]: text } : null }),
  );
  return (
    <div className="grid grid-cols-2 items-start gap-3 border-t border-hair py-1.5">
      <p className="pt-1 font-serif text-soft">{builtIn}</p>
      <div className="flex gap-1">
        <TextInput
          aria-label={`Own wording for “${builtIn}”`}
          placeholder="as it is"
          className="font-serif"
          maxLength={500}
          value={value}
          onChange={(event) => edit(event.target.value)}
          onBlur={flush}
        />
        {value && (
          <Button look="quiet" onClick={() => edit("", true)}>
            As it was
          </Button>
        )}
      </div>
    </div>
  );
}
