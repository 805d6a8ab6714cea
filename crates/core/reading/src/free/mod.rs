//! Several fields out of one free reply.
//!
//! Each type offers the places where its values stand, from the surest to the least sure; a place that is taken is not
//! taken again. A number that belongs to a phone or a date is no quantity, a word of a company's name is no option.
//! Where two fields could take the same place and nothing near it names one of them, neither does: it is asked for.
//!
//! | file | what it holds |
//! |---|---|
//! | `labelled` | what stands behind a field's own name and a mark |
//! | `times` | phone numbers and dates |
//! | `amounts` | money, quantities, whole numbers |
//! | `words` | people, companies, countries, options, yes and no |
//! | `places` | places, addresses, lists |
//! | `named` | which field is named beside a value |
//! | this | e-mail and web addresses, and who is given what |

mod amounts;
mod labelled;
mod named;
mod places;
mod times;
mod words;

use named::Reach;

use super::took_back::TookBack;
use super::{Heard, ReadContext, Reader, Reading, email, website};
use lumbo_language::{Kind, Language, Lexicon, Scan, fold};
use lumbo_value::FieldType;
use lumbo_value::Value;

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
    /// Words of a name of several that no other field's name has: "pickup" of "Pickup date".
    parts: Lexicon<()>,
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
    /// The field whose name stands beside it, where that was looked for.
    named: Option<usize>,
    /// Bytes inside that other fields may take.
    inside: Option<(usize, usize)>,
}

impl Offered {
    fn new(value: Value, start: usize, end: usize) -> Self {
        Self { value, start, end, named: None, inside: None }
    }
}

struct Work<'a> {
    scan: Scan<'a>,
    /// What each field took, with its first byte.
    taken: Vec<Option<(Taken, usize)>>,
    /// Fields that have a value already and take none.
    known: Vec<bool>,
    claimed: Vec<(usize, usize)>,
}

impl Work<'_> {
    fn wants(&self, field: usize) -> bool {
        self.taken[field].is_none() && !self.known[field]
    }

    fn is_free(&self, start: usize, end: usize) -> bool {
        !self.claimed.iter().any(|(from, to)| start < *to && *from < end)
    }

    fn tokens(&self, offer: &Offered) -> (usize, usize) {
        (self.scan.at_byte(offer.start), self.scan.at_byte(offer.end))
    }
}

impl FreeReader {
    /// Builds a reader of several fields, each with its key or label by which a reply may name it.
    #[must_use]
    pub fn new(readers: Vec<(Reader, Vec<String>)>, language: &str) -> Self {
        let folded: Vec<Vec<String>> =
            readers.iter().map(|(_, names)| names.iter().map(|name| fold(&name.replace('_', " "))).collect()).collect();
        let of_one = |word: &str| {
            folded.iter().filter(|names| names.iter().any(|name| name.split(' ').any(|other| other == word))).count()
                == 1
        };
        let fields = readers
            .into_iter()
            .zip(&folded)
            .map(|((reader, _), names)| {
                let (mut cues, mut parts) = (Lexicon::default(), Lexicon::default());
                for name in names {
                    cues.add(name, ());
                    let plural = name.strip_suffix('s').map_or(format!("{name}s"), str::to_owned);
                    cues.add(&plural, ());
                    // "The budget's 2k"
                    cues.add(&format!("{name}'s"), ());
                    let several = name.contains(' ');
                    name.split(' ')
                        .filter(|word| several && word.chars().count() >= 3 && of_one(word))
                        .for_each(|word| parts.add(word, ()));
                }
                Wanted { reader, cues, parts }
            })
            .collect();
        Self { fields, language: Language::get(language) }
    }

    /// Reads a reply to an Open ask: every field that can be told, in the order of the text.
    #[must_use]
    pub fn read(&self, raw: &str, context: ReadContext<'_>) -> Vec<Taken> {
        self.take(raw, context, Sure::Asked, &[])
    }

    /// Reads what a reply to another question says unmistakably besides: e-mail, phone in international form, web
    /// address, money with its sign, quantity with its unit, a number beside the noun of one field, a date or a place
    /// where one such field is lacking. `lacking` says which fields are.
    #[must_use]
    pub fn volunteered(&self, raw: &str, context: ReadContext<'_>, lacking: &[bool]) -> Vec<Taken> {
        self.take(raw, context, Sure::Volunteered, lacking)
    }

