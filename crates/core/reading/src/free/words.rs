//! What is told from words: people, companies, countries, options, yes and no.

use super::super::choice::Mention as OptionMention;
use super::super::took_back::{TookBack, negated};
use super::super::{Heard, ReadContext, company, country, name};
use super::{FreeReader, Offered, Taken, Work};
use lumbo_language::{Kind, Scan};
use lumbo_value::FieldType;
use lumbo_value::Value;

impl FreeReader {
    pub(super) fn people(&self, work: &mut Work<'_>, context: ReadContext<'_>) {
        if self.wants(FieldType::Company)
            && let Some(found) = company::mention(&work.scan, self.language)
        {
            self.give(
                work,
                FieldType::Company,
                vec![Offered::new(Value::text(found.name), found.start, found.end)],
                context,
            );
        }
        if self.wants(FieldType::PersonName) {
            let free = |found: &name::Mention| work.is_free(found.start, found.end);
            let found = name::mention(&work.scan, self.language)
                .filter(free)
                .or_else(|| name::opening(&work.scan, self.language).filter(free))
                .or_else(|| name::beside_contact(&work.scan, self.language, &work.claimed).filter(free));
            if let Some(found) = found {
                self.give(
                    work,
                    FieldType::PersonName,
                    vec![Offered::new(Value::Name(found.name), found.start, found.end)],
                    context,
                );
            }
        }
    }

    pub(super) fn countries(&self, work: &mut Work<'_>, context: ReadContext<'_>) {
        if self.wants(FieldType::Country) {
            let offered = country::mentions(&work.scan)
                .into_iter()
                .map(|found| {
                    Offered::new(
                        Value::text(found.code),
                        work.scan.tokens[found.first].start,
                        work.scan.tokens[found.next - 1].end,
                    )
                })
                .collect();
            self.give(work, FieldType::Country, offered, context);
        }
    }

    pub(super) fn options(&self, work: &mut Work<'_>, context: ReadContext<'_>) {
        for (field, wanted) in self.fields.iter().enumerate() {
            if !matches!(wanted.reader.kind, FieldType::Choice | FieldType::Choices) || work.taken[field].is_some() {
                continue;
            }
            let options = &wanted.reader.options;
            let free = |mention: &OptionMention| {
                // "A team of 12"
                let counted = matches!(work.scan.word(mention.next), Some("of"))
                    && work.scan.tokens.get(mention.next + 1).is_some_and(|token| token.kind == Kind::Digits);
                if counted {
                    return false;
                }
                let (start, end) = (work.scan.tokens[mention.first].start, work.scan.tokens[mention.next - 1].end);
                work.is_free(start, end)
            };
            let found: Vec<OptionMention> = options.mentions(&work.scan).into_iter().filter(free).collect();
            let kept = TookBack::kept(&work.scan, self.language, &found, &|mention: &OptionMention| {
                (mention.first, mention.next)
            });
            let (Some(first), Some(last)) = (kept.first(), kept.last()) else { continue };
            let sole: Vec<usize> = kept
                .iter()
                .filter_map(|mention| if let [one] = mention.options.as_slice() { Some(*one) } else { None })
                .collect();
            let value = if wanted.reader.kind == FieldType::Choice {
                let common = first
                    .options
                    .iter()
                    .copied()
                    .filter(|option| kept.iter().all(|mention| mention.options.contains(option)))
                    .collect::<Vec<_>>();
                let [one] = common.as_slice() else { continue };
                Value::choice(options.all[*one].key.clone())
            } else if sole.len() == kept.len() {
                let keys = options
                    .all
                    .iter()
                    .enumerate()
                    .filter(|(index, _)| sole.contains(index))
                    .map(|(_, option)| option.key.clone())
                    .collect();
                Value::Choices { keys }
            } else {
                continue;
            };
            let several = wanted.reader.kind == FieldType::Choices;
            let (start, end) = (
                work.scan.tokens[first.first].start,
                work.scan.tokens[if several { last.next } else { first.next } - 1].end,
            );
            self.give_to(work, &[field], vec![Offered::new(value, start, end)], context);
        }
    }

    pub(super) fn yes_or_no(&self, work: &mut Work<'_>, context: ReadContext<'_>) {
        let wanting: Vec<usize> = (0..self.fields.len())
            .filter(|field| self.fields[*field].reader.kind == FieldType::YesNo && work.taken[*field].is_none())
            .collect();
        let question = work.scan.raw.trim_end().ends_with('?');
        for field in wanting.iter().copied() {
            // The field's own name: "blast freezing too", "no blast freezing".
            let named = (0..work.scan.tokens.len().min(400))
                .find_map(|index| self.fields[field].cues.at(&work.scan, index).map(|(_, next)| (index, next)));
            if let Some((first, next)) = named.filter(|_| !question) {
                let yes = !negated(&work.scan, first, self.language);
                let (start, end) = (work.scan.tokens[first].start, work.scan.tokens[next - 1].end);
                if work.is_free(start, end) {
                    work.taken[field] = Some((
                        Taken { field, value: Value::YesNo { yes }, heard: Heard::at(work.scan.raw, start, end) },
                        start,
                    ));
                    work.claimed.push((start, end));
                }
            }
        }
        if let [only] = wanting.as_slice()
            && work.taken[*only].is_none()
            && let Some((yes, next)) = self.language.firm.at(&work.scan, 0)
            && (yes == 1 || stands_alone(&work.scan, next))
            && !(work.scan.tokens.get(next).is_some_and(|token| token.is('.'))
                && work.scan.tokens.get(next + 1).is_some_and(|token| token.kind == Kind::Digits))
        {
            let offer =
                Offered::new(Value::YesNo { yes: yes == 1 }, work.scan.tokens[0].start, work.scan.tokens[next - 1].end);
            self.give_to(work, &[*only], vec![offer], context);
        }
    }
}

/// True where a word is followed by a mark, a line break or nothing: "No dinner" says no to dinner alone.
fn stands_alone(scan: &Scan<'_>, next: usize) -> bool {
    scan.tokens.get(next).is_none_or(|token| token.kind == Kind::Mark) || scan.breaks_before(next)
}
