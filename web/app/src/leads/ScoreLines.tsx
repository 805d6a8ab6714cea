import { clsx } from "clsx";

import type { Schemas } from "../../../api";
import { signed } from "../scoring/words";

const shades = [
  "var(--spruce)",
  "color-mix(in srgb, var(--spruce) 72%, var(--paper))",
  "color-mix(in srgb, var(--spruce) 50%, var(--paper))",
  "color-mix(in srgb, var(--spruce) 32%, var(--paper))",
];

/** A score with its reasons; the lines add up to the total. */
export function ScoreLines({ score }: { score: Schemas["ScoreResult"] }) {
  const ceiling = Math.max(
    score.dimensions.reduce((sum, dimension) => sum + Math.max(dimension.ceiling ?? dimension.counts, 0), 0),
    score.total,
    1,
  );
  const given = score.dimensions.flatMap((dimension) =>
    (dimension.criteria ?? []).filter((criterion) => criterion.points !== 0),
  );
  const widths = score.dimensions.map((dimension) => (Math.max(dimension.counts, 0) / ceiling) * 100);
  const bars = score.dimensions.map((dimension, place) => (
    <rect
      key={dimension.id}
      x={`${widths.slice(0, place).reduce((sum, width) => sum + width, 0)}%`}
      width={`${widths[place]}%`}
      height="9"
      fill={shades[place % shades.length]}
    />
  ));
  return (
    <>
      <h2 className="mt-5 mb-1.5 text-xs font-semibold text-soft">
        Why they {score.rule_outs && score.rule_outs.length > 0 ? "do not qualify" : "qualify"}: {score.total},{" "}
        {score.band_label}
        {score.band_from !== null && score.band_from !== undefined && ` from ${score.band_from}`}
      </h2>
      <svg role="img" aria-label={`${score.total} of at most ${ceiling} points`} className="block h-[9px] w-full">
        <rect width="100%" height="9" fill="var(--line)" />
        {bars}
      </svg>
      <ul>
        {(score.rule_outs ?? []).map((out) => (
          <li key={out.id} className="flex justify-between border-b border-line py-1 text-clay">
            <span>
              {out.label}: {out.reason}
            </span>
            <b className="font-semibold">out</b>
          </li>
        ))}
        {given.map((criterion) => (
          <li key={criterion.id} className="flex justify-between border-b border-line py-1">
            <span>{criterion.label}</span>
            <b className={clsx("font-semibold figures", criterion.points < 0 && "text-clay")}>
              {signed(criterion.points)}
            </b>
          </li>
        ))}
        {score.dimensions
          .filter((dimension) => dimension.sum !== dimension.counts)
          .map((dimension) => (
            <li key={dimension.id} className="flex justify-between border-b border-line py-1 text-soft">
              <span>
                {dimension.title} counts {dimension.sum > dimension.counts ? "at most" : "at least"} {dimension.counts}
              </span>
              <b className="font-semibold figures">{signed(dimension.counts - dimension.sum)}</b>
            </li>
          ))}
        {(score.caps ?? []).map((cap) => (
          <li key={cap.id} className="flex justify-between border-b border-line py-1 text-amber">
            <span>
              Must have, {cap.open ? "not known" : "not so"}: {cap.label}
            </span>
            <span>stops at {cap.cap}</span>
          </li>
        ))}
      </ul>
      {score.unknown && score.unknown.length > 0 && (
        <p className="mt-1 text-xs text-soft">{score.unknown.length} criteria could not be told: they did not say.</p>
      )}
    </>
  );
}
