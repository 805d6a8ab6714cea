import { useRef } from "react";

import type { Schemas } from "../../../api";
import type { Card } from "./card";
import { plain, toneOf } from "./words";

const HEIGHT = 176;
const TOP = 22;

/** Where past leads land, the won ones filled; thresholds move by dragging or with the arrow keys. */
export function Land({
  card,
  bins,
  onLook,
  onKeep,
}: {
  card: Card;
  bins: Schemas["Bin"][];
  /** A threshold on its way, to look at. */
  onLook: (band: string, from: number) => void;
  /** Where it was let go. */
  onKeep: () => void;
}) {
  const box = useRef<SVGSVGElement>(null);
  const dragged = useRef<string | null>(null);
  const first = bins[0]?.from ?? 0;
  const last = bins.at(-1)?.below ?? 100;
  const most = Math.max(...bins.map((bin) => bin.leads), 1);
  const x = (total: number) => `${((Math.min(Math.max(total, first), last) - first) / (last - first)) * 100}%`;
  const tall = (count: number) => (count / most) * (HEIGHT - TOP - 6);
  const width = bins.length > 0 ? 100 / bins.length : 100;
  const marks = card.bands.flatMap((band, place) =>
    band.from === null || band.from === undefined ? [] : [{ band, from: band.from, tone: toneOf(band, place) }],
  );
  const at = (clientX: number) => {
    const { left, width: wide } = box.current?.getBoundingClientRect() ?? { left: 0, width: 1 };
    return first + ((clientX - left) / wide) * (last - first);
  };
  return (
    <figure>
      <svg
        ref={box}
        className="block w-full touch-none overflow-visible select-none"
        height={HEIGHT + 18}
        role="group"
        aria-label="Past leads by their points"
        onPointerMove={(event) => dragged.current && onLook(dragged.current, at(event.clientX))}
        onPointerUp={() => {
          if (dragged.current) onKeep();
          dragged.current = null;
        }}
      >
        {bins.map((bin, place) => (
          <g key={bin.from}>
            <title>
              {bin.from} to {bin.below - 1} points: {bin.leads} leads, {bin.won} won
            </title>
            <rect
              x={`${place * width + width * 0.06}%`}
              width={`${width * 0.88}%`}
              y={HEIGHT - tall(bin.leads)}
              height={tall(bin.leads)}
              fill="var(--line)"
            />
            <rect
              x={`${place * width + width * 0.06}%`}
              width={`${width * 0.88}%`}
              y={HEIGHT - tall(bin.won)}
              height={tall(bin.won)}
              fill="var(--spruce)"
            />
          </g>
        ))}
        <line x1="0" x2="100%" y1={HEIGHT} y2={HEIGHT} stroke="var(--ink)" />
        <text x="0" y={HEIGHT + 14} fontSize="11" fill="var(--soft)">
          {plain(first)}
        </text>
        <text x="100%" y={HEIGHT + 14} fontSize="11" fill="var(--soft)" textAnchor="end">
          {plain(last - 1)}
        </text>
        {marks.map(({ band, from, tone }) => (
          <g
            key={band.id}
            role="slider"
            tabIndex={0}
            aria-label={`${band.label} begins at`}
            aria-valuenow={from}
            aria-valuemin={first}
            aria-valuemax={last - 1}
            className="cursor-ew-resize"
            onPointerDown={(event) => {
              dragged.current = band.id;
              box.current?.setPointerCapture(event.pointerId);
            }}
            onKeyDown={(event) => {
              const step = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
              if (!step) return;
              event.preventDefault();
              event.stopPropagation();
              onLook(band.id, from + step * (event.shiftKey ? 10 : 1));
            }}
            onKeyUp={(event) => event.key.startsWith("Arrow") && onKeep()}
            onBlur={onKeep}
          >
            <svg x={x(from)} overflow="visible">
              <rect x="-8" y="0" width="16" height={HEIGHT} fill="transparent" />
              <line y1={TOP - 6} y2={HEIGHT + 3} stroke="var(--ink)" strokeWidth="1.5" />
              <rect x="-6" y="2" width="12" height="12" rx="2" fill={`var(--${tone})`} stroke="var(--ink)" />
              <text
                x={from > (first + last) / 2 ? -11 : 11}
                y="12"
                fontSize="12"
                fontWeight="600"
                fill="var(--ink)"
                textAnchor={from > (first + last) / 2 ? "end" : "start"}
              >
                {band.label} {from}
              </text>
            </svg>
          </g>
        ))}
      </svg>
    </figure>
  );
}
