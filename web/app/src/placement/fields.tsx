/** Boxes that say what they hold once it is written: at Enter, or when one leaves them. */
import { useState } from "react";

import { Labelled, Select, TextArea, TextInput } from "../../../kit/ui";

export function Text({
  label,
  hint,
  value,
  className,
  onKeep,
}: {
  label: string;
  hint?: string;
  value: string;
  className?: string;
  onKeep: (value: string) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const keep = () => {
    if (typed !== null && typed !== value) onKeep(typed);
    setTyped(null);
  };
  return (
    <Labelled label={label} hint={hint}>
      {(id) => (
        <TextInput
          id={id}
          className={className}
          value={typed ?? value}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={keep}
          onKeyDown={(event) => event.key === "Enter" && keep()}
        />
      )}
    </Labelled>
  );
}

/** One thing a line. */
export function Lines({
  label,
  hint,
  value,
  onKeep,
}: {
  label: string;
  hint?: string;
  value: string[];
  onKeep: (value: string[]) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const keep = () => {
    if (typed === null) return;
    const next = typed
      .split("\n")
      .map((line) => line.trim())
      .filter(Boolean);
    if (next.join("\n") !== value.join("\n")) onKeep(next);
    setTyped(null);
  };
  return (
    <Labelled label={label} hint={hint}>
      {(id) => (
        <TextArea
          id={id}
          value={typed ?? value.join("\n")}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={keep}
        />
      )}
    </Labelled>
  );
}

export function Figure({
  label,
  hint,
  unit,
  value,
  most,
  onKeep,
}: {
  label: string;
  hint?: string;
  unit: string;
  value: number | null | undefined;
  most: number;
  onKeep: (value: number | null) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const keep = () => {
    if (typed === null) return;
    const number = typed.trim() === "" ? null : Math.round(Number(typed));
    if (number === null || (Number.isFinite(number) && number >= 0)) {
      onKeep(number === null ? null : Math.min(number, most));
    }
    setTyped(null);
  };
  return (
    <Labelled label={label} hint={hint}>
      {(id) => (
        <span className="text-sm text-soft">
          <TextInput
            id={id}
            inputMode="numeric"
            className="!w-20 text-right"
            value={typed ?? value ?? ""}
            onChange={(event) => setTyped(event.target.value)}
            onBlur={keep}
            onKeyDown={(event) => event.key === "Enter" && keep()}
          />{" "}
          {unit}
        </span>
      )}
    </Labelled>
  );
}

export function Choice<Key extends string>({
  label,
  hint,
  value,
  choices,
  onKeep,
}: {
  label: string;
  hint?: string;
  value: Key;
  choices: [Key, string][];
  onKeep: (value: Key) => void;
}) {
  return (
    <Labelled label={label} hint={hint}>
      {(id) => (
        <Select id={id} value={value} onChange={(event) => onKeep(event.target.value as Key)}>
          {choices.map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </Select>
      )}
    </Labelled>
  );
}
