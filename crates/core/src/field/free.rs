//! Several fields out of one free reply.
//!
//! Each type offers the places where its values stand, from the surest to the least sure; a place that is taken is not
//! taken again. A number that belongs to a phone or a date is no quantity, a word of a company's name is no option. Where
//! two fields could take the same place and nothing near it names one of them, neither does: it is asked for.

use super::choice::Mention as OptionMention;
use super::took_back::TookBack;
use super::{Heard, ReadContext, Reader, Reading, company, country, date, email, list, money, name, number, phone, place, quantity, website};
use crate::file::FieldType;
use crate::language::{Kind, Language, Lexicon, Scan, fold, shared};
use crate::value::{Precision, Value};

/// A value taken out of a free reply.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Taken {
    /// Which of the readers, by its place.
    pub field: usize,
    /// The value.
    pub value: Value,
    /// Where it was heard.
    pub heard: Heard,
}

/// Reads several fields out of one reply.
#[derive(Debug, Clone)]
pub struct FreeReader {
    fields: Vec<Wanted>,
    language: &'static Language,
}

#[derive(Debug, Clone)]
struct Wanted {
    reader: Reader,
    /// Words of the field's key and label, which name it where two fields could take the same value.
    cues: Lexicon<()>,
}

/// How sure a value must be.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Sure {
    /// An Open ask asked for it.
    Asked,
    /// Nobody asked: only what is unmistakable.
    Volunteered,
}

/// A value offered for some fields, by its bytes.
struct Offered {
    value: Value,
    start: usize,
    end: usize,
}

struct Work<'a> {
    scan: Scan<'a>,
    taken: Vec<Option<(Taken, usize, usize)>>,
    claimed: Vec<(usize, usize)>,
}

impl Work<'_> {
    fn is_free(&self, start: usize, end: usize) -> bool {
        !self.claimed.iter().any(|(from, to)| start < *to && *from < end)
    }
}

impl FreeReader {
    /// Builds a reader of several fields, each with its key or label by which a reply may name it.
    #[must_use]
    pub fn new(readers: Vec<(Reader, Vec<String>)>, language: &str) -> Self {
        let fields = readers
            .into_iter()
            .map(|(reader, names)| {
                let mut cues = Lexicon::default();
                for name in names {
                    let name = fold(&name.replace('_', " "));
                    cues.add(&name, ());
                    let plural = name.strip_suffix('s').map_or(format!("{name}s"), str::to_owned);
                    cues.add(&plural, ());
                }
                Wanted { reader, cues }
            })
            .collect();
        Self { fields, language: Language::get(language) }
    }

    /// Reads a reply to an Open ask: every field that can be told, in the order of the text.
    #[must_use]
    pub fn read(&self, raw: &str, context: ReadContext<'_>) -> Vec<Taken> {
        self.take(raw, context, Sure::Asked)
    }

    /// Reads what a reply to another question says unmistakably besides: e-mail, phone in international form, web address,
    /// money with its sign, quantity with its unit.
    #[must_use]
    pub fn volunteered(&self, raw: &str, context: ReadContext<'_>) -> Vec<Taken> {
        self.take(raw, context, Sure::Volunteered)
    }

    /// True where a reply names a field by its key or label.
    #[must_use]
    pub fn names(&self, field: usize, raw: &str) -> bool {
        let scan = Scan::new(raw);
        self.fields.get(field).is_some_and(|wanted| (0..scan.tokens.len().min(400)).any(|index| wanted.cues.at(&scan, index).is_some()))
    }

    fn wants(&self, kind: FieldType) -> bool {
        self.fields.iter().any(|wanted| wanted.reader.kind == kind)
    }

    fn take(&self, raw: &str, context: ReadContext<'_>, sure: Sure) -> Vec<Taken> {
        if raw.len() > super::REPLY_LIMIT && raw.chars().count() > super::REPLY_LIMIT {
            return Vec::new();
        }
        let mut work = Work { scan: Scan::new(raw), taken: self.fields.iter().map(|_| None).collect(), claimed: Vec::new() };
        self.addresses(&mut work, context);
        self.phones_and_dates(&mut work, context, sure);
        self.amounts(&mut work, context, sure);
        if sure == Sure::Asked {
            self.people(&mut work, context);
            self.countries(&mut work, context);
            self.options(&mut work, context);
            self.places(&mut work, context);
            self.lists(&mut work, context);
            self.yes_or_no(&mut work, context);
        }
        let mut found: Vec<(Taken, usize)> = work.taken.into_iter().flatten().map(|(taken, start, _)| (taken, start)).collect();
        found.sort_by_key(|(taken, start)| (*start, taken.field));
        found.into_iter().map(|(taken, _)| taken).collect()
    }

