import { clsx } from "clsx";
import type { ReactNode } from "react";
import { useEffect, useRef, useState } from "react";

import type { Schemas } from "../../../api";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { CommentCount, RowComments } from "../dock/Comments";
import { RowRails, railsWidth } from "./Rails";
import { TurnBody } from "./TurnBody";
import { ArmBody } from "./ArmBody";
import { ArmEditor } from "./edit/ArmEditor";
import { SectionEditor } from "./edit/SectionEditor";
import { TurnEditor } from "./edit/TurnEditor";
import type { index } from "./names";
import { kindLabels, sectionName } from "./names";
import type { Row } from "./OutlineStage";

export type RowActions = {
  onPick: (key: string, how?: "range" | "also") => void;
  onOpen: (key: string) => void;
  onClose: () => void;
  onAdd: (key: string) => void;
  onAddArm: (turn: string) => void;
  onRemove: (id: string) => void;
  onGoTo: (key: string) => void;
  onFold: (key: string) => void;
  onUses: (field: string) => void;
  onRehearse: (turn: string) => void;
  onComment: (key: string) => void;
  /** Drops dragged turns above or below a row. */
  onDrop: (ids: string[], key: string, above: boolean) => void;
};

type Props = {
  row: Row;
  rowKey: string;
  marks: Schemas["Mark"][];
  /** Rows that are folded away below it. */
  hides: number;
  found: ReturnType<typeof index>;
  picked: boolean;
  /** Picked beside the row that has the focus. */
  also: boolean;
  first: boolean;
  open: boolean;
  /** The rehearsal stands here. */
  rehearsed: boolean;
  /** Other authors who are here. */
  others: string[];
  commenting: boolean;
  /** What is moved when this row is dragged. */
  dragged: string[];
  actions: RowActions;
};

const DRAG_TYPE = "application/x-lumbo-rows";

const changeWords: Record<Schemas["Change"], string> = {
  same: "",
  added: "new",
  removed: "gone",
  reworded: "reworded",
  rerouted: "leads elsewhere",
  rescored: "other points",
  moved: "moved",
  changed: "changed",
};

/** Kinds whose editor shows all that the row says. */
const openShows = new Set(["tell", "ask", "work_out", "close"]);

