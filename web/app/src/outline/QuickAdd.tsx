import { clsx } from "clsx";
import { useEffect, useLayoutEffect, useRef } from "react";

import { Button, TextArea } from "../../../kit/ui";
import type { Schemas } from "../../../api";
import { create } from "../frame/store";
import { railsWidth } from "./Rails";
import { Understood } from "./Understood";
import { newKinds } from "./make";
import type { Kind } from "./names";
import { kindLabels } from "./names";

/** What is being written; it outlives the line, which moves below each row that was added. */
export const written = create("");

/**
 * The line that adds below a row. A line is said, or asked where it ends with a question mark; a pasted or typed outline
 * of several lines is taken as a whole. Arrow down leads to the kinds of turn.
 */
export function QuickAdd({
  lanes,
  depth,
  says,
  at,
  onWrite,
  onPick,
  onClose,
}: {
  lanes: number;
  depth: number;
  /** Why the last line was not taken. */
  says: string;
  /** Where its first turn would go. */
  at: Schemas["Place"] | null;
  onWrite: (text: string) => void;
  onPick: (kind: Kind) => void;
  onClose: () => void;
}) {
  const text = written.use();
  const setText = (words: string) => written.set(() => words);
  const box = useRef<HTMLDivElement>(null);
  // At once, before another key can arrive: outside the box a letter would be a command.
  useLayoutEffect(() => {
    const area = box.current?.querySelector("textarea");
    area?.focus();
    // The line moved while a letter was typed: what follows belongs behind it.
    area?.setSelectionRange(area.value.length, area.value.length);
  }, []);
  useEffect(() => {
    // In braces: what it gives back, a promise in newer browsers, is no cleanup.
    box.current?.scrollIntoView({ block: "nearest" });
  }, [says]);
  const lines = text.split("\n").filter((line) => line.trim()).length;
  const write = () => {
    if (!text.trim()) return;
    onWrite(text);
    setText("");
  };
  const go = (by: number) => {
    const places = [...(box.current?.querySelectorAll<HTMLElement>("textarea, button[data-kind]") ?? [])];
    const at = places.indexOf(document.activeElement as HTMLElement);
    places[Math.max(0, Math.min(places.length - 1, at + by))]?.focus();
  };
  return (
    <div
      ref={box}
      role="toolbar"
      tabIndex={-1}
      aria-label="Add below"
      className="border-y border-line bg-picked py-2 pr-4"
      style={{ paddingLeft: railsWidth(lanes) + 8 + 66 + depth * 22 }}
      onKeyDown={(event) => {
        if (event.key === "Escape") {
          event.stopPropagation();
          onClose();
        }
        const inButtons = (event.target as HTMLElement).tagName === "BUTTON";
        if (event.key === "ArrowDown" && (inButtons || lines <= 1)) {
          event.preventDefault();
          go(1);
        }
        if (inButtons && ["ArrowRight", "ArrowLeft", "ArrowUp"].includes(event.key)) {
          event.preventDefault();
          go(event.key === "ArrowRight" ? 1 : -1);
        }
      }}
    >
      <TextArea
        aria-label="What to add"
        className="font-serif text-lg"
        placeholder="Say it, or ask it: Which depot? Aldermoor / Saltwick [Depot]"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === "Enter" && !event.shiftKey && !event.nativeEvent.isComposing) {
            event.preventDefault();
            write();
          }
        }}
      />
      {says && (
        <p role="alert" className="mt-1 text-sm text-clay">
          {says}
        </p>
      )}
      {at && !says && <Understood text={text} at={at} />}
      <div className="mt-1.5 flex flex-wrap items-center gap-1.5">
        {newKinds.map(({ kind, says: what, later }) => (
          <Button
            key={kind}
            data-kind={kind}
            title={later ? `${what}; a later version runs it` : what}
            className={clsx("!py-0.5", later && "!border-transparent !bg-transparent !text-soft")}
            onClick={() => onPick(kind)}
          >
            {kindLabels[kind]}
          </Button>
        ))}
        <span className="ml-auto text-xs text-soft">
          {lines > 1 ? `${lines} lines, Enter puts them in` : "Enter adds, ↓ kinds, Esc done"}
        </span>
      </div>
    </div>
  );
}
