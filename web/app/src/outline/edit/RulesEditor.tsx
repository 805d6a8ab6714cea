import type { Schemas } from "../../../../api";
import { Button, Labelled, Select, TextInput } from "../../../../kit/ui";
import { ruleWords } from "../TurnBody";
import type { Field } from "../names";

type Rule = Schemas["Rule"];

/** Rules that this version checks, by the types they fit. */
function offered(type: Field["type"]): { label: string; rule: Rule }[] {
  const out: { label: string; rule: Rule }[] = [{ label: "must answer", rule: { rule: "required" } }];
  if (["text", "long_text", "company", "person_name"].includes(type))
    out.push({ label: "length", rule: { rule: "length", min: 2, max: 200 } });
  if (type === "whole_number") out.push({ label: "range", rule: { rule: "range", min: "1", max: "1000" } });
  if (type === "email") out.push({ label: "company address", rule: { rule: "company_address" } });
  if (type === "person_name") out.push({ label: "first and last name", rule: { rule: "full_name" } });
  return out;
}

/** What an ask accepts: its field's rules, which it may narrow with its own. */
export function RulesEditor({
  field,
  rules,
  onChange,
}: {
  field: Field;
  rules: Rule[];
  onChange: (rules: Rule[]) => void;
}) {
  const more = offered(field.type).filter(
    ({ rule }) => ![...(field.rules ?? []), ...rules].some((known) => known.rule === rule.rule),
  );
  const set = (place: number, rule: Rule) => onChange(rules.map((known, at) => (at === place ? rule : known)));
  return (
    <Labelled label="Accepts">
      {(id) => (
        <div id={id} className="flex flex-wrap items-center gap-2">
          {ruleWords(field.rules ?? []).map((rule) => (
            <span key={rule} title="A rule of the field" className="rounded-md border border-line px-2 py-0.5 text-sm">
              {rule}
            </span>
          ))}
          {rules.map((rule, place) => (
            <span key={rule.rule} className="flex items-center gap-1 rounded-md border border-line py-0.5 pl-2 text-sm">
              {rule.rule === "range" || rule.rule === "length" ? (
                <>
                  <TextInput
                    aria-label="Lowest"
                    inputMode="numeric"
                    className="!w-16 !py-0"
                    value={rule.min ?? ""}
                    onChange={(event) =>
                      set(
                        place,
                        rule.rule === "range"
                          ? { ...rule, min: event.target.value || null }
                          : { ...rule, min: Number(event.target.value) || null },
                      )
                    }
                  />
                  to
                  <TextInput
                    aria-label="Highest"
                    inputMode="numeric"
                    className="!w-16 !py-0"
                    value={rule.max ?? ""}
                    onChange={(event) =>
                      set(
                        place,
                        rule.rule === "range"
                          ? { ...rule, max: event.target.value || null }
                          : { ...rule, max: Number(event.target.value) || null },
                      )
                    }
                  />
                </>
              ) : (
                ruleWords([rule])
              )}
              <Button
                look="quiet"
                aria-label={`Take out the rule ${rule.rule.replaceAll("_", " ")}`}
                onClick={() => onChange(rules.filter((_, at) => at !== place))}
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
                if (rule) onChange([...rules, rule]);
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
