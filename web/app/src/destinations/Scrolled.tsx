import { clsx } from "clsx";

/** A text in mono that scrolls in a box of its own, by keyboard too. */
export function Scrolled({ label, className, children }: { label: string; className: string; children: string }) {
  return (
    <section
      aria-label={label}
      // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- what scrolls must be reached by keyboard
      tabIndex={0}
      className={clsx("overflow-auto font-mono text-xs break-words whitespace-pre-wrap", className)}
    >
      {children}
    </section>
  );
}