    /// Gives offered values to the fields of a kind. One field takes the one value that is meant; of several fields, each
    /// takes the value that it is named beside.
    fn give(&self, work: &mut Work<'_>, kind: FieldType, offered: Vec<Offered>, context: ReadContext<'_>) {
        let wanting: Vec<usize> = (0..self.fields.len()).filter(|field| self.fields[*field].reader.kind == kind && work.taken[*field].is_none()).collect();
        self.give_to(work, &wanting, offered, context);
    }

    fn give_to(&self, work: &mut Work<'_>, wanting: &[usize], offered: Vec<Offered>, context: ReadContext<'_>) {
        let free: Vec<Offered> = offered.into_iter().filter(|offer| work.is_free(offer.start, offer.end)).collect();
        if free.is_empty() {
            return;
        }
        let tokens = |offer: &&Offered| (work.scan.at_byte(offer.start), work.scan.at_byte(offer.end));
        let listed: Vec<&Offered> = free.iter().collect();
        let kept: Vec<&Offered> = TookBack::kept(&work.scan, self.language, &listed, &tokens).into_iter().copied().collect();
        let claims: Vec<(usize, usize)> = free.iter().map(|offer| (offer.start, offer.end)).collect();
        let mut given: Vec<(usize, &Offered)> = Vec::new();
        match wanting {
            [] => {}
            [only] => {
                let first = kept.first();
                let same = first.is_some_and(|first| kept.iter().all(|other| other.value == first.value));
                let named: Vec<&&Offered> = kept.iter().filter(|offer| self.names_it(work, *only, offer)).collect();
                // "Two emails: … and …": what is named stands in a clause of its own.
                let ends = |index: usize| work.scan.tokens[index].kind == Kind::Mark && matches!(&*work.scan.tokens[index].folded, "," | ";" | "." | "!" | "?");
                let parted = |one: &Offered, other: &Offered| {
                    let (from, to) = (tokens(&one).1.min(tokens(&other).1), tokens(&one).0.max(tokens(&other).0));
                    (from..to).any(ends)
                };
                let named: Vec<&&Offered> = named.into_iter().filter(|one| kept.iter().all(|other| other.value == one.value || parted(one, other))).collect();
                match (first, same, named.as_slice()) {
                    (Some(first), true, _) => given.push((*only, first)),
                    (_, false, [one]) => given.push((*only, one)),
                    _ => {}
                }
            }
            several => {
                for offer in &kept {
                    let named: Vec<usize> = several.iter().copied().filter(|field| self.names_it(work, *field, offer)).collect();
                    if let [one] = named.as_slice()
                        && !given.iter().any(|(field, _)| field == one)
                    {
                        given.push((*one, offer));
                    }
                }
                // One value and one field that is not named elsewhere are no guess; two of each are.
                let rest: Vec<usize> = several.iter().copied().filter(|field| !given.iter().any(|(known, _)| known == field)).collect();
                let left: Vec<&&Offered> = kept.iter().filter(|offer| !given.iter().any(|(_, known)| std::ptr::eq(*known, **offer))).collect();
                if let ([field], [offer]) = (rest.as_slice(), left.as_slice())
                    && !given.is_empty()
                {
                    given.push((*field, offer));
                }
            }
        }
        let mut accepted = Vec::new();
        for (field, offer) in given {
            let heard = Heard::at(work.scan.raw, offer.start, offer.end);
            if self.fields[field].reader.reads_back(&offer.value, context)
                && let Reading::Value { value, heard } = self.fields[field].reader.judge(offer.value.clone(), heard, context, 0)
            {
                accepted.push((field, Taken { field, value, heard }, offer.start, offer.end));
            }
        }
        for (field, taken, start, end) in accepted {
            work.taken[field] = Some((taken, start, end));
        }
        work.claimed.extend(claims);
    }

