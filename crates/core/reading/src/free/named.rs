//! Which of several fields is named beside a value: "14 users at 2 sites", "out on 6 March and back on 7 March".

use super::{FreeReader, ends_clause};
use lumbo_language::{Scan, shared};

/// How far from a value its name may stand, in tokens.
#[derive(Debug, Clone, Copy)]
pub(super) struct Reach {
    pub before: usize,
    pub behind: usize,
    /// Whether a single word of a name will do.
    pub parts: bool,
}

/// A name of a field beside a value: the field, the name's first token, and the tokens in between.
#[derive(Debug, Clone, Copy)]
struct Name {
    field: usize,
    at: usize,
    distance: usize,
}

impl FreeReader {
    /// The field that is named beside each of some values, by their tokens in order of the text.
    ///
    /// In one clause people name before the value or behind it: of both ways, the one that names more of the clause's
    /// values counts, then the one that stands nearer, then before. What it leaves open may be named the other way.
    pub(super) fn named_beside(
        &self,
        scan: &Scan<'_>,
        values: &[(usize, usize)],
        fields: &[usize],
        reach: Reach,
    ) -> Vec<Option<usize>> {
        let mut out = Vec::with_capacity(values.len());
        let mut from = 0;
        while from < values.len() {
            let parted = |index: usize| {
                (values[index].1..values[index + 1].0).any(|at| ends_clause(scan, at) || scan.breaks_before(at + 1))
            };
            let to = (from..values.len() - 1).find(|index| parted(*index)).map_or(values.len(), |index| index + 1);
            out.extend(self.named_in_clause(scan, values, (from, to), fields, reach));
            from = to;
        }
        out
    }

    fn named_in_clause(
        &self,
        scan: &Scan<'_>,
        values: &[(usize, usize)],
        (from, to): (usize, usize),
        fields: &[usize],
        reach: Reach,
    ) -> Vec<Option<usize>> {
        let before: Vec<Option<Name>> = (from..to)
            .map(|value| {
                let first = values[value].0;
                let bound = if value > from { values[value - 1].1 } else { 0 }.max(first.saturating_sub(reach.before));
                let goes_on = |index: &usize| !ends_clause(scan, *index) && !scan.breaks_before(index + 1);
                (bound..first).rev().take_while(goes_on).find_map(|index| {
                    let (field, end) = self.name_at(scan, index, fields, reach)?;
                    Some(Name { field, at: index, distance: first.checked_sub(end)? })
                })
            })
            .collect();
        let behind: Vec<Option<Name>> = (from..to)
            .map(|value| {
                let next = values[value].1;
                let bound =
                    if value + 1 < to { values[value + 1].0 } else { scan.tokens.len() }.min(next + reach.behind);
                let goes_on = |index: &usize| !ends_clause(scan, *index) && !scan.breaks_before(*index);
                (next..bound).take_while(goes_on).find_map(|index| {
                    let (field, _) = self.name_at(scan, index, fields, reach)?;
                    Some(Name { field, at: index, distance: index - next })
                })
            })
            .collect();
        let merit = |names: &[Option<Name>]| {
            let named = names.iter().flatten();
            (named.clone().count(), std::cmp::Reverse(named.map(|name| name.distance).sum::<usize>()))
        };
        let (kept, other) = if merit(&before) >= merit(&behind) { (before, behind) } else { (behind, before) };
        let used: Vec<usize> = kept.iter().flatten().map(|name| name.at).collect();
        let left = |name: &Name| !used.contains(&name.at);
        kept.into_iter().zip(other).map(|(name, other)| name.or(other.filter(left)).map(|name| name.field)).collect()
    }

    /// The field whose name stands at a token, with the token behind the name. "Order number 10045" names a code.
    fn name_at(&self, scan: &Scan<'_>, index: usize, fields: &[usize], reach: Reach) -> Option<(usize, usize)> {
        let name = |field: usize| {
            let wanted = &self.fields[field];
            wanted.cues.at(scan, index).or_else(|| if reach.parts { wanted.parts.at(scan, index) } else { None })
        };
        let (field, end) = fields.iter().find_map(|field| Some((*field, name(*field)?.1)))?;
        (!scan.word(end).is_some_and(|word| shared().numbering.contains(word))).then_some((field, end))
    }
}
