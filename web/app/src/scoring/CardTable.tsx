import { clsx } from "clsx";
import { useEffect, useRef } from "react";

import type { Schemas } from "../../../api";
import { useShownDraft } from "../dialogue/DialogueScreen";
import { Fared, RateCells } from "./Figures";
import { OutEditor, CriterionEditor, DimensionEditor, MustEditor } from "./LineEditors";
import { Points } from "./Points";
import type { Card, Line } from "./card";
import { keyOf, lineKey, lines, pointsOf, withPoints } from "./card";
import { endsWords } from "./words";

type Figures = Schemas["RowBench"];

/** The scorecard as lines, each with how past leads fared that met it. The open line has its editor beneath. */
export function CardTable({
  card,
  bench,
  faults,
  changes,
  misled,
  picked,
  open,
  onPick,
  onOpen,
  onChange,
}: {
  card: Card;
  bench: Schemas["Bench"] | undefined;
  faults: Record<string, string>;
  changes: Schemas["CardChanges"] | undefined;
  /** How often reps said that a criterion misled, by its id. */
  misled: Record<string, number>;
  picked: string | null;
  open: string | null;
  onPick: (key: string) => void;
  onOpen: (key: string | null) => void;
  onChange: (card: Card) => void;
}) {
  const { draft } = useShownDraft();
  const all = lines(card);
  const figures = new Map((bench?.rows ?? []).map((row) => [lineKey(row.id, row.row), row]));
  const musts = all.findIndex((line) => line.kind === "must");
  const outs = all.findIndex((line) => line.kind === "out");
  return (
    <table className="w-full border-collapse text-sm">
      <thead>
        <tr className="border-b border-line text-xs text-soft [&_th]:pb-1.5 [&_th]:font-normal">
          <th className="text-left">When the prospect</th>
          <th className="w-16 text-right">Points</th>
          <th className="w-16 text-right">Leads</th>
          <th className="w-14 text-right">Won</th>
          <th className="w-36 pl-3 text-left">Won rate</th>
        </tr>
      </thead>
      <tbody>
        {all.map((line, place) => {
          const key = keyOf(line);
          return (
            <LineRows
              key={key}
              line={line}
              head={place === musts ? "Must have" : place === outs ? "Rule out" : null}
              says={sayLine(line, draft)}
              figures={figures.get(key)}
              fault={faults[line.id]}
              change={changes?.changed?.[line.id]}
              misled={misled[line.id] ?? 0}
              picked={picked === key}
              open={open === key}
              onPick={() => onPick(key)}
              onOpen={() => onOpen(open === key ? null : key)}
              card={card}
              onChange={onChange}
            />
          );
        })}
      </tbody>
    </table>
  );
}

/** A line in words; the condition’s own where its author gave none. */
function sayLine(line: Line, draft: ReturnType<typeof useShownDraft>["draft"]): string {
  const said = draft.words[keyOf(line)] ?? draft.words[line.id] ?? "";
  switch (line.kind) {
    case "dimension":
      return line.dimension.title;
    case "must":
      return line.must.label ?? said;
    case "out":
      return line.out.label ?? said;
    case "criterion": {
      const { gives, label } = line.criterion;
      if ("formula" in gives) return label ?? gives.formula;
      if ("table" in gives) return said || (label ?? "");
      return label ?? said;
    }
  }
}

