import { useEffect, useRef } from "react";

import type { Schemas } from "../../../api";
import type { DraftView } from "../dialogue/useDraft";
import type { ShownRow } from "./folding";

const WIDTH = 26;

const variables: Partial<Record<Schemas["LaneClass"], string>> = {
  not_a_fit: "--clay",
  lead: "--spruce",
  ahead: "--indigo",
  customer: "--amber",
  looking: "--amber",
};

/** The whole outline as thin lines: nesting, outcomes, findings; a click goes there. Drawn, because there may be many. */
export function MiniMap({
  draft,
  shown,
  view,
  onGo,
}: {
  draft: DraftView;
  shown: ShownRow[];
  /** The part that is in view, as shares from the top. */
  view: { from: number; to: number };
  onGo: (place: number) => void;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const element = canvas.current;
    const context = element?.getContext("2d");
    if (!element || !context) return;
    const style = getComputedStyle(element);
    const colour = (name: string) => style.getPropertyValue(name);
    const height = element.clientHeight;
    const scale = window.devicePixelRatio || 1;
    element.width = WIDTH * scale;
    element.height = height * scale;
    context.scale(scale, scale);
    context.clearRect(0, 0, WIDTH, height);
    const step = Math.min(6, height / Math.max(1, shown.length));
    const found = new Map<string, string>();
    for (const finding of draft.findings) {
      const id = finding.at.split("/").at(-1) ?? "";
      if (found.get(id) !== "--clay") found.set(id, finding.severity === "error" ? "--clay" : "--amber");
    }
    shown.forEach(({ row, marks }, place) => {
      const arm = row.kind === "arm" ? marks.find((mark) => mark.shape !== "pass")?.class : undefined;
      const name = found.get(row.id) ?? (arm && variables[arm]) ?? (row.kind === "section" ? "--ink" : "--line");
      context.fillStyle = colour(name);
      const inset = row.kind === "section" ? 2 : 5 + Math.min(4, row.depth) * 3;
      context.fillRect(inset, place * step, WIDTH - inset - 3, Math.max(1, row.kind === "section" ? 2 : step - 1.5));
    });
    context.strokeStyle = colour("--indigo");
    const used = step * shown.length;
    context.strokeRect(0.5, view.from * used + 0.5, WIDTH - 1, Math.max(6, (view.to - view.from) * used));
  }, [draft, shown, view]);
  return (
    <canvas
      ref={canvas}
      aria-hidden
      className="h-full shrink-0 cursor-pointer border-r border-line"
      style={{ width: WIDTH }}
      onClick={(event) => {
        const box = event.currentTarget.getBoundingClientRect();
        const step = Math.min(6, box.height / Math.max(1, shown.length));
        onGo(Math.floor((event.clientY - box.top) / step));
      }}
    />
  );
}
