/** A scale as its two ends: its options are the whole numbers between them, with words at the ends. */
import type { Field } from "../outline/names";
import { words } from "../outline/names";

export type ScaleEnds = { from: number; to: number; low: string; high: string };

/** Most steps of a scale. */
const STEPS = 21;

/** The ends of a field's options; 1 to 5 where it has none. */
export function scaleEnds(field: Field, language: string): ScaleEnds {
  const options = field.options ?? [];
  const steps = options.map((option) => Number(option.key)).filter(Number.isInteger);
  const from = steps.length > 0 ? Math.min(...steps) : 1;
  const to = steps.length > 0 ? Math.max(...steps) : 5;
  const said = (step: number) => {
    const label = words(options.find((option) => option.key === String(step))?.label, language);
    return label === String(step) ? "" : label;
  };
  return { from, to, low: said(from), high: said(to) };
}

/** The options of a scale with these ends; what is known of a step that stays is kept. */
export function scaleOptions(field: Field, language: string, ends: ScaleEnds): NonNullable<Field["options"]> {
  const from = Math.trunc(Number.isFinite(ends.from) ? ends.from : 1);
  const to = Math.min(from + STEPS - 1, Math.max(from + 1, Math.trunc(Number.isFinite(ends.to) ? ends.to : 5)));
  return Array.from({ length: to - from + 1 }, (_, place) => {
    const step = from + place;
    const known = field.options?.find((option) => option.key === String(step));
    const said = step === from ? ends.low : step === to ? ends.high : "";
    return { ...known, key: String(step), label: { ...known?.label, [language]: said || String(step) } };
  });
}