/** One row: its rails, what it says, and, when open, what it is made of. */
export function OutlineRow(props: Props) {
  const { row, rowKey: key, marks, found, picked, also, first, open, actions } = props;
  const { draft } = useShownDraft();
  const { dialogue, rails, findings } = draft;
  const element = useRef<HTMLDivElement>(null);
  const [over, setOver] = useState<"above" | "below" | null>(null);
  useEffect(() => {
    if (open) element.current?.scrollIntoView({ block: "nearest" });
  }, [open]);
  const goToSection = (section: string) => actions.onGoTo(`section:${section}`);
  const turn = row.kind === "turn" ? found.turns.get(row.id) : undefined;
  const arm = row.kind === "arm" ? found.arms.get(row.id) : undefined;
  const section = dialogue.sections.find((known) => known.id === row.section);
  const places =
    row.kind === "turn"
      ? [`${row.section}/${row.id}`]
      : row.kind === "arm"
        ? [`${row.section}/${row.turn}/${row.id}`]
        : row.kind === "section"
          ? [row.section]
          : [];
  const here = findings.filter((finding) => places.includes(finding.at));
  const mark = draft.marks[key];

  let kind = "";
  let body: ReactNode = null;
  if (row.kind === "section" && section) {
    body = (
      <span>
        <b className="mr-2 font-semibold">{row.index + 1}</b>
        <b className="font-semibold">{section.title}</b>
        <CameFrom section={section.id} onGoTo={actions.onGoTo} />
      </span>
    );
  } else if (row.kind === "then" && section) {
    kind = "then";
    body = <FollowWords section={section} onGoTo={goToSection} />;
  } else if (turn) {
    kind = kindLabels[turn.kind];
    // What is open is shown by its editor, not twice.
    body = open && openShows.has(turn.kind) ? null : <TurnBody turn={turn} onGoTo={goToSection} />;
  } else if (arm) {
    body = (
      <ArmBody
        arm={arm.arm}
        turn={arm.turn}
        lane={marks.find((one) => one.shape !== "pass")?.class ?? "rejoins"}
        onGoTo={goToSection}
      />
    );
  }
  const label = `${row.kind === "section" ? "Section" : row.kind === "arm" ? "Arm" : row.kind === "then" ? "After the section" : kind} row`;
  const folds =
    row.kind === "section" || (row.kind === "arm" && (props.hides > 0 || (arm?.arm.turns ?? []).length > 0));
  const indent = railsWidth(rails.lanes) + 8 + row.depth * 22;
  return (
    <div
      ref={element}
      data-row={key}
      className={clsx(
        "group relative",
        row.kind === "section" && "border-t border-line bg-oat/60",
        (picked || also) && "bg-picked",
        over === "above" && "shadow-[inset_0_2px_0_var(--indigo)]",
        over === "below" && "shadow-[inset_0_-2px_0_var(--indigo)]",
      )}
      onDragOver={(event) => {
        if (!event.dataTransfer.types.includes(DRAG_TYPE)) return;
        event.preventDefault();
        const box = event.currentTarget.getBoundingClientRect();
        setOver(row.kind === "turn" && event.clientY < box.top + box.height / 2 ? "above" : "below");
      }}
      onDragLeave={() => setOver(null)}
      onDrop={(event) => {
        const data = event.dataTransfer.getData(DRAG_TYPE);
        setOver(null);
        if (!data) return;
        event.preventDefault();
        actions.onDrop(data.split(" "), key, over === "above");
      }}
    >
      {mark && <ChangeBar change={mark.change} gone={mark.gone.length} />}
      <RowRails marks={marks} lanes={rails.lanes} />
      <div
        className={clsx("relative flex items-start pr-4", row.kind === "section" ? "py-2.5" : "py-[9px]")}
        style={{ paddingLeft: indent }}
      >
        {/* One button as large as the row; links inside the row lie above it. */}
        <button
          type="button"
          data-open
          draggable={row.kind === "turn" && !open}
          tabIndex={picked || first ? 0 : -1}
          aria-expanded={open}
          aria-label={label}
          aria-describedby={`row-${row.kind}-${row.id}`}
          onClick={(event) => {
            if (event.shiftKey) actions.onPick(key, "range");
            else if (event.ctrlKey || event.metaKey) actions.onPick(key, "also");
            else actions.onOpen(key);
          }}
          onFocus={() => !picked && !also && actions.onPick(key)}
          onDragStart={(event) => {
            event.dataTransfer.setData(DRAG_TYPE, props.dragged.join(" "));
            event.dataTransfer.effectAllowed = "move";
          }}
          className="absolute inset-0 cursor-pointer rounded-sm"
        />
        {row.kind !== "section" && (
          <span className="w-[66px] shrink-0 pt-px text-xs leading-5 text-soft">
            {props.rehearsed ? <b className="font-semibold text-indigo">▸ {kind}</b> : kind}
          </span>
        )}
        <div id={`row-${row.kind}-${row.id}`} className="pointer-events-none relative min-w-0 grow">
          {body}
          {open && mark && (mark.before || mark.gone.length > 0) && (
            <p className="mt-1 text-xs text-soft">
              {mark.before && (
                <>
                  in release {draft.newest_release}: <span className="font-serif">{mark.before}</span>
                </>
              )}
              {mark.gone.map((words) => (
                <span key={words} className="block">
                  taken out below: <span className="font-serif">{words}</span>
                </span>
              ))}
            </p>
          )}
          {here.map((finding) => (
            <p
              key={finding.key + finding.says}
              className={clsx("mt-1 text-xs", finding.severity === "error" ? "text-clay" : "text-amber")}
            >
              {finding.says}
              {finding.mend && <span className="text-soft"> {finding.mend}</span>}
              {finding.way && picked && <span className="text-soft"> W rehearses it.</span>}
            </p>
          ))}
        </div>
        <span className="pointer-events-none relative ml-3 flex shrink-0 items-baseline gap-2 text-xs text-soft">
          {mark && mark.change !== "same" && <span>{changeWords[mark.change]}</span>}
          {turn && draft.reach.changes_nothing.includes(turn.id) && (
            <span title="No band, queue, outcome, arm, text or formula depends on its answer from here on">
              decides nothing
            </span>
          )}
          <CommentCount rowKey={key} />
          {props.others.map((name) => (
            <span key={name} className="rounded-sm bg-indigo-wash px-1.5 text-indigo">
              {name.split(" ")[0]} is here
            </span>
          ))}
          {folds && (
            <button
              type="button"
              tabIndex={-1}
              className={clsx(
                "pointer-events-auto rounded-sm px-1 hover:underline",
                props.hides === 0 && !picked && "opacity-0 group-hover:opacity-100",
              )}
              aria-expanded={props.hides === 0}
              onClick={() => actions.onFold(key)}
            >
              {props.hides > 0 ? `${props.hides} folded` : "fold"}
            </button>
          )}
        </span>
      </div>
      {(open || props.commenting) && (
        <div
          role="presentation"
          className="border-b border-line pr-4 pb-3"
          style={{ paddingLeft: indent + (row.kind === "section" ? 0 : 66) }}
          onKeyDown={(event) => {
            if (event.key === "Escape" && !event.defaultPrevented) {
              event.preventDefault();
              actions.onClose();
            }
          }}
        >
          {open && turn && (
            <TurnEditor
              key={turn.id}
              turn={turn}
              onAddArm={() => actions.onAddArm(turn.id)}
              onUses={actions.onUses}
              onDone={actions.onClose}
            />
          )}
          {open && arm && <ArmEditor key={arm.arm.id} arm={arm.arm} turn={arm.turn} />}
          {open && (row.kind === "section" || row.kind === "then") && section && (
            <SectionEditor key={section.id} section={section} onDone={actions.onClose} />
          )}
          <RowComments rowKey={key} focus={props.commenting} />
          {open && <RowTools {...props} />}
        </div>
      )}
    </div>
  );
}

