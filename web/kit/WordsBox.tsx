import { TextInput } from "./ui";

/** Words with commas between them, kept when the box is left or Enter is pressed. */
export function WordsBox({
  id,
  label,
  words,
  placeholder,
  className,
  onWords,
}: {
  id?: string;
  label?: string;
  words: string[];
  placeholder?: string;
  className?: string;
  onWords: (words: string[]) => void;
}) {
  const kept = words.join(", ");
  return (
    <TextInput
      id={id}
      aria-label={label}
      placeholder={placeholder}
      className={className}
      // What is kept elsewhere meanwhile takes its place.
      key={kept}
      defaultValue={kept}
      onBlur={(event) => {
        const next = event.target.value
          .split(",")
          .map((word) => word.trim())
          .filter(Boolean);
        if (next.join(", ") !== kept) onWords(next);
      }}
      onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
    />
  );
}
