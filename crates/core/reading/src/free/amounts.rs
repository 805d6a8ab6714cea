//! Money, quantities and whole numbers: each number is for the field whose unit or name stands beside it.

use super::super::{ReadContext, date, money, number, quantity};
use super::named::Reach;
use super::{FreeReader, Offered, Sure, Work, ends_clause};
use lumbo_language::{Language, Scan, shared};
use lumbo_value::FieldType;
use lumbo_value::Value;

impl FreeReader {
    pub(super) fn amounts(&self, work: &mut Work<'_>, context: ReadContext<'_>, sure: Sure) {
        let kinds = [FieldType::Money, FieldType::Quantity, FieldType::WholeNumber];
        let fields: Vec<usize> =
            (0..self.fields.len()).filter(|field| kinds.contains(&self.fields[*field].reader.kind)).collect();
        if fields.is_empty() {
            return;
        }
        let language = self.language;
        let all: Vec<number::Amount> = number::amounts(&work.scan, language)
            .into_iter()
            .filter(|amount| work.is_free(work.scan.tokens[amount.first].start, work.scan.tokens[amount.next - 1].end))
            .filter(|amount| !is_past(&work.scan, language, amount))
            .collect();
        let bytes = |scan: &Scan<'_>, first: usize, next: usize| (scan.tokens[first].start, scan.tokens[next - 1].end);
        // The field by whose name a number stands, by the number's first token.
        let reach = match sure {
            Sure::Asked => Reach { before: 3, behind: 3, parts: false },
            // "120 guests": the noun of one field's name, right beside the number.
            Sure::Volunteered => Reach { before: 1, behind: 1, parts: true },
        };
        let numbers: Vec<(usize, usize)> = all.iter().map(|amount| (amount.first, amount.next)).collect();
        let beside = self.named_beside(&work.scan, &numbers, &fields, reach);
        let named: Vec<(usize, usize)> =
            numbers.iter().zip(beside).filter_map(|((first, _), field)| Some((*first, field?))).collect();
        let name_of =
            |number: (usize, usize)| named.iter().find(|(first, _)| *first == number.0).map(|(_, field)| *field);
        if self.wants(FieldType::Money) {
            let hints = self
                .fields
                .iter()
                .find(|wanted| wanted.reader.kind == FieldType::Money)
                .map(|wanted| wanted.reader.money(context))
                .unwrap_or_default();
            let mut found = money::of(&work.scan, hints, &all);
            if found.is_empty() && sure == Sure::Asked {
                // "Budget: 2k" names what the number is.
                let money = |mention: &money::Mention| {
                    name_of(mention.number).is_some_and(|field| self.fields[field].reader.kind == FieldType::Money)
                };
                found = money::bare(&work.scan, language, hints, &all).into_iter().filter(money).collect();
            }
            let offered = found
                .into_iter()
                .map(|found| {
                    let (start, end) = bytes(&work.scan, found.first, found.next);
                    Offered::new(Value::Money { amount: found.amount, currency: found.currency }, start, end)
                })
                .collect();
            self.give(work, FieldType::Money, offered, context);
        }
        // Fields that share a unit compete; those with units of their own do not.
        let counting: Vec<usize> =
            fields.iter().copied().filter(|field| self.fields[*field].reader.kind != FieldType::Money).collect();
        let mut done: Vec<usize> = Vec::new();
        for field in counting.iter().copied() {
            if done.contains(&field) {
                continue;
            }
            let units = &self.fields[field].reader.units;
            let rivals: Vec<usize> = counting
                .iter()
                .copied()
                .filter(|other| {
                    self.fields[*other].reader.units.name == units.name
                        && self.fields[*other].reader.kind == self.fields[field].reader.kind
                })
                .filter(|other| work.wants(*other))
                .collect();
            done.extend(&rivals);
            let whole = self.fields[field].reader.kind == FieldType::WholeNumber;
            let found: Vec<quantity::Mention> = quantity::of(&work.scan, language, units, &all)
                .into_iter()
                // Without a unit, the field's own name must stand beside the number.
                .filter(|found| {
                    found.with_unit && units.name.is_some()
                        || name_of(found.number).is_some_and(|field| rivals.contains(&field))
                })
                .collect();
            // "Between 20 and 30 users in 4 locations": what has the unit is surer.
            let with_unit = units.name.is_some() && found.iter().any(|found| found.with_unit);
            // "Orders 1500 skus 900": of two with the unit, the one that is named.
            let named_too = found
                .iter()
                .any(|found| found.with_unit && name_of(found.number).is_some_and(|field| rivals.contains(&field)));
            let others = |found: &quantity::Mention| {
                named_too && name_of(found.number).is_none_or(|field| !rivals.contains(&field))
            };
            let offered: Vec<Offered> = found
                .into_iter()
                .filter(|found| (!with_unit || found.with_unit) && !others(found))
                .filter_map(|found| {
                    let (start, end) = bytes(&work.scan, found.first, found.next);
                    let mut value = found.value;
                    if whole {
                        let ends = [value.low, value.high].into_iter().flatten().all(|end| end.is_integer());
                        if !ends || value.low.is_none() && !value.amount.is_integer() {
                            return None;
                        }
                        value.amount = value.amount.floor();
                        value.unit = None;
                    }
                    // "40 frozen pallets" leaves the words in between to other fields.
                    let between = found.with_unit && found.next > found.number.1 + 1;
                    let inside = between
                        .then(|| (work.scan.tokens[found.number.1 - 1].end, work.scan.tokens[found.next - 1].start));
                    Some(Offered {
                        named: name_of(found.number),
                        inside,
                        ..Offered::new(Value::Number(value), start, end)
                    })
                })
                .collect();
            self.give_to(work, &rivals, offered, context);
        }
    }
}

/// "Last year we had 40 guests": what was counted then is not what is asked for.
fn is_past(scan: &Scan<'_>, language: &Language, amount: &number::Amount) -> bool {
    let turns = |index: usize| {
        let word = scan.word(index);
        ends_clause(scan, index)
            || word.is_some_and(|word| language.but.contains(word) || shared().ands.contains(word))
            || language.dates.now.at(scan, index).is_some()
    };
    let from = (amount.first.saturating_sub(10)..amount.first)
        .rev()
        .find(|index| turns(*index))
        .map_or(amount.first.saturating_sub(10), |index| index + 1);
    let to = (amount.next..amount.next + 8).find(|index| turns(*index)).unwrap_or(amount.next + 8);
    let unit = |index: usize| scan.word(index).is_some_and(|word| date::is_period(word, language));
    (from..to).any(|index| {
        let beside = language.dates.last.at(scan, index).is_some_and(|(_, next)| unit(next))
            || index > 0 && language.dates.last.at(scan, index).is_some() && unit(index - 1);
        beside && !(amount.first..amount.next).contains(&index)
    }) || was_and_is_not(scan, language, from, amount.first, to)
}

/// "It was 14 users, now 16 users": what was, in a clause before the one that says what is now.
fn was_and_is_not(scan: &Scan<'_>, language: &Language, from: usize, first: usize, to: usize) -> bool {
    let was = (from..first).any(|index| scan.word(index).is_some_and(|word| shared().was.contains(word)));
    was && (to..(to + 8).min(scan.tokens.len())).any(|index| language.dates.now.at(scan, index).is_some())
}
