/** Small parts that every screen shares: buttons, fields, notes. */
import { clsx } from "clsx";
import type {
  ButtonHTMLAttributes,
  InputHTMLAttributes,
  ReactNode,
  SelectHTMLAttributes,
  TextareaHTMLAttributes,
} from "react";
import { useEffect, useId, useLayoutEffect, useRef } from "react";

type ButtonProps = ButtonHTMLAttributes<HTMLButtonElement> & { look?: "primary" | "plain" | "quiet" | "warn" };

export function Button({ look = "plain", className, type = "button", ...rest }: ButtonProps) {
  return (
    <button
      // oxlint-disable-next-line react/button-has-type -- given, with a safe default
      type={type}
      className={clsx(
        "rounded-md px-3 py-1 text-sm font-medium whitespace-nowrap",
        look === "primary" && "border border-spruce bg-spruce text-on-spruce",
        look === "plain" && "border border-line bg-paper text-ink hover:border-soft",
        look === "quiet" && "px-1.5 text-spruce hover:underline",
        look === "warn" && "border border-line bg-paper text-clay hover:border-clay",
        className,
      )}
      {...rest}
    />
  );
}

const box = "rounded-md border border-line bg-paper px-2 py-1 text-ink placeholder:text-soft";

export function TextInput({ className, ...rest }: InputHTMLAttributes<HTMLInputElement>) {
  return <input className={clsx(box, "w-full", className)} {...rest} />;
}

export function Select({ className, ...rest }: SelectHTMLAttributes<HTMLSelectElement>) {
  return <select className={clsx(box, "max-w-full", className)} {...rest} />;
}

/** A text box that grows with its text. */
export function TextArea({
  className,
  value,
  ...rest
}: TextareaHTMLAttributes<HTMLTextAreaElement> & { value: string }) {
  const area = useRef<HTMLTextAreaElement>(null);
  useLayoutEffect(() => {
    const element = area.current;
    if (!element) return;
    element.style.height = "auto";
    element.style.height = `${element.scrollHeight + 2}px`;
  }, [value]);
  return (
    <textarea
      ref={area}
      rows={1}
      className={clsx(box, "block w-full resize-none", className)}
      value={value}
      {...rest}
    />
  );
}

/** A label in words at the left, what it labels at the right. */
export function Labelled({
  label,
  hint,
  children,
}: {
  label: string;
  hint?: string;
  children: (id: string) => ReactNode;
}) {
  const id = useId();
  return (
    <div className="grid grid-cols-[8.25rem_minmax(0,1fr)] items-start gap-x-3 py-1 max-md:grid-cols-1">
      <label htmlFor={id} className="pt-1.5 text-xs text-soft">
        {label}
      </label>
      <div>
        {children(id)}
        {hint && <p className="mt-0.5 text-xs text-soft">{hint}</p>}
      </div>
    </div>
  );
}

const bandLooks = ["bg-hair text-soft", "bg-amber-wash text-amber", "bg-spruce-wash text-spruce"];

/** A band's name on a wash that rises with its rank; a lead that was ruled out stands apart. */
export function BandMark({ label, rank }: { label: string; rank: number }) {
  const look = rank < 0 ? "bg-clay-wash text-clay" : bandLooks[Math.min(rank, 2)];
  return <span className={clsx("rounded-sm px-1.5 py-0.5 text-xs font-medium", look)}>{label}</span>;
}

/** Something that must be read: a failure, a collision. */
export function Notice({ tone, children }: { tone: "watch" | "wrong" | "plain"; children: ReactNode }) {
  return (
    <div
      role={tone === "plain" ? "status" : "alert"}
      className={clsx(
        "border-b px-4 py-2 text-sm",
        tone === "watch" && "border-amber bg-amber-wash",
        tone === "wrong" && "border-clay bg-clay-wash",
        tone === "plain" && "border-line bg-paper",
      )}
    >
      {children}
    </div>
  );
}

/** Sets the window's title while a screen is shown. */
export function useTitle(title: string) {
  useEffect(() => {
    document.title = `${title} · Lumbo`;
  }, [title]);
}
