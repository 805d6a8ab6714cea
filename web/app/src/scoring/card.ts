/** A scorecard as it is worked on: its lines, and what changes one of them. Nothing here computes points. */
import type { Schemas } from "../../../api";
import type { Dialogue } from "../outline/names";

export type Card = Schemas["Scorecard"];
export type Dimension = Schemas["Dimension"];
export type Criterion = Schemas["Criterion"];
export type MustHave = Schemas["MustHave"];
export type RuleOut = Schemas["RuleOut"];
export type Band = Schemas["Band"];
export type TableRow = Schemas["TableRow"];
type Condition = Schemas["Condition"];

/** A line that can be picked: a dimension's head, a criterion or a row of its table, a must-have, a rule-out. */
export type Line =
  | { kind: "dimension"; id: string; dimension: Dimension }
  | { kind: "criterion"; id: string; row: number | null; criterion: Criterion }
  | { kind: "must"; id: string; must: MustHave }
  | { kind: "out"; id: string; out: RuleOut };

/** A line's name on the screen and among the figures. */
export const lineKey = (id: string, row?: number | null): string =>
  row === null || row === undefined ? id : `${id}#${row}`;

export const keyOf = (line: Line): string => lineKey(line.id, line.kind === "criterion" ? line.row : null);

/** Lines from top to bottom; each row of a table is one. */
export function lines(card: Card): Line[] {
  const out: Line[] = [];
  for (const dimension of card.dimensions ?? []) {
    out.push({ kind: "dimension", id: dimension.id, dimension });
    for (const criterion of dimension.criteria ?? []) {
      const { gives, id } = criterion;
      if ("table" in gives && gives.table.rows.length > 0)
        gives.table.rows.forEach((_, row) => out.push({ kind: "criterion", id, row, criterion }));
      else out.push({ kind: "criterion", id, row: null, criterion });
    }
  }
  for (const must of card.must_haves ?? []) out.push({ kind: "must", id: must.id, must });
  for (const rule of card.rule_outs ?? []) out.push({ kind: "out", id: rule.id, out: rule });
  return out;
}

/** Points of a line; nothing for one that has none of its own. */
export function pointsOf(line: Line): number | null {
  if (line.kind !== "criterion") return null;
  const { gives } = line.criterion;
  if ("when" in gives) return gives.when.points;
  if ("table" in gives && line.row !== null) return gives.table.rows[line.row]?.points ?? null;
  return null;
}

export const changeDimension = (card: Card, id: string, change: (dimension: Dimension) => Dimension): Card => ({
  ...card,
  dimensions: (card.dimensions ?? []).map((known) => (known.id === id ? change(known) : known)),
});

export const changeCriterion = (card: Card, id: string, change: (criterion: Criterion) => Criterion): Card => ({
  ...card,
  dimensions: (card.dimensions ?? []).map((dimension) => ({
    ...dimension,
    criteria: (dimension.criteria ?? []).map((known) => (known.id === id ? change(known) : known)),
  })),
});

/** The card with other points at one line. */
export function withPoints(card: Card, id: string, row: number | null | undefined, points: number): Card {
  return changeCriterion(card, id, (criterion) => {
    const { gives } = criterion;
    if ("when" in gives) return { ...criterion, gives: { when: { ...gives.when, points } } };
    if ("table" in gives && row !== null && row !== undefined) {
      const rows = gives.table.rows.map((known, at) => (at === row ? { ...known, points } : known));
      return { ...criterion, gives: { table: { ...gives.table, rows } } };
    }
    return criterion;
  });
}

export const changeMust = (card: Card, must: MustHave): Card => ({
  ...card,
  must_haves: (card.must_haves ?? []).map((known) => (known.id === must.id ? must : known)),
});

export const changeOut = (card: Card, out: RuleOut): Card => ({
  ...card,
  rule_outs: (card.rule_outs ?? []).map((known) => (known.id === out.id ? out : known)),
});

/** The card without a line: a row of its table where it is one of several, else the whole criterion. */
export function without(card: Card, line: Line): Card {
  switch (line.kind) {
    case "dimension":
      return { ...card, dimensions: (card.dimensions ?? []).filter((known) => known.id !== line.id) };
    case "must":
      return { ...card, must_haves: (card.must_haves ?? []).filter((known) => known.id !== line.id) };
    case "out":
      return { ...card, rule_outs: (card.rule_outs ?? []).filter((known) => known.id !== line.id) };
    case "criterion": {
      const { gives } = line.criterion;
      if (line.row !== null && "table" in gives && gives.table.rows.length > 1) {
        const rows = gives.table.rows.filter((_, at) => at !== line.row);
        return changeCriterion(card, line.id, (known) => ({ ...known, gives: { table: { ...gives.table, rows } } }));
      }
      return {
        ...card,
        dimensions: (card.dimensions ?? []).map((dimension) => ({
          ...dimension,
          criteria: (dimension.criteria ?? []).filter((known) => known.id !== line.id),
        })),
      };
    }
  }
}

