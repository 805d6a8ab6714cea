//! Places, addresses and lists, which go on to where something else begins.

use super::super::{Found, ReadContext, list, name, place};
use super::{FreeReader, Offered, Work, ends_clause};
use lumbo_language::{Kind, Language, Scan};
use lumbo_value::FieldType;
use lumbo_value::{Place, Value};

impl FreeReader {
    pub(super) fn places(&self, work: &mut Work<'_>, context: ReadContext<'_>) {
        if !self.wants(FieldType::Place) && !self.wants(FieldType::Address) {
            return;
        }
        let english = Language::get("en");
        for kind in [FieldType::Address, FieldType::Place] {
            if !self.wants(kind) {
                continue;
            }
            let mut offered = Vec::new();
            for index in 0..work.scan.tokens.len().min(400) {
                let Some((_, next)) =
                    self.language.place.cues.at(&work.scan, index).or_else(|| english.place.cues.at(&work.scan, index))
                else {
                    continue;
                };
                let Some(token) = work.scan.tokens.get(next) else { continue };
                let large = work.scan.is_large(next) || token.kind == Kind::Digits;
                // "Exeter to Bath" names two, "PA to Tom Bright" none.
                let alone = next == index + 1;
                let second = alone
                    && index > 0
                    && work.scan.word(index) == Some("to")
                    && work.scan.is_large(index - 1)
                    && work.scan.tokens[index - 1].folded.len() > 2;
                if !large
                    || second
                    || alone && name::listed_pair(&work.scan, next)
                    || !work.is_free(token.start, token.end)
                {
                    continue;
                }
                let found = match kind {
                    FieldType::Address => {
                        place::address(&work.scan, self.language, context.country, next).filter(|(place, ..)| {
                            !place.lines.is_empty() && (place.town.is_some() || place.postcode.is_some())
                        })
                    }
                    _ => place::from(&work.scan, self.language, context.country, next)
                        .filter(|(place, ..)| place.town.is_some() || place.postcode.is_some()),
                };
                // "From 2019" is no postcode.
                let found = found.filter(|(place, ..)| !alone || token.kind != Kind::Digits || place.town.is_some());
                // "Lyon, France" where the country was asked for as well, "Kassel am 15.3.": the town goes up to what
                // is taken.
                let found = found
                    .filter(|(_, start, end)| work.is_free(*start, *end))
                    .or_else(|| self.town_before_taken(work, next, context));
                if let Some((place, start, end)) = found {
                    offered.push(Offered::new(Value::Place(place), start, end));
                    break;
                }
            }
            self.give(work, kind, offered, context);
        }
    }

    /// A town from a token up to what was taken already, in the same clause.
    fn town_before_taken(
        &self,
        work: &Work<'_>,
        token: usize,
        context: ReadContext<'_>,
    ) -> Option<(Place, usize, usize)> {
        let scan = &work.scan;
        let start = scan.tokens[token].start;
        let cut = work.claimed.iter().map(|(from, _)| *from).filter(|from| *from > start).min()?;
        let end = scan.at_byte(cut);
        let parted = |index: usize| {
            scan.breaks_before(index + 1)
                || ends_clause(scan, index) && !(scan.tokens[index].is(',') && index + 1 == end)
        };
        if end > token + 5 || (token..end).any(parted) {
            return None;
        }
        let mut text = scan.raw.get(start..cut)?.trim_end_matches(|c: char| !c.is_alphanumeric());
        while let Some((rest, _)) = text.rsplit_once(' ').filter(|(_, word)| word.starts_with(char::is_lowercase)) {
            text = rest.trim_end_matches(|c: char| !c.is_alphanumeric());
        }
        let (place, from, to) = place::from(&Scan::new(text), self.language, context.country, 0)?;
        work.is_free(start + from, start + to).then_some((place, start + from, start + to))
    }

    pub(super) fn lists(&self, work: &mut Work<'_>, context: ReadContext<'_>) {
        if !self.wants(FieldType::List) {
            return;
        }
        for index in 0..work.scan.tokens.len().min(400) {
            let Some((_, next)) = self.language.list.cues.at(&work.scan, index).filter(|(_, next)| *next >= index + 2)
            else {
                continue;
            };
            // To the end of the sentence; at least two items make a list.
            let end = (next..work.scan.tokens.len())
                .find(|index| {
                    work.scan.tokens[*index].is('.')
                        || work.scan.tokens[*index].is(';')
                        || work.scan.breaks_before(*index) && *index > next
                })
                .unwrap_or(work.scan.tokens.len());
            let Some(from) = work.scan.tokens.get(next).map(|token| token.start) else { continue };
            let to = work.scan.tokens[end - 1].end;
            let text = work.scan.raw.get(from..to).unwrap_or_default();
            if let Found::Value(Value::List { items }, _) = list::read(&Scan::new(text), self.language)
                && items.len() >= 2
                && items.iter().all(|item| {
                    item.split_whitespace().count() <= 5
                        && !item.contains('@')
                        && !item.chars().any(|c| c.is_ascii_digit())
                })
            {
                self.give(work, FieldType::List, vec![Offered::new(Value::List { items }, from, to)], context);
                return;
            }
        }
    }
}