function LineRows({
  line,
  head,
  says,
  figures,
  fault,
  change,
  misled,
  picked,
  open,
  onPick,
  onOpen,
  card,
  onChange,
}: {
  line: Line;
  head: string | null;
  says: string;
  figures: Figures | undefined;
  fault: string | undefined;
  change: Schemas["CardChange"] | undefined;
  misled: number;
  picked: boolean;
  open: boolean;
  onPick: () => void;
  onOpen: () => void;
  card: Card;
  onChange: (card: Card) => void;
}) {
  const { draft } = useShownDraft();
  const row = useRef<HTMLTableRowElement>(null);
  useEffect(() => {
    if (picked) row.current?.scrollIntoView({ block: "nearest" });
  }, [picked]);
  const isHead = line.kind === "dimension";
  // What the checks found of a table stands at its first row.
  const first = line.kind !== "criterion" || !line.row;
  const found = first ? draft.findings.filter((finding) => finding.at.split("/").at(-1) === line.id) : [];
  const points = pointsOf(line);
  const band = (id: string) => card.bands.find((known) => known.id === id)?.label ?? "the lowest band";
  const beside =
    line.kind === "dimension"
      ? endsWords(line.dimension.floor, line.dimension.ceiling)
      : line.kind === "must"
        ? `or the band stops at ${band(line.must.cap)}`
        : line.kind === "out"
          ? (line.out.reason[draft.dialogue.language] ?? "")
          : "";
  return (
    <>
      {head && (
        <tr className="border-b border-line">
          <th colSpan={5} className="pt-4 pb-1.5 text-left text-sm font-semibold">
            {head}
          </th>
        </tr>
      )}
      <tr
        ref={row}
        data-line={line.id}
        aria-current={picked || undefined}
        onFocus={onPick}
        className={clsx(
          "border-b border-hair",
          isHead ? "[&>td]:pt-4 [&>td]:pb-1.5" : "[&>td]:py-1.5",
          picked && "bg-picked",
          isHead && "!border-line",
        )}
      >
        <td>
          <button
            type="button"
            aria-expanded={open}
            onClick={() => {
              onPick();
              onOpen();
            }}
            className="rounded-sm text-left"
          >
            <span className={clsx(isHead && "font-semibold")}>{says || "nothing yet"}</span>
            {beside && <span className="ml-2 text-xs text-soft">{beside}</span>}
            {change && (
              <span
                className="ml-2 rounded-sm bg-indigo-wash px-1 text-xs text-indigo"
                title={change.before ? `In the release: ${change.before}` : "Not in the release"}
              >
                {change.before ? "changed" : "new"}
              </span>
            )}
          </button>
          {fault && <p className="text-xs text-clay">{fault}</p>}
          {misled > 0 && first && (
            <p className="text-xs text-amber">Reps said {misled === 1 ? "once" : `${misled} times`} that it misled</p>
          )}
          {found.map((finding) => (
            <p key={finding.key + finding.says} className="text-xs text-amber" title={finding.mend ?? undefined}>
              {finding.says}
            </p>
          ))}
        </td>
        {isHead ? (
          <td colSpan={4} aria-label="no points of its own" />
        ) : (
          <>
            <td className="text-right">
              {points !== null ? (
                <Points
                  label={`Points, ${says}`}
                  value={points}
                  onChange={(next) =>
                    onChange(withPoints(card, line.id, line.kind === "criterion" ? line.row : null, next))
                  }
                />
              ) : (
                <span className={line.kind === "out" ? "text-clay" : "text-soft"}>
                  {line.kind === "out" ? "out" : line.kind === "must" ? "cap" : "formula"}
                </span>
              )}
            </td>
            <RateCells figures={figures} />
          </>
        )}
      </tr>
      {open && (
        <tr className="border-b border-line bg-oat/60">
          <td colSpan={5} className="px-3 py-2.5">
            {line.kind === "dimension" && (
              <DimensionEditor dimension={line.dimension} card={card} onChange={onChange} />
            )}
            {line.kind === "criterion" && (
              <CriterionEditor criterion={line.criterion} card={card} onChange={onChange} />
            )}
            {line.kind === "must" && <MustEditor must={line.must} card={card} onChange={onChange} />}
            {line.kind === "out" && <OutEditor out={line.out} card={card} onChange={onChange} />}
            {figures && <Fared figures={figures} />}
          </td>
        </tr>
      )}
    </>
  );
}
