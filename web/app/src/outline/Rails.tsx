/** The rails of one row, as the core laid them out. */
import type { Schemas } from "../../../api";

type Mark = Schemas["Mark"];

const LANE = 20;
const LEFT = 12;

const colours: Record<Mark["class"], string> = {
  trunk: "var(--ink)",
  rejoins: "var(--spruce)",
  ahead: "var(--indigo)",
  lead: "var(--spruce)",
  not_a_fit: "var(--clay)",
  customer: "var(--amber)",
  looking: "var(--amber)",
  unfinished: "var(--amber)",
  other: "var(--soft)",
};

/** The colour that an outcome's rail has, beside its name. */
export function LaneDot({ outcome }: { outcome: Mark["class"] }) {
  return <span aria-hidden className="size-2.5 shrink-0 rounded-full" style={{ background: colours[outcome] }} />;
}

/** Width of the gutter, pixels. */
export const railsWidth = (lanes: number): number => LEFT + lanes * LANE + 14;

const x = (lane: number) => LEFT + lane * LANE;

export function RowRails({ marks, lanes }: { marks: Mark[]; lanes: number }) {
  return (
    <svg
      aria-hidden
      className="absolute inset-y-0 left-0 h-full overflow-visible"
      width={railsWidth(lanes)}
      fill="none"
      strokeWidth="2"
    >
      {marks.map((mark) => (
        <MarkShape
          key={`${mark.lane}-${mark.shape}`}
          mark={mark}
          passes={marks.some((other) => other.lane === mark.lane && other.shape === "pass")}
          right={railsWidth(lanes)}
        />
      ))}
    </svg>
  );
}

/** Where a row's first line of text stands, pixels from its top. */
const MIDDLE = 19;

function MarkShape({ mark, passes, right }: { mark: Mark; passes: boolean; right: number }) {
  const at = x(mark.lane);
  const colour = colours[mark.class];
  const other = x(mark.other ?? mark.lane);
  switch (mark.shape) {
    case "pass":
      // A pixel longer at both ends: rows may begin between two pixels.
      return <rect x={at - 1} y="-1" width="2" style={{ height: "calc(100% + 2px)" }} fill={colour} stroke="none" />;
    case "start":
      return (
        <>
          <line x1={at} x2={at} y1={MIDDLE} y2="100%" stroke={colour} />
          <circle cx={at} cy={MIDDLE} r="4" fill="var(--paper)" stroke={colour} />
        </>
      );
    case "end":
      return (
        <>
          <line x1={at} x2={at} y1="0" y2={MIDDLE} stroke="var(--ink)" />
          <rect x={at - 4} y={MIDDLE - 4} width="8" height="8" fill={colour} />
        </>
      );
    case "part":
      return (
        <>
          <path d={`M ${other} 0 C ${other} 10 ${at} 6 ${at} ${MIDDLE}`} stroke={colour} />
          <line x1={at} x2={at} y1={MIDDLE - 1} y2="100%" stroke={colour} />
        </>
      );
    case "join":
      return (
        <>
          <rect x={at - 1} y="0" width="2" style={{ height: "calc(100% - 17px)" }} fill={colour} stroke="none" />
          <svg x="0" y="100%" overflow="visible">
            <path d={`M ${at} -18 C ${at} -6 ${other} -12 ${other} 0`} stroke={colour} />
          </svg>
        </>
      );
    case "leave":
      return (
        <>
          {!passes && <line x1={at} x2={at} y1="0" y2={MIDDLE - 11} stroke={colour} />}
          <path
            d={`M ${at} ${passes ? MIDDLE - 12 : MIDDLE - 12} Q ${at} ${MIDDLE} ${at + 10} ${MIDDLE} L ${right - 4} ${MIDDLE}`}
            stroke={colour}
          />
          <path
            d={`M ${right - 9} ${MIDDLE - 4} L ${right - 4} ${MIDDLE} L ${right - 9} ${MIDDLE + 4}`}
            stroke={colour}
          />
        </>
      );
    default:
      return <line x1={at} x2={at + 9} y1={MIDDLE} y2={MIDDLE} stroke="var(--ink)" />;
  }
}
