import type { Turn } from "../names";

type FileLead = Extract<Turn, { kind: "file_lead" }>;

/** When a lead gets its owner: at once, or later where the conversation goes on after it. */
export function FileLeadEditor({ turn, onChange }: { turn: FileLead; onChange: (turn: Turn, now?: boolean) => void }) {
  return (
    <label className="mb-2 flex min-h-6 items-start gap-2 text-sm">
      <input
        type="checkbox"
        className="mt-1"
        checked={turn.early ?? false}
        onChange={(event) => onChange({ ...turn, early: event.target.checked }, true)}
      />
      <span>
        More is asked after it: choose the owner later
        <span className="block text-xs text-soft">
          The lead is kept at once. Its owner is chosen when it is filed again, at the end, or after five minutes of
          silence.
        </span>
      </span>
    </label>
  );
}
