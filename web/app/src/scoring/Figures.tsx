import type { Schemas } from "../../../api";
import { countedWords, differenceWords, percent } from "./words";

type Figures = Schemas["RowBench"];

/** How many leads met a line, how many of them were won. */
export function RateCells({ figures }: { figures: Figures | undefined }) {
  if (!figures) return <td colSpan={3} aria-label="no figures" />;
  const { met } = figures;
  return (
    <>
      <td className="text-right figures">{met.leads}</td>
      <td className="text-right figures">{met.won}</td>
      <td className="pl-3" title={countedWords(met)}>
        {met.rate === null || met.rate === undefined ? (
          <span className="text-soft">no leads</span>
        ) : (
          <span className="flex items-center gap-1.5">
            <svg aria-hidden className="h-2 w-20 shrink-0">
              <rect
                width={`${Math.min(met.rate / 0.6, 1) * 100}%`}
                height="8"
                rx="1"
                fill="var(--spruce)"
                opacity="0.55"
              />
            </svg>
            <span className="figures">{percent(met.rate)}</span>
          </span>
        )}
      </td>
    </>
  );
}

/** How leads fared with and without, so that no rate stands alone. */
export function Fared({ figures }: { figures: Figures }) {
  return (
    <dl className="mt-2.5 grid max-w-xl grid-cols-[6.5rem_1fr] gap-x-3 gap-y-0.5 border-t border-line pt-2 text-xs figures">
      <dt className="text-soft">Met</dt>
      <dd>{countedWords(figures.met)}</dd>
      <dt className="text-soft">Not met</dt>
      <dd>{countedWords(figures.not_met)}</dd>
      <dt className="text-soft">Not known</dt>
      <dd>{countedWords(figures.unknown)}</dd>
      {figures.difference && (
        <>
          <dt className="text-soft">Difference</dt>
          <dd>{differenceWords(figures.difference)}</dd>
        </>
      )}
    </dl>
  );
}
