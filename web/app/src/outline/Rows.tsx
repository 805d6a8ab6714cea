import { useVirtualizer } from "@tanstack/react-virtual";
import { clsx } from "clsx";
import type { ReactNode, Ref } from "react";
import { useCallback, useEffect, useImperativeHandle, useMemo, useRef, useState } from "react";

import type { DraftView } from "../dialogue/useDraft";
import { MiniMap } from "./MiniMap";
import type { ShownRow } from "./folding";

export type RowsHandle = {
  /** Brings a row into view and gives it the focus, as soon as it is there. */
  focus: (key: string) => void;
};

/** Frames to wait for a row that was scrolled to. */
const PATIENCE = 30;

/** Outlines with more rows than this get a map at the left. */
const MAP_FROM = 60;

/** The outline's rows; only those near the part in view are in the page. */
export function Rows({
  ref,
  draft,
  shown,
  below,
  renderBelow,
  renderRow,
  empty,
}: {
  ref: Ref<RowsHandle>;
  draft: DraftView;
  shown: ShownRow[];
  /** The row below which something else is shown. */
  below: string | null;
  renderBelow: ReactNode;
  renderRow: (row: ShownRow) => ReactNode;
  /** What to do first, where there is next to nothing. */
  empty: ReactNode;
}) {
  const main = useRef<HTMLElement>(null);
  const wanted = useRef<string | null>(null);
  // oxlint-disable-next-line react/incompatible-library -- its functions are only called in effects and events
  const rows = useVirtualizer({
    count: shown.length,
    getScrollElement: () => main.current,
    estimateSize: (at) => (shown[at]?.row.kind === "arm" ? 44 : 54),
    getItemKey: (at) => shown[at]?.key ?? at,
    overscan: 10,
  });
  const [view, setView] = useState({ from: 0, to: 1 });

  /** Focuses the wanted row once it is in the page, which may take some frames after scrolling there. */
  const settle = useCallback((frames = PATIENCE) => {
    const key = wanted.current;
    if (!key) return;
    const element = main.current?.querySelector<HTMLElement>(`[data-row="${CSS.escape(key)}"] [data-open]`);
    if (!element) {
      if (frames > 0) requestAnimationFrame(() => settle(frames - 1));
      return;
    }
    wanted.current = null;
    element.focus({ preventScroll: true });
    element.closest("[data-row]")?.scrollIntoView({ block: "nearest" });
  }, []);
  useImperativeHandle(
    ref,
    () => ({
      focus: (key) => {
        wanted.current = key;
        const at = shown.findIndex((row) => row.key === key);
        if (at >= 0) rows.scrollToIndex(at, { align: "auto" });
        requestAnimationFrame(() => settle());
      },
    }),
    [rows, settle, shown],
  );
  // A row that was asked for before it was there.
  useEffect(() => {
    const key = wanted.current;
    if (!key) return;
    const at = shown.findIndex((row) => row.key === key);
    if (at >= 0) rows.scrollToIndex(at, { align: "auto" });
    requestAnimationFrame(() => settle());
  }, [rows, settle, shown]);

  const items = rows.getVirtualItems();
  const first = items.find((item) => item.end > (rows.scrollOffset ?? 0))?.index ?? 0;
  const height = rows.scrollRect?.height ?? 0;
  const last = items.findLast((item) => item.start < (rows.scrollOffset ?? 0) + height)?.index ?? first;
  useEffect(() => {
    setView({ from: first / Math.max(1, shown.length), to: (last + 1) / Math.max(1, shown.length) });
  }, [first, last, shown.length]);
  const map = useMemo(
    () =>
      shown.length > MAP_FROM && (
        <MiniMap
          draft={draft}
          shown={shown}
          view={view}
          onGo={(place) => rows.scrollToIndex(Math.min(place, shown.length - 1), { align: "center" })}
        />
      ),
    [draft, rows, shown, view],
  );
  return (
    <>
      {map}
      <main
        aria-label="Outline"
        className="relative min-w-0 grow overflow-auto border-r border-line bg-paper max-lg:shrink-0 max-lg:basis-[70vh]"
        ref={main}
      >
        <div className={clsx("relative", !empty && "mb-24")} style={{ height: rows.getTotalSize() }}>
          {items.map((item) => {
            const row = shown[item.index];
            if (!row) return null;
            return (
              <div
                key={item.key}
                ref={rows.measureElement}
                data-index={item.index}
                className="absolute inset-x-0"
                // Not moved by a transform: what floats from inside a row would be placed against the row.
                style={{ top: item.start }}
              >
                {renderRow(row)}
                {below === row.key && renderBelow}
              </div>
            );
          })}
        </div>
        {empty}
      </main>
    </>
  );
}
