/** When a placement opens, how it looks and behaves. */
import type { Schemas } from "../../../api";
import { Choice, Figure, Lines, Text } from "./fields";
import { PictureField } from "./PictureField";
import type { Opens, Placement } from "./words";
import { keepsWords, momentOf } from "./words";

type Part = { draft: Placement; onChange: (draft: Placement) => void };

const moments: [string, string][] = [
  ["at_once", "at once"],
  ["after_seconds", "after some seconds"],
  ["at_percent", "once so much of the page was scrolled"],
  ["leaving", "when the pointer leaves the page"],
  ["at_click", "at a click on what carries data-lumbo-open"],
];

function moment(kind: string, value: number): Opens["when"] {
  if (kind === "after_seconds") return { after_seconds: value };
  if (kind === "at_percent") return { at_percent: Math.min(value, 100) };
  return kind as Opens["when"];
}

function OpensFor({
  label,
  opens,
  phone,
  onChange,
}: {
  label: string;
  opens: Opens;
  phone: boolean;
  onChange: (opens: Opens) => void;
}) {
  const { kind, value } = momentOf(opens);
  const shows: [Schemas["Shows"], string][] = [
    ["button", "the button alone"],
    ["line", "the button with the inviting line"],
    ["open", "the dialogue"],
  ];
  return (
    <>
      <Choice
        label={label}
        hint={phone ? "A phone’s page is never covered unasked, and has no pointer that could leave it." : undefined}
        value={kind}
        choices={phone ? moments.filter(([key]) => key !== "leaving") : moments}
        onKeep={(next) => onChange({ ...opens, when: moment(next, value || (next === "at_percent" ? 50 : 8)) })}
      />
      {(kind === "after_seconds" || kind === "at_percent") && (
        <Figure
          label={kind === "after_seconds" ? "Seconds" : "How far down"}
          unit={kind === "after_seconds" ? "s" : "% of the page"}
          most={kind === "after_seconds" ? 600 : 100}
          value={value}
          onKeep={(next) => onChange({ ...opens, when: moment(kind, next ?? 0) })}
        />
      )}
      <Choice
        label="Then shows"
        value={opens.shows}
        choices={phone && kind !== "at_click" ? shows.filter(([key]) => key !== "open") : shows}
        onKeep={(next) => onChange({ ...opens, shows: next })}
      />
    </>
  );
}

const fresh: Opens = { when: "at_once", shows: "button" };

export function OpensForm({ draft, onChange }: Part) {
  return (
    <>
      <OpensFor
        label="On computers"
        phone={false}
        opens={draft.opens ?? fresh}
        onChange={(opens) => onChange({ ...draft, opens })}
      />
      <OpensFor
        label="On phones"
        phone
        opens={draft.opens_on_phones ?? fresh}
        onChange={(opens_on_phones) => onChange({ ...draft, opens_on_phones })}
      />
    </>
  );
}

/** One text per language: "en: Questions?" a line. */
function Texts({
  label,
  hint,
  value,
  onKeep,
}: {
  label: string;
  hint: string;
  value: Record<string, string>;
  onKeep: (value: Record<string, string>) => void;
}) {
  return (
    <Lines
      label={label}
      hint={hint}
      value={Object.entries(value).map(([tag, text]) => `${tag}: ${text}`)}
      onKeep={(lines) =>
        onKeep(
          Object.fromEntries(
            lines.map((line) => {
              const tagged = /^([a-z]{2,3}(?:-[A-Za-z0-9]{2,8})*)\s*:\s*(.*)$/.exec(line);
              return tagged ? [tagged[1] ?? "en", tagged[2] ?? ""] : ["en", line];
            }),
          ),
        )
      }
    />
  );
}

export function LineForm({ draft, onChange }: Part) {
  const look = draft.look ?? {};
  const set = (more: Partial<Schemas["Look"]>) => onChange({ ...draft, look: { ...look, ...more } });
  return (
    <>
      <Texts
        label="Inviting line"
        hint="A language and its text on each line, such as en: Freezer space? Get a price in two minutes."
        value={look.line ?? {}}
        onKeep={(line) => set({ line })}
      />
      <Texts
        label="Away words"
        hint="What greets outside the hours; the dialogue’s own greeting where this is empty."
        value={look.away ?? {}}
        onKeep={(away) => set({ away })}
      />
    </>
  );
}

export function LookForm({ draft, onChange }: Part) {
  const look = draft.look ?? {};
  const set = (more: Partial<Schemas["Look"]>) => onChange({ ...draft, look: { ...look, ...more } });
  return (
    <>
      <Text label="Who is talking" value={look.name ?? ""} onKeep={(name) => set({ name })} />
      <PictureField picture={look.picture} onKeep={(picture) => set({ picture })} />
      <Text
        label="Colour"
        hint="Six digits behind a #. Where it could not be read, it is made darker or lighter; its hue stays."
        className="!w-32 font-mono"
        value={look.colour ?? ""}
        onKeep={(colour) => set({ colour: colour.trim() })}
      />
      <Choice
        label="Light"
        value={look.daylight ?? "visitor"}
        choices={[
          ["visitor", "day or night, as the visitor’s device has it"],
          ["day", "day"],
          ["night", "night"],
        ]}
        onKeep={(daylight) => set({ daylight })}
      />
      <Choice
        label="Corner"
        value={look.corner ?? "right"}
        choices={[
          ["right", "right"],
          ["left", "left"],
        ]}
        onKeep={(corner) => set({ corner })}
      />
      <Figure
        label="From the side"
        unit="px"
        most={200}
        value={look.from_side}
        onKeep={(x) => set({ from_side: x ?? 24 })}
      />
      <Figure
        label="From the bottom"
        unit="px"
        most={400}
        value={look.from_bottom}
        onKeep={(y) => set({ from_bottom: y ?? 24 })}
      />
      <Figure
        label="Button"
        unit="px wide and high"
        most={96}
        value={look.size}
        onKeep={(size) => set({ size: size ?? 56 })}
      />
      <Figure
        label="Corners"
        unit="px of rounding"
        most={48}
        value={look.rounding}
        onKeep={(rounding) => set({ rounding: rounding ?? 14 })}
      />
      {(draft.form === "page" || draft.form === "link") && (
        <>
          <Text
            label="Title"
            hint="Of its page and of previews of the link."
            value={look.title ?? ""}
            onKeep={(title) => set({ title })}
          />
          <Text label="Description" value={look.description ?? ""} onKeep={(description) => set({ description })} />
        </>
      )}
    </>
  );
}

export function MannersForm({ draft, onChange }: Part) {
  const manners = draft.manners ?? {};
  const set = (more: Partial<Schemas["Manners"]>) => onChange({ ...draft, manners: { ...manners, ...more } });
  return (
    <>
      <Choice
        label="In the browser"
        hint="The site says lumbo.consent(true) once the visitor agrees."
        value={manners.keeps ?? "after_consent"}
        choices={Object.entries(keepsWords) as [Schemas["Keeping"], string][]}
        onKeep={(keeps) => set({ keeps })}
      />
      <Lines
        label="Carries along"
        hint="Query parameters beside the campaign’s that a lead keeps, such as an advertisement’s click id; one a line."
        value={manners.carries ?? []}
        onKeep={(carries) => set({ carries })}
      />
    </>
  );
}