    /// True where a reply names a field by its key or label.
    #[must_use]
    pub fn names(&self, field: usize, raw: &str) -> bool {
        let scan = Scan::new(raw);
        self.fields
            .get(field)
            .is_some_and(|wanted| (0..scan.tokens.len().min(400)).any(|index| wanted.cues.at(&scan, index).is_some()))
    }

    /// True where exactly one field of a kind has no value yet.
    fn lacks_one(&self, work: &Work<'_>, kind: FieldType) -> bool {
        let of_kind = self.fields.iter().enumerate().filter(|(_, wanted)| wanted.reader.kind == kind);
        of_kind.filter(|(field, _)| work.wants(*field)).count() == 1
    }

    fn wants(&self, kind: FieldType) -> bool {
        self.fields.iter().any(|wanted| wanted.reader.kind == kind)
    }

    fn take(&self, raw: &str, context: ReadContext<'_>, sure: Sure, lacking: &[bool]) -> Vec<Taken> {
        if raw.len() > super::REPLY_LIMIT && raw.chars().count() > super::REPLY_LIMIT {
            return Vec::new();
        }
        let mut work = Work {
            scan: Scan::new(raw),
            taken: self.fields.iter().map(|_| None).collect(),
            known: (0..self.fields.len()).map(|field| lacking.get(field) == Some(&false)).collect(),
            claimed: Vec::new(),
        };
        if sure == Sure::Asked {
            self.labelled(&mut work, context);
        }
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
        } else if self.lacks_one(&work, FieldType::Place) {
            self.places(&mut work, context);
        }
        let mut found: Vec<(Taken, usize)> = work.taken.into_iter().flatten().collect();
        found.sort_by_key(|(taken, start)| (*start, taken.field));
        found.into_iter().map(|(taken, _)| taken).collect()
    }

    /// Gives offered values to the fields of a kind. One field takes the one value that is meant; of several fields,
    /// each takes the value that it is named beside.
    fn give(&self, work: &mut Work<'_>, kind: FieldType, offered: Vec<Offered>, context: ReadContext<'_>) {
        let wanting: Vec<usize> = (0..self.fields.len())
            .filter(|field| self.fields[*field].reader.kind == kind && work.wants(*field))
            .collect();
        self.give_to(work, &wanting, offered, context);
    }

    fn give_to(&self, work: &mut Work<'_>, wanting: &[usize], offered: Vec<Offered>, context: ReadContext<'_>) {
        let free: Vec<Offered> = offered.into_iter().filter(|offer| work.is_free(offer.start, offer.end)).collect();
        if free.is_empty() {
            return;
        }
        let listed: Vec<&Offered> = free.iter().collect();
        let kept: Vec<&Offered> = TookBack::kept(&work.scan, self.language, &listed, &|offer| work.tokens(offer))
            .into_iter()
            .copied()
            .collect();
        let claims: Vec<(usize, usize)> = free
            .iter()
            .flat_map(|offer| match offer.inside {
                Some((from, to)) => vec![(offer.start, from), (to, offer.end)],
                None => vec![(offer.start, offer.end)],
            })
            .collect();
        let given = match wanting {
            [] => Vec::new(),
            [only] => self.meant(work, *only, &kept).map(|offer| (*only, offer)).into_iter().collect(),
            several => self.named_each(work, several, &kept),
        };
        for (field, offer) in given {
            let heard = Heard::at(work.scan.raw, offer.start, offer.end);
            if self.fields[field].reader.reads_back(&offer.value, "", context)
                && let Reading::Value { value, heard } =
                    self.fields[field].reader.judge(offer.value.clone(), heard, context, 0)
            {
                work.taken[field] = Some((Taken { field, value, heard }, offer.start));
            }
        }
        work.claimed.extend(claims);
    }

    /// The one of several values that is meant for the only field that wants them: all say the same, or one is named.
    fn meant<'o>(&self, work: &Work<'_>, field: usize, kept: &[&'o Offered]) -> Option<&'o Offered> {
        let first = kept.first()?;
        if kept.iter().all(|other| other.value == first.value) {
            return Some(first);
        }
        // "Two emails: … and …": what is named stands in a clause of its own.
        let parted = |one: &Offered, other: &Offered| {
            let (one, other) = (work.tokens(one), work.tokens(other));
            (one.1.min(other.1)..one.0.max(other.0)).any(|index| ends_clause(&work.scan, index))
        };
        let mut named = kept.iter().filter(|one| {
            self.names_it(work, field, one) && kept.iter().all(|other| other.value == one.value || parted(one, other))
        });
        named.next().filter(|_| named.next().is_none()).copied()
    }

    /// The values that are named beside one of several fields, each with its field.
    fn named_each<'o>(&self, work: &Work<'_>, fields: &[usize], kept: &[&'o Offered]) -> Vec<(usize, &'o Offered)> {
        let spans: Vec<(usize, usize)> = kept.iter().map(|offer| work.tokens(offer)).collect();
        let beside = self.named_beside(&work.scan, &spans, fields, Reach { before: 8, behind: 6, parts: true });
        let named: Vec<(&Offered, Option<usize>)> = kept
            .iter()
            .zip(beside)
            .map(|(offer, beside)| (*offer, offer.named.filter(|named| fields.contains(named)).or(beside)))
            .collect();
        let mut given: Vec<(usize, &Offered)> = Vec::new();
        for field in fields {
            let naming: Vec<&Offered> =
                named.iter().filter(|(_, named)| *named == Some(*field)).map(|(offer, _)| *offer).collect();
            // "It was 4 restrooms, now 6 restrooms": two that differ are no answer.
            if let [first, rest @ ..] = naming.as_slice()
                && rest.iter().all(|other| other.value == first.value)
            {
                given.push((*field, first));
            }
        }
        // One value and one field that is not named elsewhere are no guess; two of each are.
        let rest: Vec<usize> =
            fields.iter().copied().filter(|field| !given.iter().any(|(known, _)| known == field)).collect();
        let left: Vec<&Offered> = named.iter().filter(|(_, named)| named.is_none()).map(|(offer, _)| *offer).collect();
        if let ([field], [offer]) = (rest.as_slice(), left.as_slice())
            && !given.is_empty()
        {
            given.push((*field, offer));
        }
        given
    }

    /// True where a word of the field's key or label stands in the same clause.
    fn names_it(&self, work: &Work<'_>, field: usize, offer: &Offered) -> bool {
        let scan = &work.scan;
        let (first, next) = work.tokens(offer);
        let begins = |index: &usize| ends_clause(scan, *index) || scan.breaks_before(index + 1);
        let from =
            (first.saturating_sub(8)..first).rev().find(begins).map_or(first.saturating_sub(8), |index| index + 1);
        let to =
            (next..next + 6).find(|index| ends_clause(scan, *index) || scan.breaks_before(*index)).unwrap_or(next + 6);
        let wanted = &self.fields[field];
        (from..to).any(|index| wanted.cues.at(scan, index).is_some() || wanted.parts.at(scan, index).is_some())
    }

    fn addresses(&self, work: &mut Work<'_>, context: ReadContext<'_>) {
        let mails: Vec<Offered> = email::mentions(work.scan.raw)
            .into_iter()
            .map(|found| Offered::new(Value::text(found.address), found.start, found.end))
            .collect();
        if self.wants(FieldType::Email) {
            self.give(work, FieldType::Email, mails, context);
        } else {
            work.claimed.extend(mails.iter().map(|mail| (mail.start, mail.end)));
        }
        let sites = website::mentions(work.scan.raw);
        // A bare name of a host is one where it is written small, so that "frozen.It" is not.
        let sure = |site: &website::Mention| {
            site.plain
                || work.scan.raw.get(site.start..site.end).is_some_and(|text| {
                    !text.chars().any(char::is_uppercase)
                        && text.split('.').next().is_some_and(|label| label.len() >= 3)
                })
        };
        let sites: Vec<Offered> = sites
            .iter()
            .filter(|site| sure(site))
            .map(|site| Offered::new(Value::text(site.url.clone()), site.start, site.end))
            .collect();
        if self.wants(FieldType::Website) {
            self.give(work, FieldType::Website, sites, context);
        } else {
            let claims: Vec<(usize, usize)> = sites
                .iter()
                .filter(|site| work.is_free(site.start, site.end))
                .map(|site| (site.start, site.end))
                .collect();
            work.claimed.extend(claims);
        }
    }
}

/// True where a clause ends at a token: a comma, the end of a sentence, or nothing there.
fn ends_clause(scan: &Scan<'_>, index: usize) -> bool {
    scan.tokens
        .get(index)
        .is_none_or(|token| token.kind == Kind::Mark && matches!(&*token.folded, "," | ";" | "." | "!" | "?"))
}
