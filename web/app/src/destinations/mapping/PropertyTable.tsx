import { useState } from "react";

import type { Schemas } from "../../../../api";
import { Button, Select } from "../../../../kit/ui";
import { statusWords } from "../../leads/words";
import { Counterparts } from "./Counterparts";
import { SourceSelect } from "./SourceSelect";
import type { Holds, Rule } from "./words";
import { carriedWords, faultWords, kindWords, objectWords, withRule } from "./words";

type Mapping = Schemas["DestinationMapping"];
type Property = Schemas["CustomerProperty"];

/** The properties of one object there, each with what it comes from and what a real lead would bring. */
export function PropertyTable({
  holds,
  view,
  mapping,
  disabled,
  onChange,
}: {
  holds: Holds;
  view: Schemas["MappingView"];
  mapping: Mapping;
  disabled: boolean;
  onChange: (mapping: Mapping) => void;
}) {
  const properties = view.schema?.objects.find((each) => each.object === holds)?.properties ?? [];
  const rules = mapping.rules ?? [];
  const put = (property: string, rule: Rule | null) =>
    onChange({ ...mapping, rules: withRule(rules, holds, property, rule) });
  return (
    <section aria-labelledby={`maps-${holds}`} className="mt-4">
      <h2 id={`maps-${holds}`} className="font-serif text-base font-semibold">
        {objectWords[holds]}
      </h2>
      <table className="w-full border-collapse text-sm">
        <thead>
          <tr className="border-b border-line text-left text-xs text-soft [&_th]:pr-3 [&_th]:pb-1 [&_th]:font-normal">
            <th className="w-[26%]">There</th>
            <th className="w-[30%]">Comes from</th>
            <th className="w-[14%]">Written</th>
            <th>{view.example ? `For ${view.example.name ?? "the newest lead"}` : "No lead yet to show"}</th>
          </tr>
        </thead>
        <tbody>
          {properties.map((property) => (
            <Row
              key={property.name}
              holds={holds}
              property={property}
              view={view}
              mapping={mapping}
              disabled={disabled}
              onRule={(rule) => put(property.name, rule)}
              onPeople={(people) => onChange({ ...mapping, people })}
            />
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Row({
  holds,
  property,
  view,
  mapping,
  disabled,
  onRule,
  onPeople,
}: {
  holds: Holds;
  property: Property;
  view: Schemas["MappingView"];
  mapping: Mapping;
  disabled: boolean;
  onRule: (rule: Rule | null) => void;
  onPeople: (people: Record<string, string>) => void;
}) {
  const [open, setOpen] = useState(false);
  const mine = (each: { object: Holds; property: string }) => each.object === holds && each.property === property.name;
  const rule = mapping.rules?.find(mine);
  const tried = view.mapping.rules?.findIndex(mine) ?? -1;
  const ours = oursOf(rule, property, view);
  const nameOf = (key: string) => ours.find((each) => each.key === key)?.label ?? key;
  const theirs = (value: string) =>
    property.type === "person"
      ? (view.schema?.people?.find((person) => person.id === value)?.name ?? value)
      : (property.options?.find((option) => option.value === value)?.label ?? value);
  const shown = carriedWords(tried < 0 ? undefined : view.example?.carried[tried], theirs, nameOf);
  const faults = view.faults.filter(mine).map((fault) => faultWords(fault.what, nameOf));
  const label = `${objectWords[holds]}, ${property.label}`;
  // Lumbo finds its own lead again by this one.
  const kept = holds === "lead" && property.name === "external_id";
  const pairs = open ? ours : [];
  return (
    <>
      <tr className={faults.length > 0 || pairs.length > 0 ? "" : "border-b border-line"}>
        <td className="py-1 pr-3 align-top">
          <span className={rule || kept ? "font-medium" : ""}>{property.label}</span>
          <span className="block text-xs text-soft">
            {property.required && <b className="font-semibold text-ink">required, </b>}
            {kindWords[property.type]}
          </span>
        </td>
        <td className="py-1 pr-3 align-top">
          {kept ? (
            <span className="text-soft">Lumbo’s id of the lead, always</span>
          ) : (
            <>
              <SourceSelect
                label={`${label} comes from`}
                from={rule?.from}
                fields={view.fields}
                disabled={disabled}
                none="nothing"
                onChange={(from) =>
                  onRule(from && { object: holds, property: property.name, write: "always", ...rule, from })
                }
              />
              {ours.length > 0 && (
                <Button look="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
                  {property.type === "person" ? "Who is who" : "What means what"}
                </Button>
              )}
            </>
          )}
        </td>
        <td className="py-1 pr-3 align-top">
          {rule && (
            <Select
              aria-label={`${label} is written`}
              className="!py-0.5 text-sm"
              disabled={disabled}
              value={rule.write ?? "always"}
              onChange={(event) => onRule({ ...rule, write: event.target.value as Schemas["MapWrite"] })}
            >
              <option value="always">each time</option>
              <option value="if_empty">only where empty</option>
            </Select>
          )}
        </td>
        <td className="max-w-0 py-1 align-top">
          <span
            title={shown.says}
            className={`line-clamp-2 break-words whitespace-pre-wrap ${shown.lost ? "text-amber" : shown.says.startsWith("left out") ? "text-soft" : ""}`}
          >
            {shown.says}
          </span>
        </td>
      </tr>
      {pairs.length > 0 && rule && (
        <tr className={faults.length > 0 ? "" : "border-b border-line"}>
          <td colSpan={4} className="pl-[26%]">
            {property.type === "person" ? (
              <Counterparts
                of={label}
                ours={pairs}
                theirs={(view.schema?.people ?? []).map((person) => ({ value: person.id, label: person.name }))}
                chosen={mapping.people ?? {}}
                itself={(email) =>
                  view.schema?.people?.find((person) => person.email?.toLowerCase() === email.toLowerCase())?.name
                }
                disabled={disabled}
                onChange={onPeople}
              />
            ) : (
              <Counterparts
                of={label}
                ours={pairs}
                theirs={property.options ?? []}
                chosen={rule.options ?? {}}
                itself={(key) =>
                  property.options?.find((option) => option.value === key || option.label === key)?.label
                }
                disabled={disabled}
                onChange={(options) => onRule({ ...rule, options })}
              />
            )}
          </td>
        </tr>
      )}
      {faults.length > 0 && (
        <tr className="border-b border-line">
          <td colSpan={4} className="pb-1">
            {faults.map((fault) => (
              <p key={fault.says} className={fault.stops ? "text-clay" : "text-amber"}>
                {fault.says}
              </p>
            ))}
          </td>
        </tr>
      )}
    </>
  );
}

/** What of ours needs a counterpart there, with how people here call it. */
function oursOf(rule: Rule | undefined, property: Property, view: Schemas["MappingView"]) {
  if (!rule) return [];
  const from = rule.from;
  if (property.type === "person") {
    return "fact" in from && from.fact === "owner"
      ? view.people.map((person) => ({ key: person.email, label: person.name }))
      : [];
  }
  if (property.type !== "option" && property.type !== "options") return [];
  if ("field" in from) return view.fields.find((field) => field.key === from.field)?.options ?? [];
  if ("fact" in from && from.fact === "band") return view.bands.map((band) => ({ key: band, label: band }));
  if ("fact" in from && from.fact === "status") {
    return Object.entries(statusWords).map(([key, label]) => ({ key, label }));
  }
  return [];
}