    /// True where a word of the field's key or label stands in the same clause.
    fn names_it(&self, work: &Work<'_>, field: usize, offer: &Offered) -> bool {
        let scan = &work.scan;
        let (first, next) = (scan.at_byte(offer.start), scan.at_byte(offer.end));
        let ends = |index: usize| scan.tokens.get(index).is_none_or(|token| token.kind == Kind::Mark && matches!(&*token.folded, "," | ";" | "." | "!" | "?"));
        let from = (first.saturating_sub(8)..first).rev().find(|index| ends(*index)).map_or(first.saturating_sub(8), |index| index + 1);
        let to = (next..next + 6).find(|index| ends(*index)).unwrap_or(next + 6);
        (from..to).any(|index| self.fields[field].cues.at(scan, index).is_some())
    }

    fn addresses(&self, work: &mut Work<'_>, context: ReadContext<'_>) {
        let mails: Vec<Offered> =
            email::mentions(work.scan.raw).into_iter().map(|found| Offered { value: Value::text(found.address), start: found.start, end: found.end }).collect();
        if self.wants(FieldType::Email) {
            self.give(work, FieldType::Email, mails, context);
        } else {
            work.claimed.extend(mails.iter().map(|mail| (mail.start, mail.end)));
        }
        let sites = website::mentions(work.scan.raw);
        // A bare name of a host is one where it is written small, so that "frozen.It" is not.
        let sure = |site: &website::Mention| {
            site.plain
                || work
                    .scan
                    .raw
                    .get(site.start..site.end)
                    .is_some_and(|text| !text.chars().any(char::is_uppercase) && text.split('.').next().is_some_and(|label| label.len() >= 3))
        };
        let sites: Vec<Offered> =
            sites.iter().filter(|site| sure(site)).map(|site| Offered { value: Value::text(site.url.clone()), start: site.start, end: site.end }).collect();
        if self.wants(FieldType::Website) {
            self.give(work, FieldType::Website, sites, context);
        } else {
            let claims: Vec<(usize, usize)> = sites.iter().filter(|site| work.is_free(site.start, site.end)).map(|site| (site.start, site.end)).collect();
            work.claimed.extend(claims);
        }
    }

    /// "Jan de Vries", "I'm April": a month that is a given name, behind a cue or before the rest of the name.
    fn is_person(&self, work: &Work<'_>, mention: &date::Mention) -> bool {
        let scan = &work.scan;
        let given = mention.next == mention.first + 1 && scan.word(mention.first).is_some_and(|word| shared().given_names.contains(word));
        let large =
            |index: usize| scan.word(index).is_some() && scan.raw.get(scan.tokens[index].start..).is_some_and(|rest| rest.starts_with(char::is_uppercase));
        let cued = self.language.names.cues.before(scan, mention.first).is_some();
        let family = scan.word(mention.next).is_some_and(|word| shared().particles.contains(word)) && large(mention.next + 1);
        given && large(mention.first) && (cued || family || large(mention.next))
    }

