/**
 * The text boxes of the outline: words with chips, and formulas. The editor behind them is loaded once, when the outline
 * is shown; until it is there, a plain box takes what is typed.
 */
import { Suspense, lazy } from "react";

import { TextArea } from "../../../kit/ui";
import type { ChipTextProps } from "./ChipText";
import type { FormulaTextProps } from "./FormulaText";

const loadChip = () => import("./ChipText");
const loadFormula = () => import("./FormulaText");
const LazyChip = lazy(loadChip);
const LazyFormula = lazy(loadFormula);

/** Fetches the editor ahead of the first row that is opened. */
export function loadEditors() {
  void loadChip();
  void loadFormula();
}

/** Words that a prospect reads. */
export function ChipText(props: ChipTextProps) {
  const plain = (
    <TextArea
      id={props.id}
      aria-label={props.label}
      className="font-serif text-lg"
      value={props.value}
      onChange={(event) => props.onChange(event.target.value)}
    />
  );
  return (
    <Suspense fallback={plain}>
      <LazyChip {...props} />
    </Suspense>
  );
}

/** A formula. */
export function FormulaText(props: FormulaTextProps) {
  return (
    <Suspense
      fallback={
        <TextArea
          aria-label={props.label}
          className="font-mono text-xs"
          value={props.value}
          onChange={(event) => props.onChange(event.target.value)}
        />
      }
    >
      <LazyFormula {...props} />
    </Suspense>
  );
}
