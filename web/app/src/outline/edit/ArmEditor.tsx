import type { Schemas } from "../../../../api";
import { Button, Labelled, Select, TextInput } from "../../../../kit/ui";
import { WordsBox } from "../../../../kit/WordsBox";
import { useShownDraft } from "../../dialogue/DialogueScreen";
import { armSorts } from "../make";
import type { Arm, Turn } from "../names";
import { fieldOf, words } from "../names";
import { ConditionEditor } from "./ConditionEditor";
import { RuleOutOption } from "./RuleOutOption";
import { ThenSelect } from "./ThenSelect";
import { useAutosave } from "./useAutosave";

/** An arm: its name, what makes the conversation take it, and where it leads. */
export function ArmEditor({ arm, turn }: { arm: Arm; turn: Turn }) {
  const { change: send } = useShownDraft();
  const { value, change, flush } = useAutosave<Arm>({ ...arm, turns: [] }, (next) =>
    send({ op: "change_arm", arm: next }),
  );
  return (
    <div onBlur={flush}>
      <WhenEditor arm={value} turn={turn} onChange={(when, now) => change({ ...value, when }, now)} />
      <Labelled
        label="Name"
        hint={typeof value.when === "object" && "options" in value.when ? "Empty: the option’s own label." : undefined}
      >
        {(id) => (
          <TextInput
            id={id}
            maxLength={60}
            value={value.label ?? ""}
            onChange={(event) => change({ ...value, label: event.target.value || null })}
          />
        )}
      </Labelled>
      <Labelled label="Then">
        {(id) => (
          <ThenSelect
            id={id}
            value={value.then ?? "rejoin"}
            plain={[["rejoin", "rejoin below"]]}
            onChange={(then) => change({ ...value, then: then as Schemas["Then"] }, true)}
          />
        )}
      </Labelled>
      <Labelled label="Tags the lead">
        {(id) => (
          <WordsBox
            id={id}
            placeholder="words, with commas between"
            words={value.tags ?? []}
            onWords={(tags) => change({ ...value, tags }, true)}
          />
        )}
      </Labelled>
    </div>
  );
}

/** The sorts of arm that a kind of turn can have. */
const sorts: Partial<Record<Turn["kind"], [string, string][]>> = {
  ask: [
    ["options", "the answer is"],
    ["holds", "a condition holds"],
    ["otherwise", "otherwise"],
    ["way_out", "only the way out leads here"],
  ],
  fork: [
    ["holds", "a condition holds"],
    ["otherwise", "otherwise"],
  ],
  file_lead: [
    ["band", "the band is"],
    ["ruled_out", "the lead is ruled out"],
    ["lacks", "it lacks what a lead must carry"],
    ["holds", "a condition holds"],
    ["otherwise", "otherwise"],
  ],
};

const outside = {
  answered: "it answered",
  refused: "it refused",
  no_answer: "no answer came",
  booked: "a time was booked",
  joined: "a rep joined",
};

function WhenEditor({
  arm,
  turn,
  onChange,
}: {
  arm: Arm;
  turn: Turn;
  onChange: (when: Schemas["When"], now: boolean) => void;
}) {
  const { draft } = useShownDraft();
  const { dialogue } = draft;
  const { when } = arm;
  const sort = typeof when === "string" ? when : (Object.keys(when)[0] ?? "otherwise");
  const field = turn.kind === "ask" ? fieldOf(dialogue, turn.field) : undefined;
  const options =
    field?.type === "yes_no" || field?.type === "consent"
      ? [
          ["yes", "Yes"],
          ["no", "No"],
        ]
      : (field?.options ?? []).map((option) => [option.key, words(option.label, dialogue.language)]);
  const bands = (dialogue.scorecards ?? []).flatMap((card) => card.bands).map((band) => [band.id, band.label]);
  const all = sorts[turn.kind] ?? (armSorts[turn.kind] ?? []).map((when): [string, string] => [when, outside[when]]);
  const known = all.filter(([key]) => key !== "options" || options.length > 0 || sort === "options");
  const setSort = (next: string) => {
    if (next === "options") onChange({ options: [options[0]?.[0] ?? ""] }, true);
    else if (next === "band") onChange({ band: [bands[0]?.[0] ?? ""] }, true);
    else if (next === "holds")
      onChange(
        { holds: { compare: { what: field?.key ?? dialogue.fields?.[0]?.key ?? "@score", is: "is_known" } } },
        true,
      );
    else onChange(next as "otherwise", true);
  };
  const ticks = (list: (string | undefined)[][], chosen: string[], set: (keys: string[]) => void) =>
    list.map(([key = "", label]) => (
      <label key={key} className="flex items-center gap-1.5">
        <input
          type="checkbox"
          className="size-6"
          checked={chosen.includes(key)}
          onChange={(event) => {
            const next = event.target.checked ? [...chosen, key] : chosen.filter((other) => other !== key);
            if (next.length > 0) set(next);
          }}
        />
        <span className="font-serif">{label}</span>
      </label>
    ));
  return (
    <>
      <Labelled label="Taken when">
        {(id) => (
          <>
            <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
              <Select id={id} autoFocus value={sort} onChange={(event) => setSort(event.target.value)}>
                {known.map(([key, label]) => (
                  <option key={key} value={key}>
                    {label}
                  </option>
                ))}
              </Select>
              {typeof when === "object" &&
                "options" in when &&
                ticks(options, when.options, (keys) => onChange({ options: keys }, true))}
              {typeof when === "object" &&
                "band" in when &&
                ticks(bands, when.band, (keys) => onChange({ band: keys }, true))}
            </div>
            {typeof when === "object" && "holds" in when && (
              <ConditionEditor condition={when.holds} onChange={(holds) => onChange({ holds }, false)} />
            )}
            {bands.length === 0 && turn.kind === "file_lead" && (
              <Button look="quiet" disabled>
                There are no bands without a scorecard
              </Button>
            )}
          </>
        )}
      </Labelled>
      {typeof when === "object" && "options" in when && field && (
        <RuleOutOption field={field.key} options={when.options} />
      )}
    </>
  );
}
