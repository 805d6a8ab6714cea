import { Labelled, TextInput } from "../../../kit/ui";

/** A labelled box for a password: the one that one has, or a new one. */
export function PasswordBox({
  label,
  hint,
  fresh = false,
  value,
  onText,
}: {
  label: string;
  hint?: string;
  fresh?: boolean;
  value: string;
  onText: (text: string) => void;
}) {
  return (
    <Labelled label={label} {...(hint ? { hint } : {})}>
      {(id) => (
        <TextInput
          id={id}
          type="password"
          required
          autoComplete={fresh ? "new-password" : "current-password"}
          value={value}
          onChange={(event) => onText(event.target.value)}
        />
      )}
    </Labelled>
  );
}
