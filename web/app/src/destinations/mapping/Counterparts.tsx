import type { Schemas } from "../../../../api";
import { Select } from "../../../../kit/ui";

/** Ours at the left, theirs at the right: options of a field, bands, statuses, people. */
export function Counterparts({
  of,
  ours,
  theirs,
  chosen,
  itself,
  disabled,
  onChange,
}: {
  of: string;
  ours: { key: string; label: string }[];
  theirs: Schemas["TheirOption"][];
  chosen: Record<string, string>;
  /** What counts where nothing is chosen: the one there that goes by the same name. */
  itself: (key: string) => string | undefined;
  disabled: boolean;
  onChange: (chosen: Record<string, string>) => void;
}) {
  return (
    <ul className="my-1 grid w-fit grid-cols-[auto_auto] items-center gap-x-3 gap-y-1 border-l-2 border-line pl-3 text-sm">
      {ours.map(({ key, label }) => {
        const same = itself(key);
        return (
          <li key={key} className="contents">
            <span>{label}</span>
            <Select
              aria-label={`${of}: ${label}`}
              className="!py-0.5 text-sm"
              disabled={disabled}
              value={chosen[key] ?? ""}
              onChange={(event) => {
                const next = { ...chosen };
                if (event.target.value) next[key] = event.target.value;
                else delete next[key];
                onChange(next);
              }}
            >
              <option value="">{same ? `${same}, by its name` : "left out"}</option>
              {theirs.map((option) => (
                <option key={option.value} value={option.value}>
                  {option.label}
                </option>
              ))}
            </Select>
          </li>
        );
      })}
    </ul>
  );
}
