import { clsx } from "clsx";
import type { ReactNode } from "react";
import { useEffect, useRef } from "react";

import type { Schemas } from "../../../api";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { RowRails, railsWidth } from "./Rails";
import { TurnBody } from "./TurnBody";
import { ArmBody } from "./ArmBody";
import { ArmEditor } from "./edit/ArmEditor";
import { SectionEditor } from "./edit/SectionEditor";
import { TurnEditor } from "./edit/TurnEditor";
import type { index } from "./names";
import { kindLabels, sectionName } from "./names";
import type { Row } from "./OutlineStage";

type Props = {
  row: Row;
  marks: Schemas["Mark"][];
  found: ReturnType<typeof index>;
  picked: boolean;
  first: boolean;
  open: boolean;
  onPick: () => void;
  onOpen: () => void;
  onClose: () => void;
  onAdd: () => void;
  onAddArm: (turn: string) => void;
  onRemove: () => void;
  onGoTo: (section: string) => void;
};

/** One row: its rails, what it says, and, when open, what it is made of. */
export function OutlineRow(props: Props) {
  const { row, marks, found, picked, first, open, onPick, onOpen, onClose } = props;
  const { draft } = useShownDraft();
  const { dialogue, rails, findings } = draft;
  const element = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (open) element.current?.scrollIntoView({ block: "nearest" });
  }, [open]);
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

  let kind = "";
  let body: ReactNode = null;
  if (row.kind === "section" && section) {
    body = (
      <span>
        <b className="mr-2 font-semibold">{row.index + 1}</b>
        <b className="font-semibold">{section.title}</b>
        <CameFrom section={section.id} onGoTo={props.onGoTo} />
      </span>
    );
  } else if (row.kind === "then" && section) {
    kind = "then";
    body = <FollowWords section={section} onGoTo={props.onGoTo} />;
  } else if (turn) {
    kind = kindLabels[turn.kind];
    body = <TurnBody turn={turn} onGoTo={props.onGoTo} />;
  } else if (arm) {
    body = (
      <ArmBody
        arm={arm.arm}
        turn={arm.turn}
        lane={marks.find((mark) => mark.shape !== "pass")?.class ?? "rejoins"}
        onGoTo={props.onGoTo}
      />
    );
  }
  const label = `${row.kind === "section" ? "Section" : row.kind === "arm" ? "Arm" : row.kind === "then" ? "After the section" : kind} row`;
  return (
    <div
      ref={element}
      data-row={`${row.kind}:${row.id}`}
      className={clsx(
        "relative",
        row.kind === "section" && "border-t border-line bg-oat/60 first:border-t-0",
        picked && "bg-picked",
      )}
    >
      <RowRails marks={marks} lanes={rails.lanes} />
      <div
        className={clsx("relative flex items-start pr-4", row.kind === "section" ? "py-2.5" : "py-[9px]")}
        style={{ paddingLeft: railsWidth(rails.lanes) + 8 + row.depth * 22 }}
      >
        {/* One button as large as the row; links inside the row lie above it. */}
        <button
          type="button"
          data-open
          tabIndex={picked || first ? 0 : -1}
          aria-expanded={open}
          aria-label={label}
          aria-describedby={`row-${row.kind}-${row.id}`}
          onClick={onOpen}
          onFocus={onPick}
          className="absolute inset-0 cursor-pointer rounded-sm"
        />
        {row.kind !== "section" && row.kind !== "arm" && (
          <span className="w-[66px] shrink-0 pt-px text-xs leading-5 text-soft">{kind}</span>
        )}
        {row.kind === "arm" && <span className="w-[66px] shrink-0" />}
        <div id={`row-${row.kind}-${row.id}`} className="pointer-events-none relative min-w-0 grow">
          {body}
          {here.map((finding) => (
            <p
              key={finding.key + finding.says}
              className={clsx("mt-1 text-xs", finding.severity === "error" ? "text-clay" : "text-amber")}
            >
              {finding.says}
              {finding.mend && <span className="text-soft"> {finding.mend}</span>}
            </p>
          ))}
        </div>
      </div>
      {open && (
        <div
          role="presentation"
          className="border-b border-line pr-4 pb-3"
          style={{ paddingLeft: railsWidth(rails.lanes) + 8 + 66 + row.depth * 22 }}
          onKeyDown={(event) => {
            if (event.key === "Escape") {
              event.preventDefault();
              onClose();
            }
          }}
        >
          {turn && <TurnEditor key={turn.id} turn={turn} onAddArm={() => props.onAddArm(turn.id)} />}
          {arm && <ArmEditor key={arm.arm.id} arm={arm.arm} turn={arm.turn} />}
          {(row.kind === "section" || row.kind === "then") && section && (
            <SectionEditor key={section.id} section={section} />
          )}
          <RowTools {...props} />
        </div>
      )}
    </div>
  );
}

/** What can be done with an open row, for the mouse; the keyboard has shortcuts for all of it. */
function RowTools({ row, found, onAdd, onAddArm, onRemove, onClose }: Props) {
  const tool = "rounded-sm px-1.5 py-1 text-sm font-medium text-spruce hover:underline";
  const turn = found.turns.get(row.kind === "arm" ? (row.turn ?? "") : row.id);
  const hasArms = turn && ["ask", "fork", "file_lead"].includes(turn.kind);
  return (
    <div className="mt-2 flex gap-3">
      <button type="button" className={clsx(tool, "-ml-1.5")} onClick={onClose}>
        Done
      </button>
      <button type="button" className={tool} onClick={onAdd}>
        {row.kind === "arm"
          ? "Add a turn in this arm"
          : row.kind === "section"
            ? "Add a turn here"
            : "Add a turn below"}
      </button>
      {hasArms && (
        <button type="button" className={tool} onClick={() => onAddArm(turn.id)}>
          Add an arm
        </button>
      )}
      {row.kind !== "then" && (
        <button type="button" className={clsx(tool, "!text-clay")} onClick={onRemove}>
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

/** Who goes to a section, beside its title. */
function CameFrom({ section, onGoTo }: { section: string; onGoTo: (section: string) => void }) {
  const { draft } = useShownDraft();
  const from = new Set<string>();
  for (const known of draft.dialogue.sections) {
    const text = JSON.stringify(known);
    if (known.id !== section && (text.includes(`"go_to":"${section}"`) || text.includes(`"section":"${section}"`)))
      from.add(known.id);
  }
  if (from.size === 0) return null;
  return (
    <span className="ml-3 text-xs text-soft">
      from{" "}
      {[...from].map((id, place) => (
        <span key={id}>
          {place > 0 && ", "}
          <SectionLink id={id} onGoTo={onGoTo} />
        </span>
      ))}
    </span>
  );
}
