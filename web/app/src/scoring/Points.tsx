import { clsx } from "clsx";
import { useState } from "react";

import { plain, signed } from "./words";

/** What was typed as a number, with any sign; what stands there where nothing was typed. */
const numberOf = (typed: string | null, value: number): number =>
  typed === null ? value : Number(typed.replace("−", "-").replace("+", "").trim());

/** Whole points that are typed where they stand; Enter or leaving keeps them, Escape does not, arrows count. */
export function Points({
  label,
  value,
  onChange,
  className,
  plain: isPlain = false,
}: {
  label: string;
  value: number;
  onChange: (value: number) => void;
  className?: string;
  /** Without a sign and colour: a place on the scale. */
  plain?: boolean;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const keep = () => {
    const number = numberOf(typed, value);
    if (Number.isInteger(number) && Math.abs(number) <= 100_000 && number !== value && typed !== "") onChange(number);
    setTyped(null);
  };
  return (
    <input
      aria-label={label}
      inputMode="numeric"
      className={clsx(
        "w-14 rounded-sm border border-transparent bg-transparent px-1 text-right font-semibold figures hover:border-line focus:border-line focus:bg-paper",
        typed === null && !isPlain && (value > 0 ? "text-spruce" : value < 0 ? "text-clay" : "text-soft"),
        className,
      )}
      value={typed ?? (isPlain ? plain(value) : signed(value))}
      onFocus={(event) => event.target.select()}
      onClick={(event) => event.currentTarget.select()}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={keep}
      onKeyDown={(event) => {
        const step = { ArrowUp: 1, ArrowDown: -1 }[event.key];
        if (step) {
          event.preventDefault();
          setTyped(String((numberOf(typed, value) || 0) + step * (event.shiftKey ? 10 : 1)));
        }
        if (event.key === "Enter") event.currentTarget.blur();
        if (event.key === "Escape") {
          event.stopPropagation();
          setTyped(null);
          const box = event.currentTarget;
          requestAnimationFrame(() => box.blur());
        }
      }}
    />
  );
}
