import { clsx } from "clsx";

import type { Schemas } from "../../../api";
import { Button, Labelled, Select } from "../../../kit/ui";
import { WordsBox } from "../../../kit/WordsBox";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { ConditionEditor } from "../outline/edit/ConditionEditor";
import { GoesTo } from "./GoesTo";
import type { Routing, Rule } from "./rules";
import { rulesOf, withRule } from "./rules";
import { firmKinds, firmWords, queueTrouble } from "./words";

type Queues = Schemas["QueueSetting"][];
type Tables = Schemas["TerritoriesView"][];

/** Rules in order with how many leads of the last days each would send on; the open one has its editor beneath. */
export function RuleTable({
  routing,
  queues,
  tables,
  again,
  picked,
  open,
  made,
  onPick,
  onOpen,
  onQueue,
  onTable,
  onAdd,
  onChange,
}: {
  routing: Routing;
  queues: Queues;
  tables: Tables;
  again: Schemas["AgainView"] | undefined;
  picked: string | null;
  open: string | null;
  /** The rule that was made last. */
  made: string | null;
  onPick: (id: string) => void;
  onOpen: (id: string | null) => void;
  onQueue: (key: string) => void;
  onTable: (key: string) => void;
  onAdd: () => void;
  onChange: (routing: Routing) => void;
}) {
  const rules = rulesOf(routing);
  const name = (key: string | null | undefined) => queues.find((known) => known.key === key)?.name;
  const figures = (id: string | null) => again?.again.rules.find((known) => (known.rule ?? null) === id);
  return (
    <>
      <table className="w-full border-collapse text-sm">
        <thead>
          <tr className="border-b border-line text-xs text-soft [&_th]:pb-1.5 [&_th]:font-normal">
            <th className="w-7" aria-label="Place" />
            <th className="text-left">The first that holds</th>
            <th className="w-40 text-left">goes to</th>
            <th className="w-24 text-right">Leads</th>
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
              tables={tables}
              figures={figures(rule.id)}
              gaps={again?.gaps[rule.id] ?? []}
              picked={picked === rule.id}
              open={open === rule.id}
              fresh={made === rule.id}
              onPick={() => onPick(rule.id)}
              onOpen={() => onOpen(open === rule.id ? null : rule.id)}
              onGoesTo={() => (rule.table ? onTable(rule.table.table) : onQueue(rule.queue ?? ""))}
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
  tables,
  figures,
  gaps,
  picked,
  open,
  fresh,
  onPick,
  onOpen,
  onGoesTo,
  onChange,
}: {
  rule: Rule;
  place: number;
  queue: string | undefined;
  queues: Queues;
  tables: Tables;
  figures: Schemas["RuleAgain"] | undefined;
  /** Options that its table has no row for. */
  gaps: string[];
  picked: boolean;
  open: boolean;
  /** True where it was just made. */
  fresh: boolean;
  onPick: () => void;
  onOpen: () => void;
  onGoesTo: () => void;
  onChange: (rule: Rule) => void;
}) {
  const { draft } = useShownDraft();
  const by = rule.table;
  const table = tables.find((known) => known.table.key === by?.table);
  const goes = by ? table?.table.name : queue;
  const named = queues.find((known) => !by && known.key === rule.queue);
  const trouble = named && queueTrouble(named);
  const missed = figures?.missed ?? 0;
  const beside = [
    rule.firm ? `and ${firmWords[rule.firm][1]}` : "",
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
          {draft.findings
            .filter((finding) => finding.at === rule.id)
            .map((finding) => (
              <p key={finding.key} className="text-xs text-amber" title={finding.mend ?? undefined}>
                {finding.says}
              </p>
            ))}
        </td>
        <td>
          <button
            type="button"
            className={clsx("rounded-sm text-left font-semibold hover:underline", !goes && "text-clay")}
            onClick={onGoesTo}
          >
            {goes ?? `${(by ? by.table : rule.queue) || "no queue"}, which is not there`}
          </button>
          {trouble && <span className="block text-xs text-clay">{trouble}</span>}
          {by && (
            <span className="block text-xs text-soft">
              by {(draft.dialogue.fields ?? []).find((field) => field.key === by.field)?.label ?? by.field}
            </span>
          )}
          {gaps.length > 0 && <span className="block text-xs text-amber">no row for {listed(gaps)}</span>}
        </td>
        <td className="text-right figures">
          {figures?.leads ?? ""}
          {missed > 0 && <span className="block text-xs whitespace-nowrap text-clay">{missed} without a row</span>}
        </td>
        <td className="text-right figures">{figures?.top ?? ""}</td>
      </tr>
      {open && (
        <tr className="border-b border-line bg-oat/60">
          <td colSpan={5} className="px-3 py-2.5">
            <ConditionEditor condition={rule.holds} fresh={fresh} onChange={(holds) => onChange({ ...rule, holds })} />
            <Labelled label="Their firm" hint="As it is on file when the lead is filed">
              {(id) => (
                <Select
                  id={id}
                  value={rule.firm ?? ""}
                  onChange={(event) =>
                    onChange({ ...rule, firm: firmKinds.find((kind) => kind === event.target.value) ?? null })
                  }
                >
                  <option value="">any firm</option>
                  {firmKinds.map((kind) => (
                    <option key={kind} value={kind}>
                      {firmWords[kind][0]}
                    </option>
                  ))}
                </Select>
              )}
            </Labelled>
            <GoesTo rule={rule} queues={queues} tables={tables} onChange={onChange} />
            <Labelled label="A rep must have" hint="Skills, with commas between: German, hauliers">
              {(id) => (
                <WordsBox
                  id={id}
                  className="!w-80"
                  words={rule.skills ?? []}
                  onWords={(skills) => onChange({ ...rule, skills })}
                />
              )}
            </Labelled>
            <Labelled label="Tags its leads" hint="Words to find them again by, with commas between">
              {(id) => (
                <WordsBox
                  id={id}
                  className="!w-80"
                  words={rule.tags ?? []}
                  onWords={(tags) => onChange({ ...rule, tags })}
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

/** Some names in a line; of many the first three. */
const listed = (names: string[]): string =>
  names.length > 4 ? `${names.slice(0, 3).join(", ")} and ${names.length - 3} others` : names.join(", ");