    fn phones_and_dates(&self, work: &mut Work<'_>, context: ReadContext<'_>, sure: Sure) {
        let digits = work.scan.tokens.iter().filter(|token| token.kind == Kind::Digits).map(|token| token.folded.len()).sum::<usize>();
        let phones = if digits >= 5 { phone::mentions(&work.scan, context.country) } else { Vec::new() };
        let calendar = date::Calendar { language: self.language, today: context.today, country: context.country };
        // "1 februari. jan@heron.example": a month in an address is none; "we spend £500 now" names no day.
        let claimed = |mention: &date::Mention| {
            let (start, end) = (work.scan.tokens[mention.first].start, work.scan.tokens[mention.next - 1].end);
            // "We had 10 last year" says how things were.
            let was =
                self.language.dates.last.at(&work.scan, mention.first).is_some() && mention.date.is_some_and(|(_, precision)| precision != Precision::Day);
            was || !work.is_free(start, end)
                || self.is_person(work, mention)
                || self.language.dates.now.at(&work.scan, mention.first).is_some_and(|(_, next)| next == mention.next)
        };
        let dates: Vec<date::Mention> = date::mentions(&work.scan, calendar).into_iter().filter(|mention| !claimed(mention)).collect();
        let bytes = |mention: &date::Mention| (work.scan.tokens[mention.first].start, work.scan.tokens[mention.next - 1].end);
        // "2027-03-04" could be called in some countries; it is a date.
        let dated: Vec<(usize, usize)> = dates.iter().filter(|mention| mention.sure == date::Sure::Yes).map(bytes).collect();
        let digits_of = |mention: &phone::Mention| {
            work.scan
                .raw
                .get(mention.start..mention.end)
                .is_some_and(|text| text.starts_with(['+', '0', '(']) || text.chars().filter(char::is_ascii_digit).count() >= 9)
        };
        let phones: Vec<phone::Mention> = phones
            .into_iter()
            .filter(|mention| mention.valid && (mention.international || sure == Sure::Asked && digits_of(mention)))
            .filter(|mention| mention.international || !dated.iter().any(|(from, to)| mention.start < *to && *from < mention.end))
            .collect();
        let offered: Vec<Offered> = phones.iter().map(|found| Offered { value: found.value(), start: found.start, end: found.end }).collect();
        if self.wants(FieldType::Phone) {
            self.give(work, FieldType::Phone, offered, context);
        } else {
            work.claimed.extend(offered.iter().map(|phone| (phone.start, phone.end)));
        }
        if sure == Sure::Volunteered {
            return;
        }
        let certain: Vec<&date::Mention> = dates.iter().filter(|mention| mention.sure == date::Sure::Yes).collect();
        let offered: Vec<Offered> = certain
            .iter()
            .filter_map(|mention| {
                let (date, precision) = mention.date?;
                let (start, end) = (work.scan.tokens[mention.first].start, work.scan.tokens[mention.next - 1].end);
                Some(Offered { value: Value::Date { date, precision }, start, end })
            })
            .collect();
        let open = certain.iter().any(|mention| mention.date.is_none());
        let claims: Vec<(usize, usize)> =
            certain.iter().map(|mention| (work.scan.tokens[mention.first].start, work.scan.tokens[mention.next - 1].end)).collect();
        if self.wants(FieldType::Date) && !open {
            self.give(work, FieldType::Date, offered, context);
        }
        work.claimed.extend(claims);
    }