/** What changed since the last release, at the row's edge. */
function ChangeBar({ change, gone }: { change: Schemas["Change"]; gone: number }) {
  return (
    <>
      {change !== "same" && (
        <span
          aria-hidden
          className={clsx("absolute inset-y-px left-0 w-[3px]", change === "added" ? "bg-spruce" : "bg-amber")}
        />
      )}
      {gone > 0 && <span aria-hidden className="absolute bottom-0 left-0 h-[3px] w-3 bg-clay" />}
    </>
  );
}

/** What can be done with an open row, for the mouse; the keyboard has shortcuts for all of it. */
function RowTools({ row, rowKey: key, found, actions }: Props) {
  const tool = "rounded-sm px-1.5 py-1 text-sm font-medium text-spruce hover:underline";
  const turn = found.turns.get(row.kind === "arm" ? (row.turn ?? "") : row.id);
  const hasArms = turn && ["ask", "fork", "file_lead", "consult", "offer_times", "bring_in_rep"].includes(turn.kind);
  return (
    <div className="mt-2 flex flex-wrap gap-3">
      <button type="button" className={clsx(tool, "-ml-1.5")} onClick={actions.onClose}>
        Done
      </button>
      <button type="button" className={tool} onClick={() => actions.onAdd(key)}>
        {row.kind === "arm"
          ? "Add a turn in this arm"
          : row.kind === "section"
            ? "Add a turn here"
            : "Add a turn below"}
      </button>
      {hasArms && (
        <button type="button" className={tool} onClick={() => actions.onAddArm(turn.id)}>
          Add an arm
        </button>
      )}
      {row.kind === "turn" && (
        <button type="button" className={tool} onClick={() => actions.onRehearse(row.id)}>
          Rehearse from here
        </button>
      )}
      {row.kind !== "then" && (
        <button type="button" className={tool} onClick={() => actions.onComment(key)}>
          Comment
        </button>
      )}
      {row.kind !== "then" && (
        <button type="button" className={clsx(tool, "!text-clay")} onClick={() => actions.onRemove(row.id)}>
          Take out
        </button>
      )}
    </div>
  );
}

export function SectionLink({ id, onGoTo }: { id: string; onGoTo: (section: string) => void }) {
  const { draft } = useShownDraft();
  return (
    <button
      type="button"
      className="pointer-events-auto rounded-sm font-semibold hover:underline"
      onClick={() => onGoTo(id)}
    >
      {sectionName(draft.dialogue, id)}
    </button>
  );
}

function FollowWords({ section, onGoTo }: { section: Schemas["Section"]; onGoTo: (section: string) => void }) {
  const { draft } = useShownDraft();
  const { dialogue } = draft;
  const { then } = section;
  const soft = "text-soft text-sm";
  if (then === "carry_on") {
    const next = dialogue.sections[dialogue.sections.findIndex((known) => known.id === section.id) + 1];
    const last = section.turns?.at(-1);
    if (last?.kind === "close") return <span className={soft}>ended</span>;
    return (
      <span className={soft}>
        carry on{" "}
        {next ? (
          <>
            to <SectionLink id={next.id} onGoTo={onGoTo} />
          </>
        ) : (
          "to nothing"
        )}
      </span>
    );
  }
  if (then === "return") return <span className={soft}>return to where the Visit came from</span>;
  if ("go_to" in then) {
    return (
      <span className={soft}>
        go to <SectionLink id={then.go_to} onGoTo={onGoTo} />
      </span>
    );
  }
  const { outcome } = then.close;
  return (
    <span className={soft}>close: {dialogue.outcomes.find((known) => known.id === outcome)?.label ?? outcome}</span>
  );
}

/** Who comes to a section, beside its title; each leads to the row that leads here. */
function CameFrom({ section, onGoTo }: { section: string; onGoTo: (key: string) => void }) {
  const { draft } = useShownDraft();
  const from = draft.arrivals.filter((arrival) => arrival.section === section && arrival.from !== "any-time");
  if (from.length === 0) return null;
  const shown = from.slice(0, 4);
  return (
    <span className="ml-3 text-xs text-soft">
      from{" "}
      {shown.map((arrival, place) => (
        <span key={arrival.from}>
          {place > 0 && ", "}
          <button
            type="button"
            className="pointer-events-auto rounded-sm font-semibold hover:underline"
            onClick={() => onGoTo(arrival.from)}
          >
            {arrival.says}
          </button>
        </span>
      ))}
      {from.length > shown.length && ` and ${from.length - shown.length} more`}
    </span>
  );
}
