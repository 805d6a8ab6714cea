import { Labelled, Select, TextInput } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { useAutosave } from "../outline/edit/useAutosave";

/** How fast lines appear, and what holds for the whole dialogue. */
export function MannersPanel() {
  const { draft, change } = useShownDraft();
  const kept = draft.dialogue.settings ?? {};
  const { value, change: edit, flush } = useAutosave(kept, (settings) => change({ op: "set_settings", settings }));
  const number = (text: string, least: number, most: number) => Math.min(most, Math.max(least, Number(text) || least));
  return (
    <div className="max-w-3xl" onBlur={flush}>
      <h2 className="mb-2 font-serif text-lg font-semibold">Pace and limits</h2>
      <Labelled label="Lines appear" hint="Prospects whose device asks for less motion always get them at once.">
        {(id) => (
          <Select
            id={id}
            value={value.pace ?? "none"}
            onChange={(event) => edit({ ...value, pace: event.target.value as "none" | "fixed" | "by_length" }, true)}
          >
            <option value="none">at once</option>
            <option value="fixed">one after another, with a short pause</option>
            <option value="by_length">with a pause that fits their length</option>
          </Select>
        )}
      </Labelled>
      {draft.dialogue.language !== "en" && (
        <Labelled label="Addresses them" hint="In our own phrases; what you write stays as you write it.">
          {(id) => (
            <Select
              id={id}
              value={(value.informal ?? []).includes(draft.dialogue.language) ? "informal" : "formal"}
              onChange={(event) => {
                const others = (value.informal ?? []).filter((tag) => tag !== draft.dialogue.language);
                const informal = event.target.value === "informal" ? [...others, draft.dialogue.language] : others;
                edit({ ...value, informal }, true);
              }}
            >
              <option value="formal">formally</option>
              <option value="informal">as friends</option>
            </Select>
          )}
        </Labelled>
      )}
      <Labelled label="Currency" hint="For money without a sign or code: three letters of ISO 4217.">
        {(id) => (
          <TextInput
            id={id}
            maxLength={3}
            className="!w-24"
            value={value.currency ?? ""}
            onChange={(event) => edit({ ...value, currency: event.target.value.toUpperCase() })}
          />
        )}
      </Labelled>
      <Labelled
        label="Country"
        hint="For national phone numbers when nothing better is known: two letters of ISO 3166."
      >
        {(id) => (
          <TextInput
            id={id}
            maxLength={2}
            className="!w-24"
            value={value.country ?? ""}
            onChange={(event) => edit({ ...value, country: event.target.value.toUpperCase() })}
          />
        )}
      </Labelled>
      <Labelled label="Time zone" hint="What counts as today, for example Europe/London.">
        {(id) => (
          <TextInput
            id={id}
            maxLength={60}
            className="!w-64"
            value={value.time_zone ?? ""}
            onChange={(event) => edit({ ...value, time_zone: event.target.value })}
          />
        )}
      </Labelled>
      <Labelled
        label="Silence"
        hint="0: never. A nudge asks once whether they are still there; the limit ends the conversation."
      >
        {(id) => (
          <div className="flex flex-wrap items-center gap-2">
            a nudge after
            <TextInput
              id={id}
              type="number"
              min={0}
              max={3600}
              className="!w-20"
              value={value.nudge_seconds ?? 0}
              onChange={(event) => edit({ ...value, nudge_seconds: number(event.target.value, 0, 3600) })}
            />
            seconds, the end after
            <TextInput
              aria-label="Idle limit, minutes"
              type="number"
              min={0}
              max={1440}
              className="!w-20"
              value={value.idle_minutes ?? 0}
              onChange={(event) => edit({ ...value, idle_minutes: number(event.target.value, 0, 1440) })}
            />
            minutes
          </div>
        )}
      </Labelled>
      <Labelled
        label="Unfinished"
        hint="0: never. Who gave an e-mail address or a phone number, and went silent before the lead was filed, becomes a lead marked unfinished; where you ask for consent, only with it."
      >
        {(id) => (
          <div className="flex flex-wrap items-center gap-2">
            a lead after
            <TextInput
              id={id}
              type="number"
              min={0}
              max={1440}
              className="!w-20"
              value={value.unfinished_minutes ?? 30}
              onChange={(event) => edit({ ...value, unfinished_minutes: number(event.target.value, 0, 1440) })}
            />
            minutes of silence
          </div>
        )}
      </Labelled>
      <Labelled
        label="Side-talk in all"
        hint="How often side-talk is answered in one conversation before it counts as a failed try."
      >
        {(id) => (
          <TextInput
            id={id}
            type="number"
            min={1}
            max={200}
            className="!w-24"
            value={value.side_talk_in_all ?? 20}
            onChange={(event) => edit({ ...value, side_talk_in_all: number(event.target.value, 1, 200) })}
          />
        )}
      </Labelled>
      <Labelled
        label="Consent wording"
        hint="Its version, kept with every consent, so that one knows what was agreed to. Raise it when you change the words."
      >
        {(id) => (
          <TextInput
            id={id}
            type="number"
            min={1}
            max={100000}
            className="!w-24"
            value={value.consent_wording ?? 1}
            onChange={(event) => edit({ ...value, consent_wording: number(event.target.value, 1, 100_000) })}
          />
        )}
      </Labelled>
      <Labelled label="Side remarks" hint="Ties and side remarks on one question before its way out is taken.">
        {(id) => (
          <TextInput
            id={id}
            type="number"
            min={1}
            max={50}
            className="!w-24"
            value={value.extras_per_ask ?? 6}
            onChange={(event) => edit({ ...value, extras_per_ask: number(event.target.value, 1, 50) })}
          />
        )}
      </Labelled>
      <Labelled
        label="Entries"
        hint="How often one section may be entered in a conversation before the closing fallback."
      >
        {(id) => (
          <TextInput
            id={id}
            type="number"
            min={1}
            max={1000}
            className="!w-24"
            value={value.entries_per_section ?? 25}
            onChange={(event) => edit({ ...value, entries_per_section: number(event.target.value, 1, 1000) })}
          />
        )}
      </Labelled>
    </div>
  );
}
