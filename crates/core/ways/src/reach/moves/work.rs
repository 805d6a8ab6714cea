//! Work out: exactly where the values are single, else anything that may come.

use lumbo_formula::Formula;
use lumbo_value::{FieldType, Value};

use super::super::cells::{FIRST, MISSING, Mask, NOT_ASKED, each};
use super::super::model::Model;
use super::super::score::Exactly;
use super::{Exit, Leaving, Pair};

/// Most combinations for which a formula is worked out exactly.
const MOST_COMBINATIONS: usize = 512;

impl Leaving<'_, '_, '_> {
    pub(super) fn work_out(&mut self, fills: &[(usize, Formula)]) {
        let mut pairs: Vec<Pair> = vec![(self.cells(), self.cells())];
        for (field, formula) in fills {
            if self.model.loose[*field] {
                continue;
            }
            pairs = pairs.into_iter().flat_map(|pair| self.worked_out(pair, *field, formula)).collect();
        }
        let next = self.model.plan.turns[self.turn].next;
        for (before, after) in pairs {
            self.pair(Exit::Passed, (before, after), next, 0);
        }
    }

    /// One field worked out: exactly where all that is read has single values, else anything that it may be.
    pub(super) fn worked_out(&mut self, pair: Pair, field: usize, formula: &Formula) -> Vec<Pair> {
        let model = self.model;
        let reads: Vec<usize> =
            formula.reads().iter().filter_map(|key| model.field_by_key.get(key.as_str()).copied()).collect();
        let loose = reads.iter().any(|read| model.loose[*read]);
        let exact = !loose && reads.iter().all(|read| model.cells[*read].single || pair.1[*read] & !MISSING == 0);
        // Where values are told apart no finer than known and missing, one of each stands for all.
        let choices: Vec<Vec<Mask>> = reads
            .iter()
            .map(|read| {
                let mask = pair.1[*read];
                let missing = (mask & MISSING != 0).then_some(mask & MISSING);
                let known = mask & !MISSING & model.cells[*read].known();
                if model.cells[*read].single && !loose {
                    missing.into_iter().chain(each(known).map(|cell| 1 << cell)).collect()
                } else {
                    missing.into_iter().chain((known != 0).then_some(known)).collect()
                }
            })
            .collect();
        let combinations = choices.iter().fold(1_usize, |all, one| all.saturating_mul(one.len().max(1)));
        let anything = model.cells[field].known();
        if loose || combinations > MOST_COMBINATIONS {
            let mut after = pair.1.clone();
            after[field] = anything | NOT_ASKED;
            return vec![(pair.0, after)];
        }
        let mut out: Vec<Pair> = Vec::new();
        for mut number in 0..combinations {
            let mut piece = pair.1.clone();
            for (read, all) in reads.iter().zip(&choices) {
                if !all.is_empty() {
                    piece[*read] = all[number % all.len()];
                    number /= all.len();
                }
            }
            let given = self.given(&piece, &reads, field, formula, exact);
            if given & NOT_ASKED != 0 {
                for read in reads.iter().filter(|read| piece[**read] & MISSING != 0) {
                    self.explorer.found.lacking.entry((self.turn, *read)).or_insert(self.node);
                }
            }
            let before: Vec<Mask> = pair.0.iter().zip(&piece).map(|(before, piece)| before & piece).collect();
            let before = if reads.contains(&field) { pair.0.clone() } else { before };
            piece[field] = given;
            out.push((before, piece));
        }
        join_pairs(out)
    }

    /// Cells that a formula can give for a piece.
    pub(super) fn given(&self, piece: &[Mask], reads: &[usize], field: usize, formula: &Formula, exact: bool) -> Mask {
        let model = self.model;
        let cells = &model.cells[field];
        let values = Standing { model, cells: piece };
        let result = if exact { formula.run(&Exactly { model, cells: piece }) } else { formula.run(&values) };
        if exact {
            return match result {
                Ok(Some(value)) => cell_of(model, field, &value).unwrap_or_else(|| cells.known()),
                Ok(None) | Err(_) => NOT_ASKED,
            };
        }
        // Whether it gives anything depends on what is missing, and on values only where they decide a branch.
        let decides = formula.deciders().iter().any(|key| {
            model.field_by_key.get(key.as_str()).is_some_and(|field| {
                piece[*field] & !MISSING != 0 && !(model.cells[*field].single && piece[*field].count_ones() == 1)
            })
        });
        let unsure = decides && reads.iter().any(|read| piece[*read] & MISSING != 0);
        match result {
            Ok(None) if !unsure => NOT_ASKED,
            Ok(Some(_)) if !unsure && !formula.can_fail() => cells.known(),
            _ => NOT_ASKED | cells.known(),
        }
    }
}

/// Pairs that differ in one field after and in one at most before, put together.
fn join_pairs(pairs: Vec<Pair>) -> Vec<Pair> {
    let mut out: Vec<Pair> = Vec::new();
    for pair in pairs {
        let twin = out.iter_mut().find(|known| {
            let one = super::super::test::differing(&known.1, &pair.1);
            let places = |a: &[Mask], b: &[Mask]| a.iter().zip(b).position(|(a, b)| a != b);
            one.is_some()
                && super::super::test::differing(&known.0, &pair.0).is_some()
                && (known.0 == pair.0 || places(&known.0, &pair.0) == places(&known.1, &pair.1))
        });
        match twin {
            Some(known) => {
                known.0.iter_mut().zip(&pair.0).for_each(|(mask, other)| *mask |= other);
                known.1.iter_mut().zip(&pair.1).for_each(|(mask, other)| *mask |= other);
            }
            None => out.push(pair),
        }
    }
    out
}

/// The cell of a value that a formula gave.
fn cell_of(model: &Model<'_>, field: usize, value: &Value) -> Option<Mask> {
    let cells = &model.cells[field];
    let kind = model.plan.file.fields[field].kind;
    let value = match (value, kind) {
        (Value::Text { text }, FieldType::Choice) => Value::choice(text.clone()),
        _ => value.clone(),
    };
    if cells.blurred {
        return None;
    }
    let place = super::super::place::of(cells, &value)?;
    Some(1 << (FIRST + place))
}

/// Values where each field has one value standing for all that are known.
struct Standing<'a> {
    model: &'a Model<'a>,
    cells: &'a [Mask],
}

impl lumbo_formula::Lookup for Standing<'_> {
    fn value(&self, key: &str) -> Option<&Value> {
        let field = *self.model.field_by_key.get(key)?;
        if self.cells[field] & MISSING != 0 {
            return None;
        }
        let cells = &self.model.cells[field];
        each(self.cells[field] & cells.known()).find_map(|cell| cells.value(cell)).or(Some(&ANY_TEXT))
    }
    fn today(&self) -> Option<jiff::civil::Date> {
        Some(self.model.today)
    }
    fn currency(&self) -> &str {
        &self.model.plan.file.settings.currency
    }
}

/// Stands for a text that could not be made up.
static ANY_TEXT: Value = Value::Text { text: String::new() };
