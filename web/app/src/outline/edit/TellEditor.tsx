import type { Turn } from "../names";
import { PartsEditor } from "./PartsEditor";

type Tell = Extract<Turn, { kind: "tell" }>;

export function TellEditor({
  turn,
  onChange,
  onDone,
}: {
  turn: Tell;
  onChange: (turn: Turn, now?: boolean) => void;
  onDone: () => void;
}) {
  return <PartsEditor parts={turn.say} onChange={(say, now) => onChange({ ...turn, say }, now)} onDone={onDone} />;
}