    fn amounts(&self, work: &mut Work<'_>, context: ReadContext<'_>, sure: Sure) {
        let wanted = [FieldType::Money, FieldType::Quantity, FieldType::WholeNumber].into_iter().any(|kind| self.wants(kind));
        if !wanted {
            return;
        }
        let language = self.language;
        let all: Vec<number::Amount> = number::amounts(&work.scan, language)
            .into_iter()
            .filter(|amount| work.is_free(work.scan.tokens[amount.first].start, work.scan.tokens[amount.next - 1].end))
            .collect();
        let bytes = |scan: &Scan<'_>, first: usize, next: usize| (scan.tokens[first].start, scan.tokens[next - 1].end);
        if self.wants(FieldType::Money) {
            let hints = self.fields.iter().find(|wanted| wanted.reader.kind == FieldType::Money).map(|wanted| wanted.reader.money(context)).unwrap_or_default();
            let offered = money::of(&work.scan, hints, &all)
                .into_iter()
                .map(|found| {
                    let (start, end) = bytes(&work.scan, found.first, found.next);
                    Offered { value: Value::Money { amount: found.amount, currency: found.currency }, start, end }
                })
                .collect();
            self.give(work, FieldType::Money, offered, context);
        }
        // Fields that share a unit compete; those with units of their own do not.
        let counting: Vec<usize> =
            (0..self.fields.len()).filter(|field| matches!(self.fields[*field].reader.kind, FieldType::Quantity | FieldType::WholeNumber)).collect();
        let mut done: Vec<usize> = Vec::new();
        for field in counting.iter().copied() {
            if done.contains(&field) {
                continue;
            }
            let units = &self.fields[field].reader.units;
            let rivals: Vec<usize> = counting
                .iter()
                .copied()
                .filter(|other| self.fields[*other].reader.units.name == units.name && self.fields[*other].reader.kind == self.fields[field].reader.kind)
                .collect();
            done.extend(&rivals);
            let whole = self.fields[field].reader.kind == FieldType::WholeNumber;
            let offered: Vec<Offered> = quantity::of(&work.scan, language, units, &all)
                .into_iter()
                .filter(|found| {
                    // Without a unit, the field's own name must stand beside the number.
                    let named = || sure == Sure::Asked && rivals.iter().any(|rival| self.named_beside(work, *rival, found.number));
                    if units.name.is_some() { found.with_unit || named() } else { named() }
                })
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
                    Some(Offered { value: Value::Number(value), start, end })
                })
                .collect();
            self.give_to(work, &rivals, offered, context);
        }
    }

    /// True where a field's name stands right beside a number: "pallets: 340", "340 frozen pallets".
    fn named_beside(&self, work: &Work<'_>, field: usize, (first, next): (usize, usize)) -> bool {
        let cues = &self.fields[field].cues;
        (next..next + 3).any(|index| cues.at(&work.scan, index).is_some())
            || (first.saturating_sub(3)..first).any(|index| cues.at(&work.scan, index).is_some_and(|(_, end)| end <= first))
    }

    fn people(&self, work: &mut Work<'_>, context: ReadContext<'_>) {
        if self.wants(FieldType::Company)
            && let Some(found) = company::mention(&work.scan, self.language)
        {
            self.give(work, FieldType::Company, vec![Offered { value: Value::text(found.name), start: found.start, end: found.end }], context);
        }
        if self.wants(FieldType::PersonName) {
            let found = name::mention(&work.scan, self.language).or_else(|| name::opening(&work.scan, self.language));
            if let Some(found) = found {
                self.give(work, FieldType::PersonName, vec![Offered { value: Value::Name(found.name), start: found.start, end: found.end }], context);
            }
        }
    }

    fn countries(&self, work: &mut Work<'_>, context: ReadContext<'_>) {
        if self.wants(FieldType::Country) {
            let offered = country::mentions(&work.scan)
                .into_iter()
                .map(|found| Offered { value: Value::text(found.code), start: work.scan.tokens[found.first].start, end: work.scan.tokens[found.next - 1].end })
                .collect();
            self.give(work, FieldType::Country, offered, context);
        }
    }

    fn options(&self, work: &mut Work<'_>, context: ReadContext<'_>) {
        for (field, wanted) in self.fields.iter().enumerate() {
            if !matches!(wanted.reader.kind, FieldType::Choice | FieldType::Choices) {
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
            let kept = TookBack::kept(&work.scan, self.language, &found, &|mention: &OptionMention| (mention.first, mention.next));
            let (Some(first), Some(last)) = (kept.first(), kept.last()) else { continue };
            let sole: Vec<usize> = kept.iter().filter_map(|mention| if let [one] = mention.options.as_slice() { Some(*one) } else { None }).collect();
            let value = if wanted.reader.kind == FieldType::Choice {
                let common = first.options.iter().copied().filter(|option| kept.iter().all(|mention| mention.options.contains(option))).collect::<Vec<_>>();
                let [one] = common.as_slice() else { continue };
                Value::choice(options.all[*one].key.clone())
            } else if sole.len() == kept.len() {
                let keys = options.all.iter().enumerate().filter(|(index, _)| sole.contains(index)).map(|(_, option)| option.key.clone()).collect();
                Value::Choices { keys }
            } else {
                continue;
            };
            let several = wanted.reader.kind == FieldType::Choices;
            let (start, end) = (work.scan.tokens[first.first].start, work.scan.tokens[if several { last.next } else { first.next } - 1].end);
            self.give_to(work, &[field], vec![Offered { value, start, end }], context);
        }
    }

    fn places(&self, work: &mut Work<'_>, context: ReadContext<'_>) {
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
                let Some((_, next)) = self.language.place.cues.at(&work.scan, index).or_else(|| english.place.cues.at(&work.scan, index)) else { continue };
                let Some(token) = work.scan.tokens.get(next) else { continue };
                let large = work.scan.raw[token.start..].starts_with(char::is_uppercase) || token.kind == Kind::Digits;
                if !large || !work.is_free(token.start, token.end) {
                    continue;
                }
                let found = match kind {
                    FieldType::Address => place::address(&work.scan, self.language, context.country, next)
                        .filter(|(place, ..)| !place.lines.is_empty() && (place.town.is_some() || place.postcode.is_some())),
                    _ => place::from(&work.scan, self.language, context.country, next).filter(|(place, ..)| place.town.is_some() || place.postcode.is_some()),
                };
                // "Lyon, France" where the country was asked for as well: the town goes up to it.
                let found = found.and_then(|(place, start, end)| {
                    if work.is_free(start, end) {
                        return Some((place, start, end));
                    }
                    let cut = work.claimed.iter().map(|(from, _)| *from).filter(|from| (start + 1..end).contains(from)).min()?;
                    let town = Scan::new(work.scan.raw.get(start..cut)?.trim_end_matches(|c: char| !c.is_alphanumeric()));
                    let (place, from, to) = place::from(&town, self.language, context.country, 0)?;
                    work.is_free(start + from, start + to).then_some((place, start + from, start + to))
                });
                if let Some((place, start, end)) = found {
                    offered.push(Offered { value: Value::Place(place), start, end });
                    break;
                }
            }
            self.give(work, kind, offered, context);
        }
    }

    fn lists(&self, work: &mut Work<'_>, context: ReadContext<'_>) {
        if !self.wants(FieldType::List) {
            return;
        }
        for index in 0..work.scan.tokens.len().min(400) {
            let Some((_, next)) = self.language.list.cues.at(&work.scan, index).filter(|(_, next)| *next >= index + 2) else { continue };
            // To the end of the sentence; at least two items make a list.
            let end = (next..work.scan.tokens.len())
                .find(|index| work.scan.tokens[*index].is('.') || work.scan.tokens[*index].is(';') || work.scan.breaks_before(*index) && *index > next)
                .unwrap_or(work.scan.tokens.len());
            let Some(from) = work.scan.tokens.get(next).map(|token| token.start) else { continue };
            let to = work.scan.tokens[end - 1].end;
            let text = work.scan.raw.get(from..to).unwrap_or_default();
            if let super::Found::Value(Value::List { items }, _) = list::read(&Scan::new(text), self.language)
                && items.len() >= 2
                && items.iter().all(|item| item.split_whitespace().count() <= 5 && !item.contains('@') && !item.chars().any(|c| c.is_ascii_digit()))
            {
                self.give(work, FieldType::List, vec![Offered { value: Value::List { items }, start: from, end: to }], context);
                return;
            }
        }
    }

    fn yes_or_no(&self, work: &mut Work<'_>, context: ReadContext<'_>) {
        let wanting: Vec<usize> = (0..self.fields.len()).filter(|field| self.fields[*field].reader.kind == FieldType::YesNo).collect();
        let question = work.scan.raw.trim_end().ends_with('?');
        for field in wanting.iter().copied() {
            // The field's own name: "blast freezing too", "no blast freezing".
            let named = (0..work.scan.tokens.len().min(400)).find_map(|index| self.fields[field].cues.at(&work.scan, index).map(|(_, next)| (index, next)));
            if let Some((first, next)) = named.filter(|_| !question) {
                let yes = !super::took_back::negated(&work.scan, first, self.language);
                let (start, end) = (work.scan.tokens[first].start, work.scan.tokens[next - 1].end);
                if work.is_free(start, end) {
                    work.taken[field] = Some((Taken { field, value: Value::YesNo { yes }, heard: Heard::at(work.scan.raw, start, end) }, start, end));
                    work.claimed.push((start, end));
                }
            }
        }
        if let [only] = wanting.as_slice()
            && work.taken[*only].is_none()
            && let Some((yes, next)) = self.language.firm.at(&work.scan, 0)
            && !(work.scan.tokens.get(next).is_some_and(|token| token.is('.'))
                && work.scan.tokens.get(next + 1).is_some_and(|token| token.kind == Kind::Digits))
        {
            let offer = Offered { value: Value::YesNo { yes: yes == 1 }, start: work.scan.tokens[0].start, end: work.scan.tokens[next - 1].end };
            self.give_to(work, &[*only], vec![offer], context);
        }
    }
}
