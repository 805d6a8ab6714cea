import { Button, Labelled, Select, TextInput } from "../../../kit/ui";
import type { Field } from "../outline/names";
import { words } from "../outline/names";
import type { Rule } from "./rules";
import { openRules, ruleWords } from "./rules";

/** What is accepted. `fixed` are the field's own rules where an ask narrows them. */
export function RulesEditor({
  type,
  fixed = [],
  rules,
  language,
  loose,
  onChange,
}: {
  type: Field["type"];
  fixed?: Rule[];
  rules: Rule[];
  /** Rules that may be left out: by which asks of the field (its own rules), or here (those that an ask narrows). */
  loose?: { may?: string[]; keys: string[]; onChange: (keys: string[]) => void };
  language: string;
  onChange: (rules: Rule[], now?: boolean) => void;
}) {
  const more = openRules(type, [...fixed, ...rules], language);
  const set = (place: number, rule: Rule) => onChange(rules.map((known, at) => (at === place ? rule : known)));
  return (
    <Labelled label="Accepts">
      {(id) => (
        <div id={id} className="flex flex-wrap items-center gap-2">
          {fixed.map((rule) => (
            <span
              key={rule.rule}
              title="A rule of the field"
              className="rounded-md border border-line px-2 py-0.5 text-sm"
            >
              <span className={loose?.keys.includes(rule.rule) ? "text-soft line-through" : undefined}>
                {ruleWords(rule)}
              </span>
              {loose?.may?.includes(rule.rule) && (
                <LooseButton rule={rule} loose={loose} says={["leave out here", "left out here"]} />
              )}
            </span>
          ))}
          {rules.map((rule, place) => (
            <span
              // oxlint-disable-next-line react/no-array-index-key -- formulas may stand more than once
              key={`${rule.rule} ${place}`}
              className="flex flex-wrap items-center gap-1 rounded-md border border-line py-0.5 pl-2 text-sm"
            >
              <Parameters rule={rule} language={language} onChange={(next) => set(place, next)} />
              {loose && !loose.may && (
                <LooseButton rule={rule} loose={loose} says={["holds everywhere", "may be left out"]} />
              )}
              <Button
                look="quiet"
                aria-label={`Take out the rule ${rule.rule.replaceAll("_", " ")}`}
                onClick={() =>
                  onChange(
                    rules.filter((_, at) => at !== place),
                    true,
                  )
                }
              >
                ×
              </Button>
            </span>
          ))}
          {more.length > 0 && (
            <Select
              aria-label="Add a rule"
              className="!border-transparent !text-spruce"
              value=""
              onChange={(event) => {
                const rule = more.find((known) => known.label === event.target.value)?.rule;
                if (rule) onChange([...rules, rule], true);
              }}
            >
              <option value="">+ rule</option>
              {more.map(({ label }) => (
                <option key={label}>{label}</option>
              ))}
            </Select>
          )}
        </div>
      )}
    </Labelled>
  );
}

/** Whether a rule may be left out by an ask, or is left out by this one. */
function LooseButton({
  rule,
  loose,
  says: [no, yes],
}: {
  rule: Rule;
  loose: { keys: string[]; onChange: (keys: string[]) => void };
  says: [string, string];
}) {
  const on = loose.keys.includes(rule.rule);
  return (
    <Button
      look="quiet"
      className="!py-0 !text-soft"
      aria-pressed={on}
      aria-label={`${ruleWords(rule)}: ${yes}`}
      onClick={() => loose.onChange(on ? loose.keys.filter((key) => key !== rule.rule) : [...loose.keys, rule.rule])}
    >
      {on ? yes : no}
    </Button>
  );
}

const count = (text: string) => Math.min(1_000_000, Math.max(0, Math.trunc(Number(text)) || 0));

/** A rule with what can be set of it. */
function Parameters({ rule, language, onChange }: { rule: Rule; language: string; onChange: (rule: Rule) => void }) {
  switch (rule.rule) {
    case "range":
    case "length": {
      const end = (side: "min" | "max", label: string) => (
        <TextInput
          aria-label={label}
          inputMode="numeric"
          className="!w-20 !py-0"
          value={rule[side] ?? ""}
          onChange={(event) =>
            onChange(
              rule.rule === "range"
                ? { ...rule, [side]: event.target.value.trim() || null }
                : { ...rule, [side]: count(event.target.value) || null },
            )
          }
        />
      );
      return (
        <>
          {end("min", "Lowest")} to {end("max", "Highest")} {rule.rule === "length" && "characters"}
        </>
      );
    }
    case "at_least":
    case "at_most":
      return (
        <>
          {rule.rule === "at_least" ? "at least" : "at most"}
          <TextInput
            aria-label="How many"
            inputMode="numeric"
            className="!w-14 !py-0"
            value={rule.n}
            onChange={(event) => onChange({ ...rule, n: count(event.target.value) })}
          />
        </>
      );
    case "within_days":
      return (
        <>
          within
          <TextInput
            aria-label="Days"
            inputMode="numeric"
            className="!w-16 !py-0"
            value={rule.days}
            onChange={(event) => onChange({ ...rule, days: count(event.target.value) })}
          />
          days
        </>
      );
    case "phone_country":
      return (
        <>
          a number in
          <TextInput
            aria-label="Countries, two letters each"
            className="!w-28 !py-0"
            defaultValue={rule.countries.join(", ")}
            onChange={(event) =>
              onChange({
                ...rule,
                countries: event.target.value
                  .toUpperCase()
                  .split(/[^A-Z]+/)
                  .filter(Boolean),
              })
            }
          />
        </>
      );
    case "pattern":
      return (
        <>
          of the form
          <TextInput
            aria-label="Regular expression"
            maxLength={500}
            className="!w-56 !py-0 font-mono"
            value={rule.regex}
            onChange={(event) => onChange({ ...rule, regex: event.target.value })}
          />
        </>
      );
    case "company_address": {
      const domains = (side: "allow" | "deny", label: string) => (
        <TextInput
          aria-label={label}
          placeholder={side === "allow" ? "always taken" : "never taken"}
          title={`${label}, separated by commas; the workspace’s own are in Settings`}
          className="!w-36 !py-0"
          defaultValue={(rule[side] ?? []).join(", ")}
          onChange={(event) =>
            onChange({
              ...rule,
              [side]: event.target.value
                .split(/[\s,;]+/)
                .map((domain) => domain.trim())
                .filter(Boolean),
            })
          }
        />
      );
      return (
        <>
          company address
          {domains("allow", "Domains always taken")}
          {domains("deny", "Domains never taken")}
        </>
      );
    }
    case "formula":
      return (
        <>
          holds
          <TextInput
            aria-label="Formula, true where the answer is good; the answer is called value"
            title="The answer is called value; other fields by their keys"
            maxLength={500}
            className="!w-52 !py-0 font-mono"
            value={rule.formula}
            onChange={(event) => onChange({ ...rule, formula: event.target.value })}
          />
          else
          <TextInput
            aria-label="Said where it does not hold"
            maxLength={300}
            className="!w-64 !py-0 font-serif"
            value={words(rule.message, language)}
            onChange={(event) => onChange({ ...rule, message: { ...rule.message, [language]: event.target.value } })}
          />
        </>
      );
    default:
      return ruleWords(rule);
  }
}
