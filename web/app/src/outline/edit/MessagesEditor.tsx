import { useEffect, useRef, useState } from "react";

import type { Schemas } from "../../../../api";
import { Button, Labelled, Select, TextInput } from "../../../../kit/ui";
import type { Rule } from "../../fields/rules";
import { ruleWords } from "../../fields/rules";
import { words } from "../names";

type TryMessage = Schemas["TryMessage"];

/** The author's own messages: for what cannot be read, for each rule, or for anything; one per try, the last repeats. */
export function MessagesEditor({
  messages,
  rules,
  tries,
  language,
  onChange,
}: {
  messages: TryMessage[];
  rules: Rule[];
  tries: number;
  language: string;
  onChange: (messages: TryMessage[]) => void;
}) {
  const causes: [on: string, label: string][] = [
    ["type", "it can’t be read"],
    ...rules
      .filter((rule, place) => rules.findIndex((other) => other.rule === rule.rule) === place)
      .map((rule): [string, string] => [rule.rule, `not: ${ruleWords(rule)}`]),
    ["any", "anything is wrong"],
  ];
  // A message that was begun has no words yet, and is not kept before it has.
  const [shown, setShown] = useState(() => begun(messages, language));
  const sent = useRef(JSON.stringify(messages));
  const kept = JSON.stringify(messages);
  useEffect(() => {
    if (kept === sent.current) return;
    sent.current = kept;
    setShown(begun(JSON.parse(kept) as TryMessage[], language));
  }, [kept, language]);
  const send = (next: TryMessage[]) => {
    setShown(next);
    const worded = withWords(next, language);
    sent.current = JSON.stringify(worded);
    onChange(worded);
  };
  const set = (place: number, part: Partial<TryMessage>) =>
    send(shown.map((known, at) => (at === place ? { ...known, ...part } : known)));
  const say = (place: number, at: number, text: string) =>
    set(place, {
      say: (shown[place]?.say ?? []).map((known, index) => (index === at ? { ...known, [language]: text } : known)),
    });
  const open = causes.filter(([on]) => !shown.some((message) => message.on === on));
  return (
    <Labelled
      label="Says when"
      hint="Empty: Lumbo’s own message, which says what was heard and what would pass. {heard} stands for what was heard."
    >
      {(id) => (
        <div id={id}>
          {shown.map((message, place) => (
            <div key={message.on} className="mb-1 grid grid-cols-[11rem_minmax(0,1fr)] items-start gap-2">
              <Select
                aria-label="Message for"
                value={message.on}
                onChange={(event) => set(place, { on: event.target.value })}
              >
                {causes
                  .filter(([on]) => on === message.on || !shown.some((other) => other.on === on))
                  .map(([on, label]) => (
                    <option key={on} value={on}>
                      {label}
                    </option>
                  ))}
                {!causes.some(([on]) => on === message.on) && (
                  <option value={message.on}>{message.on.replaceAll("_", " ")}, which nothing asks for now</option>
                )}
              </Select>
              <div className="flex flex-col gap-1">
                {message.say.map((text, at) => (
                  <TextInput
                    // oxlint-disable-next-line react/no-array-index-key -- tries are counted
                    key={at}
                    aria-label={`Message at try ${at + 1}`}
                    placeholder={at === 0 ? "our own message" : `at try ${at + 1}`}
                    maxLength={400}
                    className="font-serif"
                    value={words(text, language)}
                    onChange={(event) => say(place, at, event.target.value)}
                  />
                ))}
                {message.say.length < tries && words(message.say.at(-1), language) !== "" && (
                  <Button
                    look="quiet"
                    className="self-start"
                    onClick={() => send(shown.map((known, at) => (at === place ? another(known, language) : known)))}
                  >
                    Another at the next try
                  </Button>
                )}
              </div>
            </div>
          ))}
          {open.length > 0 && messages.length > 0 && (
            <Button
              look="quiet"
              className="-ml-1.5"
              onClick={() => send([...shown, { on: open[0]?.[0] ?? "any", say: [{ [language]: "" }] }])}
            >
              Add a message
            </Button>
          )}
        </div>
      )}
    </Labelled>
  );
}

const another = (message: TryMessage, language: string): TryMessage => ({
  ...message,
  say: [...message.say, { [language]: "" }],
});

/** Something to write in, where there is no message yet. */
const begun = (messages: TryMessage[], language: string): TryMessage[] =>
  messages.length > 0 ? messages : [{ on: "type", say: [{ [language]: "" }] }];

/** Messages as they are kept: those with words, each up to its last try with words. */
const withWords = (messages: TryMessage[], language: string): TryMessage[] =>
  messages
    .map((message) => ({ ...message, say: message.say.filter((say) => words(say, language) !== "") }))
    .filter((message) => message.say.length > 0);
