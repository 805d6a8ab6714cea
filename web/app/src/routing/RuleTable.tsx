import { clsx } from "clsx";

import type { Schemas } from "../../../api";
import { Button, Labelled, Select, TextInput } from "../../../kit/ui";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { ConditionEditor } from "../outline/edit/ConditionEditor";
import type { Routing, Rule } from "./rules";
import { rulesOf, withRule } from "./rules";

type Queues = Schemas["QueueSetting"][];

/** Rules in order with how many leads of the last days each would send on; the open one has its editor beneath. */
export function RuleTable({
  routing,
  queues,
  again,
  picked,
  open,
  onPick,
  onOpen,
  onQueue,
  onAdd,
  onChange,
}: {
  routing: Routing;
  queues: Queues;
  again: Schemas["Again"] | undefined;
  picked: string | null;
  open: string | null;
  onPick: (id: string) => void;
  onOpen: (id: string | null) => void;
  onQueue: (key: string) => void;
  onAdd: () => void;
  onChange: (routing: Routing) => void;
}) {
  const rules = rulesOf(routing);
  const name = (key: string | null | undefined) => queues.find((known) => known.key === key)?.name;
  const figures = (id: string | null) => again?.rules.find((known) => (known.rule ?? null) === id);
  return (
    <>
      <table className="w-full border-collapse text-sm">
        <thead>
          <tr className="border-b border-line text-xs text-soft [&_th]:pb-1.5 [&_th]:font-normal">
            <th className="w-7" aria-label="Place" />
            <th className="text-left">The first that holds</th>
            <th className="w-40 text-left">goes to</th>
            <th className="w-20 text-right">Leads</th>
            <th className="w-20 text-right" title="In the highest band">
              Top band
            </th>
          </tr>
        </thead>
        <tbody>
          {rules.map((rule, place) => (
            <RuleRows
              key={rule.id}
              rule={rule}
              place={place + 1}
              queue={name(rule.queue)}
              queues={queues}
              figures={figures(rule.id)}
              picked={picked === rule.id}
              open={open === rule.id}
              onPick={() => onPick(rule.id)}
              onOpen={() => onOpen(open === rule.id ? null : rule.id)}
              onQueue={() => onQueue(rule.queue)}
              onChange={(next) => onChange(withRule(routing, next))}
            />
          ))}
          <tr
            onFocus={() => onPick("@otherwise")}
            className={clsx("border-b border-hair [&>td]:py-1.5", picked === "@otherwise" && "bg-picked")}
          >
            <td aria-label="after all rules" />
            <td>{rules.length > 0 ? "Otherwise" : "Every lead"}</td>
            <td>
              <Select
                aria-label="Where no rule holds"
                className="-ml-1 !border-transparent !bg-transparent !px-0 !py-0 font-semibold hover:!border-line"
                value={routing.otherwise ?? ""}
                onChange={(event) => {
                  onChange({ ...routing, otherwise: event.target.value || null });
                  if (event.target.value) onQueue(event.target.value);
                }}
              >
                <option value="">no queue</option>
                {queues.map((queue) => (
                  <option key={queue.key} value={queue.key}>
                    {queue.name}
                  </option>
                ))}
                {routing.otherwise && !name(routing.otherwise) && (
                  <option value={routing.otherwise}>{routing.otherwise}, which is not there</option>
                )}
              </Select>
            </td>
            <td className="text-right figures">{figures(null)?.leads ?? ""}</td>
            <td className="text-right figures">{figures(null)?.top ?? ""}</td>
          </tr>
        </tbody>
      </table>
      <Button look="quiet" className="mt-1 -ml-1.5" disabled={queues.length === 0} onClick={onAdd}>
        + rule
      </Button>
    </>
  );
}

function RuleRows({
  rule,
  place,
  queue,
  queues,
  figures,
  picked,
  open,
  onPick,
  onOpen,
  onQueue,
  onChange,
}: {
  rule: Rule;
  place: number;
  queue: string | undefined;
  queues: Queues;
  figures: Schemas["RuleAgain"] | undefined;
  picked: boolean;
  open: boolean;
  onPick: () => void;
  onOpen: () => void;
  onQueue: () => void;
  onChange: (rule: Rule) => void;
}) {
  const { draft } = useShownDraft();
  const beside = [
    (rule.skills?.length ?? 0) > 0 ? `needs ${rule.skills?.join(", ")}` : "",
    rule.even_if_owned ? "even if they have an owner" : "",
  ].filter(Boolean);
  return (
    <>
      <tr
        data-rule={rule.id}
        aria-current={picked || undefined}
        onFocus={onPick}
        className={clsx("border-b border-hair [&>td]:py-1.5", picked && "bg-picked")}
      >
        <td className="text-xs text-soft figures">{place}</td>
        <td>
          <button
            type="button"
            aria-expanded={open}
            className="rounded-sm text-left"
            onClick={() => {
              onPick();
              onOpen();
            }}
          >
            {draft.words[rule.id] ?? "a condition"}
            {beside.length > 0 && <span className="ml-2 text-xs text-soft">{beside.join("; ")}</span>}
          </button>
        </td>
        <td>
          <button
            type="button"
            className={clsx("rounded-sm font-semibold hover:underline", !queue && "text-clay")}
            onClick={onQueue}
          >
            {queue ?? `${rule.queue || "no queue"}, which is not there`}
          </button>
        </td>
        <td className="text-right figures">{figures?.leads ?? ""}</td>
        <td className="text-right figures">{figures?.top ?? ""}</td>
      </tr>
      {open && (
        <tr className="border-b border-line bg-oat/60">
          <td colSpan={5} className="px-3 py-2.5">
            <ConditionEditor condition={rule.holds} onChange={(holds) => onChange({ ...rule, holds })} />
            <Labelled label="Goes to">
              {(id) => (
                <Select
                  id={id}
                  value={rule.queue}
                  onChange={(event) => onChange({ ...rule, queue: event.target.value })}
                >
                  {!queue && <option value={rule.queue}>{rule.queue}, which is not there</option>}
                  {queues.map((known) => (
                    <option key={known.key} value={known.key}>
                      {known.name}
                    </option>
                  ))}
                </Select>
              )}
            </Labelled>
            <Labelled label="A rep must have" hint="Skills, with commas between: German, hauliers">
              {(id) => (
                <TextInput
                  id={id}
                  className="!w-80"
                  key={rule.skills?.join(", ")}
                  defaultValue={rule.skills?.join(", ") ?? ""}
                  onBlur={(event) => {
                    const skills = event.target.value
                      .split(",")
                      .map((skill) => skill.trim())
                      .filter(Boolean);
                    if (skills.join(", ") !== (rule.skills ?? []).join(", ")) onChange({ ...rule, skills });
                  }}
                  onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
                />
              )}
            </Labelled>
            <label className="flex items-center gap-1.5 pl-[9rem] text-sm max-md:pl-0">
              <input
                type="checkbox"
                className="size-5"
                checked={rule.even_if_owned ?? false}
                onChange={(event) => onChange({ ...rule, even_if_owned: event.target.checked })}
              />
              even for somebody who has an owner already
            </label>
          </td>
        </tr>
      )}
    </>
  );
}
