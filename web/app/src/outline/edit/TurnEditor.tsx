import { useShownDraft } from "../../dialogue/DialogueScreen";
import type { Turn } from "../names";
import { AskEditor } from "./AskEditor";
import { CloseEditor } from "./CloseEditor";
import { FileLeadEditor } from "./FileLeadEditor";
import { LineAndFields, isLineAndFields } from "./LineAndFields";
import { Measure } from "./Measure";
import { TellEditor } from "./TellEditor";
import { VisitEditor } from "./VisitEditor";
import { WorkOutEditor } from "./WorkOutEditor";
import { useAutosave } from "./useAutosave";

/** Saves a turn without its arms, which stay where they are. */
export function TurnEditor({
  turn,
  onAddArm,
  onUses,
  onDone,
}: {
  turn: Turn;
  onAddArm: () => void;
  onUses: (field: string) => void;
  onDone: () => void;
}) {
  const { change: send } = useShownDraft();
  const bare = "arms" in turn ? { ...turn, arms: [] } : turn;
  const { value, change, flush } = useAutosave<Turn>(bare, (next) => send({ op: "change_turn", turn: next }));
  const done = () => {
    flush();
    onDone();
  };
  return (
    <div className="pt-1" onBlur={flush}>
      {value.kind === "tell" && <TellEditor turn={value} onChange={change} onDone={done} />}
      {value.kind === "ask" && <AskEditor turn={value} onChange={change} onUses={onUses} onDone={done} />}
      {value.kind === "work_out" && <WorkOutEditor turn={value} onChange={change} />}
      {value.kind === "visit" && <VisitEditor turn={value} onChange={change} />}
      {value.kind === "close" && <CloseEditor turn={value} onChange={change} onDone={done} />}
      {value.kind === "file_lead" && <FileLeadEditor turn={value} onChange={change} />}
      {(value.kind === "fork" || value.kind === "file_lead") && (
        <p className="text-sm text-soft">
          Its arms are rows of their own, below.{" "}
          <button type="button" className="font-medium text-spruce hover:underline" onClick={onAddArm}>
            Add one
          </button>
        </p>
      )}
      {isLineAndFields(value) && <LineAndFields turn={value} onChange={change} onDone={done} />}
      <Measure turn={turn.id} />
    </div>
  );
}
