import type { InputHTMLAttributes, ReactNode } from "react";

import { Button, TextInput } from "../../../kit/ui";

/** The narrow page on which one comes in: signing in, setting up, taking an invitation up. */
export function Entrance({
  title,
  lead,
  says,
  button,
  busy,
  onSubmit,
  children,
  below,
}: {
  title: string;
  lead: ReactNode;
  says: string;
  button: string;
  busy: boolean;
  onSubmit: () => void;
  children: ReactNode;
  below?: ReactNode;
}) {
  return (
    <main className="grid min-h-full place-items-center bg-oat p-4">
      <form
        className="w-80 max-w-full"
        onSubmit={(event) => {
          event.preventDefault();
          onSubmit();
        }}
      >
        <h1 className="font-serif text-xl font-semibold">{title}</h1>
        <div className="mt-1 mb-5 text-soft">{lead}</div>
        <div className="space-y-3">{children}</div>
        <p role="alert" className="mt-3 min-h-5 text-clay">
          {says}
        </p>
        <Button look="primary" type="submit" disabled={busy} className="mt-1 px-4 py-1.5">
          {button}
        </Button>
        {below && <div className="mt-4 text-sm text-soft">{below}</div>}
      </form>
    </main>
  );
}

/** A labelled box of such a page. */
export function Box({
  id,
  label,
  hint,
  value,
  onText,
  ...rest
}: Omit<InputHTMLAttributes<HTMLInputElement>, "onChange" | "value"> & {
  id: string;
  label: string;
  hint?: string;
  value: string;
  onText: (text: string) => void;
}) {
  const hintId = hint ? `${id}-hint` : undefined;
  return (
    <div>
      <label className="block text-xs text-soft" htmlFor={id}>
        {label}
      </label>
      <TextInput
        id={id}
        required
        value={value}
        aria-describedby={hintId}
        onChange={(event) => onText(event.target.value)}
        {...rest}
      />
      {hint && (
        <p id={hintId} className="mt-0.5 text-xs text-soft">
          {hint}
        </p>
      )}
    </div>
  );
}