const swapped = <T extends { id: string }>(list: T[], id: string, by: number): T[] => {
  const from = list.findIndex((known) => known.id === id);
  const to = from + by;
  const [one, other] = [list[from], list[to]];
  if (!one || !other) return list;
  return list.map((known, at) => (at === from ? other : at === to ? one : known));
};

/** The card with a line moved up or down among its like; a criterion goes on into the next dimension at its end. */
export function moved(card: Card, line: Line, by: 1 | -1): Card {
  const dimensions = card.dimensions ?? [];
  switch (line.kind) {
    case "dimension":
      return { ...card, dimensions: swapped(dimensions, line.id, by) };
    case "must":
      return { ...card, must_haves: swapped(card.must_haves ?? [], line.id, by) };
    case "out":
      return { ...card, rule_outs: swapped(card.rule_outs ?? [], line.id, by) };
    case "criterion": {
      const home = dimensions.findIndex((known) => known.criteria?.some((criterion) => criterion.id === line.id));
      const criteria = dimensions[home]?.criteria ?? [];
      const at = criteria.findIndex((known) => known.id === line.id);
      if (criteria[at + by])
        return {
          ...card,
          dimensions: dimensions.map((known, place) =>
            place === home ? { ...known, criteria: swapped(criteria, line.id, by) } : known,
          ),
        };
      const next = dimensions[home + by];
      if (!next) return card;
      const there = next.criteria ?? [];
      return {
        ...card,
        dimensions: dimensions.map((known, place) => {
          if (place === home) return { ...known, criteria: criteria.filter((one) => one.id !== line.id) };
          if (place === home + by)
            return { ...known, criteria: by > 0 ? [line.criterion, ...there] : [...there, line.criterion] };
          return known;
        }),
      };
    }
  }
}

/** A short id that no part of any scorecard has. */
export function freshPart(dialogue: Dialogue, prefix: string): string {
  const taken = new Set(
    (dialogue.scorecards ?? []).flatMap((card) => [
      card.id,
      ...lines(card).map((line) => line.id),
      ...card.bands.map((band) => band.id),
    ]),
  );
  for (;;) {
    const random = crypto.getRandomValues(new Uint32Array(1))[0] ?? 0;
    const id = `${prefix}_${random.toString(36).padStart(7, "0").slice(0, 7)}`;
    if (!taken.has(id)) return id;
  }
}

/** A scorecard to begin with: one dimension, two bands. */
export const newCard = (dialogue: Dialogue, title: string): Card => ({
  id: freshPart(dialogue, "card"),
  title,
  dimensions: [{ id: freshPart(dialogue, "d"), title: "Need", criteria: [] }],
  bands: [
    { id: freshPart(dialogue, "b"), label: "Low" },
    { id: freshPart(dialogue, "b"), label: "High", from: 50 },
  ],
});

/** The card with a dimension that a criterion can stand in. */
export const withDimension = (card: Card, dialogue: Dialogue): Card =>
  (card.dimensions ?? []).length > 0
    ? card
    : { ...card, dimensions: [{ id: freshPart(dialogue, "d"), title: "Need", criteria: [] }] };

/** The card with one more rule-out, whose reason is to be written. */
export const withRuleOut = (card: Card, dialogue: Dialogue, id: string, holds: Condition): Card => ({
  ...card,
  rule_outs: [...(card.rule_outs ?? []), { id, holds, reason: { [dialogue.language]: "Not what we do" } }],
});

/** Puts a criterion behind the picked line, in its dimension; at the end of the last dimension where none is picked. */
export function withCriterion(card: Card, criterion: Criterion, line: Line | undefined): Card {
  const dimensions = card.dimensions ?? [];
  const home =
    line?.kind === "dimension"
      ? line.id
      : (dimensions.find((known) => known.criteria?.some((one) => one.id === line?.id))?.id ?? dimensions.at(-1)?.id);
  return changeDimension(card, home ?? "", (dimension) => {
    const criteria = [...(dimension.criteria ?? [])];
    const at = line?.kind === "criterion" ? criteria.findIndex((known) => known.id === line.id) : -1;
    criteria.splice(line?.kind === "dimension" ? 0 : at < 0 ? criteria.length : at + 1, 0, criterion);
    return { ...dimension, criteria };
  });
}

export const newCriterion = (id: string, holds: Condition): Criterion => ({
  id,
  gives: { when: { holds, points: 10 } },
});

/** The card with a band's threshold moved; it stays between its neighbours'. */
export function withThreshold(card: Card, band: string, from: number): Card {
  const at = card.bands.findIndex((known) => known.id === band);
  const below = card.bands[at - 1]?.from ?? Number.NEGATIVE_INFINITY;
  const above = card.bands[at + 1]?.from ?? Number.POSITIVE_INFINITY;
  const held = Math.round(Math.min(Math.max(from, below + 1), above - 1));
  return { ...card, bands: card.bands.map((known) => (known.id === band ? { ...known, from: held } : known)) };
}
