import type { ReactNode } from "react";
import { useState } from "react";

import type { Schemas } from "../../../api";
import { Button, TextInput } from "../../../kit/ui";
import { LineForm, LookForm, MannersForm, OpensForm } from "./LookForms";
import { Release } from "./Release";
import { WhenForm, WhereForm, WhoForm } from "./RuleForms";
import type { Placements } from "./usePlacements";
import type { Placement } from "./words";
import { isOnPages, keepsWords, lookWords, opensWords, whenWords, whereWords, whoWords } from "./words";

type View = Schemas["PlacementView"];

/** One placement, setting by setting in words; each opens beneath itself. */
export function Settings({
  row,
  queues,
  placements,
}: {
  row: View;
  queues: { key: string; name: string }[];
  placements: Placements;
}) {
  const [open, setOpen] = useState<string | null>(null);
  const { draft, colours } = row;
  const change = (next: Placement) => void placements.change(row, next);
  const part = { draft, onChange: change };
  const line = Object.values(draft.look?.line ?? {})[0];
  const onPages = isOnPages(draft.form);
  const faultOf = (...at: string[]) =>
    row.faults.filter((fault) => at.some((begin) => fault.at.startsWith(begin))).map((fault) => fault.says);
  type Row = [string, ReactNode, ReactNode, string[]];
  // Whoever opens an address of its own has been asked already.
  const who: Row = ["To whom", whoWords(draft), <WhoForm key="who" {...part} />, faultOf("who")];
  const opens: Row = ["Opens", opensWords(draft), <OpensForm key="opens" {...part} />, faultOf("opens")];
  const rows: Row[] = [
    ["Where", whereWords(draft), <WhereForm key="where" {...part} />, faultOf("where", "slot")],
    ...(onPages ? [who] : []),
    [
      "When",
      whenWords(draft, (key) => queues.find((queue) => queue.key === key)?.name ?? key),
      <WhenForm key="when" queues={queues} {...part} />,
      faultOf("when"),
    ],
    ...(onPages && draft.form !== "inline" ? [opens] : []),
    [
      "Words",
      <span key="line" className="font-serif text-base">
        {line || <span className="text-soft">no inviting line yet</span>}
      </span>,
      <LineForm key="words" {...part} />,
      [],
    ],
    [
      "Look",
      <span key="look">
        {colours && (
          <span
            className="mr-2 rounded-sm px-1.5 py-0.5 text-xs font-semibold"
            style={{ background: colours.button, color: colours.on_button }}
          >
            {draft.look?.colour}
          </span>
        )}
        {colours &&
          `reads ${colours.ratio.toFixed(1)} to 1${colours.moved ? ", made darker or lighter to be read" : ""} · `}
        {lookWords(draft)}
      </span>,
      <LookForm key="form" {...part} />,
      faultOf("look"),
    ],
    [
      "Cookies",
      keepsWords[draft.manners?.keeps ?? "after_consent"],
      <MannersForm key="manners" {...part} />,
      faultOf("manners"),
    ],
  ];
  return (
    <section aria-label={draft.name} className="mt-5">
      <div className="flex flex-wrap items-center gap-2">
        <Name key={row.id} name={draft.name ?? ""} onKeep={(name) => change({ ...draft, name })} />
        <span className="grow" />
        <Button look="quiet" onClick={() => void placements.act(row, "up")}>
          Up
        </Button>
        <Button look="quiet" onClick={() => void placements.act(row, "down")}>
          Down
        </Button>
        {row.release > 0 && (
          <Button onClick={() => void placements.act(row, row.on_air ? "off_air" : "on_air")}>
            {row.on_air ? "Off air" : "On air"}
          </Button>
        )}
        <Button look="warn" onClick={() => void placements.act(row, "take_out")}>
          Take out
        </Button>
      </div>
      <div className="mt-1">
        {rows.map(([label, words, form, faults]) => (
          <div key={label} className="border-b border-hair">
            <button
              type="button"
              aria-expanded={open === label}
              onKeyDown={(event) => event.key === "Escape" && setOpen(null)}
              className="grid w-full grid-cols-[7rem_minmax(0,1fr)] items-baseline gap-x-2 py-1.5 text-left text-sm hover:bg-picked"
              onClick={() => setOpen(open === label ? null : label)}
            >
              <span className="text-xs text-soft">{label}</span>
              <span className="min-w-0 break-words">{words}</span>
            </button>
            {faults.map((says) => (
              <p key={says} className="ml-[7.5rem] pb-1 text-xs text-clay">
                {says}
              </p>
            ))}
            {open === label && <div className="mb-2 rounded-md border border-line p-3">{form}</div>}
          </div>
        ))}
      </div>
      <Release key={row.id} row={row} placements={placements} />
    </section>
  );
}

/** Its name, edited where it stands. */
function Name({ name, onKeep }: { name: string; onKeep: (name: string) => void }) {
  const [typed, setTyped] = useState<string | null>(null);
  const keep = () => {
    if (typed !== null && typed.trim() !== "" && typed !== name) onKeep(typed.trim());
    setTyped(null);
  };
  return (
    <TextInput
      aria-label="Name of the placement"
      className="!w-64 !border-transparent !bg-transparent !px-0 font-serif text-lg font-semibold hover:!border-line focus:!bg-paper focus:!px-2"
      maxLength={80}
      value={typed ?? name}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={keep}
      onKeyDown={(event) => event.key === "Enter" && keep()}
    />
  );
}
