/** What a typed line becomes, in words. */
import type { Schemas } from "../../../api";
import { typeLabels } from "./names";

/** Its fields and arms: "keeps Pallets, whole number, a new field; arms for Frozen and Chilled". */
export function understoodWords(turn: Schemas["UnderstoodTurn"]): string {
  const fields = turn.fields.map(
    (field) => `keeps ${field.label}, ${typeLabels[field.type]}${field.made ? ", a new field" : ""}`,
  );
  const [last, ...rest] = turn.arms.toReversed();
  const names = rest.length > 0 ? `${rest.toReversed().join(", ")} and ${last}` : last;
  const arms = last ? [turn.arms.length === 1 ? `an arm for ${names}` : `arms for ${names}`] : [];
  return [...fields, ...arms].join("; ");
}
