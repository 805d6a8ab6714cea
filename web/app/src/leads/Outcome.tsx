import { useState } from "react";

import { Button, Select, TextInput } from "../../../kit/ui";
import type { Details } from "./useWork";
import type { Asking, Status } from "./words";
import { asks, marks, moreMarks } from "./words";

/** One press for what happens most, a list for the rest. */
export function Marks({ status, onMark }: { status: Status; onMark: (mark: Status) => void }) {
  return (
    <div className="mt-2 flex flex-wrap gap-1.5">
      {marks.map(({ key, label, keys }) => (
        <Button key={key} title={`Shortcut ${keys}`} disabled={status === key} onClick={() => onMark(key)}>
          {label}
        </Button>
      ))}
      <Select
        aria-label="Another outcome"
        className="!w-19 !py-0.5 text-sm"
        value=""
        onChange={(event) => onMark(event.target.value as Status)}
      >
        <option value="" disabled>
          More
        </option>
        {moreMarks
          .filter(({ key }) => key !== status)
          .map(({ key, label }) => (
            <option key={key} value={key}>
              {label}
            </option>
          ))}
      </Select>
    </div>
  );
}

/** What an outcome asks for before it is kept. */
export function AskFirst({
  status,
  onSay,
  onCancel,
}: {
  status: Asking;
  onSay: (details: Details) => void;
  onCancel: () => void;
}) {
  const { kind, label, needed } = asks[status];
  const [text, setText] = useState("");
  const [currency, setCurrency] = useState("GBP");
  const escape = (event: React.KeyboardEvent) => event.key === "Escape" && onCancel();
  const details = (): Details => {
    if (kind === "day") return { later_on: text };
    if (kind === "amount") return text.trim() ? { amount: text, currency } : {};
    return { reason: text };
  };
  return (
    <form
      className="mt-2 flex flex-wrap gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        onSay(details());
      }}
    >
      <TextInput
        aria-label={kind === "reason" ? "Why" : label}
        autoFocus
        type={kind === "day" ? "date" : "text"}
        inputMode={kind === "amount" ? "decimal" : undefined}
        className="!w-48"
        placeholder={label}
        value={text}
        maxLength={500}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={escape}
      />
      {kind === "amount" && (
        <TextInput
          aria-label="Currency"
          className="!w-16"
          maxLength={3}
          value={currency}
          onChange={(event) => setCurrency(event.target.value.toUpperCase())}
          onKeyDown={escape}
        />
      )}
      <Button look="primary" type="submit" disabled={needed && !text.trim()}>
        Save
      </Button>
      <Button onClick={onCancel}>Not now</Button>
    </form>
  );
}
