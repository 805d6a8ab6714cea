/** Where, to whom and when: the rules of a placement, each edited in place. */
import type { Schemas } from "../../../api";
import { Choice, Figure, Lines, Text } from "./fields";
import type { Placement } from "./words";
import { deviceLabel, devices, isOnPages } from "./words";

type Part = { draft: Placement; onChange: (draft: Placement) => void };

const written = ({ name, is }: Schemas["Parameter"]) => (is ? `${name}=${is}` : name);
const parameter = (line: string): Schemas["Parameter"] => {
  const at = line.indexOf("=");
  return at < 0 ? { name: line } : { name: line.slice(0, at).trim(), is: line.slice(at + 1).trim() };
};

export function WhereForm({ draft, onChange }: Part) {
  const where = draft.where ?? {};
  const set = (more: Partial<Schemas["PlacementWhere"]>) => onChange({ ...draft, where: { ...where, ...more } });
  if (!isOnPages(draft.form)) return <p className="text-sm text-soft">It has an address of its own; see below.</p>;
  return (
    <>
      <Lines
        label="Sites"
        hint="Hosts that may show it, one a line: winterlode.example, *.winterlode.example. Other sites get nothing."
        value={where.sites ?? []}
        onKeep={(sites) => set({ sites })}
      />
      <Lines
        label="Pages"
        hint="One a line; every page where this is empty. * stays within a part of the path, /** takes in all below."
        value={where.include ?? []}
        onKeep={(include) => set({ include })}
      />
      <Lines label="Never on" value={where.exclude ?? []} onKeep={(exclude) => set({ exclude })} />
      <Lines
        label="With parameters"
        hint="name or name=value, one a line; all of them must be in the address."
        value={(where.parameters ?? []).map(written)}
        onKeep={(lines) => set({ parameters: lines.map(parameter) })}
      />
      <Lines
        label="Not with"
        value={(where.exclude_parameters ?? []).map(written)}
        onKeep={(lines) => set({ exclude_parameters: lines.map(parameter) })}
      />
      <Lines
        label="Campaigns"
        hint="As utm_campaign has them, with * for any characters; one of them."
        value={where.campaigns ?? []}
        onKeep={(campaigns) => set({ campaigns })}
      />
      <Lines
        label="Not campaigns"
        value={where.exclude_campaigns ?? []}
        onKeep={(exclude_campaigns) => set({ exclude_campaigns })}
      />
      {draft.form === "inline" && (
        <Text
          label="Place in the page"
          hint={`It stands at <div data-lumbo="${draft.slot ?? ""}"></div>; give that a height of 520 px, so that nothing moves.`}
          value={draft.slot ?? ""}
          onKeep={(slot) => onChange({ ...draft, slot: slot.trim() })}
        />
      )}
    </>
  );
}

export function WhoForm({ draft, onChange }: Part) {
  const who = draft.who ?? {};
  const set = (more: Partial<Schemas["PlacementWho"]>) => onChange({ ...draft, who: { ...who, ...more } });
  const chosen = who.devices ?? [];
  return (
    <>
      <Choice
        label="Visitors"
        hint="Who was here before is known only with their consent to the site."
        value={who.visitors ?? "everyone"}
        choices={[
          ["everyone", "everyone"],
          ["new", "new visitors"],
          ["returning", "returning visitors"],
        ]}
        onKeep={(visitors) => set({ visitors })}
      />
      <Choice
        label="Signed in"
        value={who.signed_in ?? "either"}
        choices={[
          ["either", "or not"],
          ["yes", "only signed in"],
          ["no", "only not signed in"],
        ]}
        onKeep={(signed_in) => set({ signed_in })}
      />
      <fieldset className="grid grid-cols-[8.25rem_minmax(0,1fr)] gap-x-3 py-1 max-md:grid-cols-1">
        <legend className="float-left pt-0.5 text-xs text-soft">Devices</legend>
        <div className="flex gap-4 text-sm">
          {devices.map((device) => (
            <label key={device} className="flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={chosen.length === 0 || chosen.includes(device)}
                onChange={({ target }) => {
                  const now = chosen.length === 0 ? devices : chosen;
                  const next = target.checked ? [...now, device] : now.filter((known) => known !== device);
                  set({ devices: next.length === devices.length ? [] : next });
                }}
              />
              {deviceLabel(device)}
            </label>
          ))}
        </div>
      </fieldset>
      <Lines
        label="Languages"
        hint="Such as de or de-AT, one a line; every language where this is empty."
        value={who.languages ?? []}
        onKeep={(languages) => set({ languages })}
      />
      <Lines
        label="Countries"
        hint="Two letters, such as DE, one a line. A hint: from a trusted proxy, else from the time zone."
        value={who.countries ?? []}
        onKeep={(countries) => set({ countries })}
      />
      <Figure
        label="Not again within"
        unit="days of filing"
        most={3650}
        value={who.not_filed_days}
        onKeep={(not_filed_days) => set({ not_filed_days })}
      />
      <Figure label="Share" unit="% of visitors" most={100} value={who.share} onKeep={(share) => set({ share })} />
    </>
  );
}

export function WhenForm({ draft, queues, onChange }: Part & { queues: { key: string; name: string }[] }) {
  const when = draft.when ?? {};
  const set = (more: Partial<Schemas["PlacementWhen"]>) => onChange({ ...draft, when: { ...when, ...more } });
  const date = (text: string) => (/^\d{4}-\d{2}-\d{2}$/.test(text.trim()) ? text.trim() : null);
  return (
    <>
      <Text
        label="First day"
        hint="As 2026-12-01; from now on where this is empty."
        className="!w-36"
        value={when.from ?? ""}
        onKeep={(text) => set({ from: date(text) })}
      />
      <Text label="Last day" className="!w-36" value={when.until ?? ""} onKeep={(text) => set({ until: date(text) })} />
      <Choice
        label="Hours of"
        hint="Qualifying runs day and night; outside these hours the away words greet."
        value={when.hours_of ?? ""}
        choices={[["", "nobody: day and night"], ...queues.map(({ key, name }): [string, string] => [key, name])]}
        onKeep={(key) => set({ hours_of: key || null, ...(key ? {} : { only_in_hours: false }) })}
      />
      {when.hours_of && (
        <Choice
          label="Outside them"
          value={when.only_in_hours ? "no" : "yes"}
          choices={[
            ["yes", "show it, with the away words"],
            ["no", "do not show it"],
          ]}
          onKeep={(shows) => set({ only_in_hours: shows === "no" })}
        />
      )}
    </>
  );
}
