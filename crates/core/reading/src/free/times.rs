//! Phone numbers and dates, which take the digits that they are written with.

use super::super::{ReadContext, date, phone};
use super::{FreeReader, Offered, Sure, Work};
use lumbo_language::{Kind, Scan, shared};
use lumbo_value::FieldType;
use lumbo_value::{Precision, Value};

impl FreeReader {
    pub(super) fn phones_and_dates(&self, work: &mut Work<'_>, context: ReadContext<'_>, sure: Sure) {
        let digits = work
            .scan
            .tokens
            .iter()
            .filter(|token| token.kind == Kind::Digits)
            .map(|token| token.folded.len())
            .sum::<usize>();
        let phones = if digits >= 5 { phone::mentions(&work.scan, context.country) } else { Vec::new() };
        let calendar = date::Calendar { language: self.language, today: context.today, country: context.country };
        // "1 februari. jan@heron.example": a month in an address is none; "we spend £500 now" names no day.
        let claimed = |mention: &date::Mention| {
            let (start, end) = (work.scan.tokens[mention.first].start, work.scan.tokens[mention.next - 1].end);
            // "We had 10 last year" says how things were.
            let was = self.language.dates.last.at(&work.scan, mention.first).is_some()
                && mention.date.is_some_and(|(_, precision)| precision != Precision::Day);
            // "380 pupils (400 next year)": when there will be as many, not when it starts.
            let counted = mention.first > 0
                && work.scan.tokens[mention.first - 1].kind == Kind::Digits
                && work.scan.word(mention.first).is_some()
                && mention.date.is_some_and(|(_, precision)| precision != Precision::Day);
            was || counted
                || !work.is_free(start, end)
                || self.is_person(work, mention)
                || self.language.dates.now.at(&work.scan, mention.first).is_some_and(|(_, next)| next == mention.next)
                // "We spend £300 a month today"
                || self.language.dates.today.at(&work.scan, mention.first).is_some_and(|(_, next)| next == mention.next)
                    && mention.first > 0
                    && work.scan.word(mention.first - 1).is_some_and(|word| date::is_period(word, self.language))
        };
        let timed = self.fields.iter().any(|wanted| wanted.reader.units.is_time());
        let found = if timed { date::beside_times(&work.scan, calendar) } else { date::mentions(&work.scan, calendar) };
        let dates: Vec<date::Mention> = found.into_iter().filter(|mention| !claimed(mention)).collect();
        let bytes =
            |mention: &date::Mention| (work.scan.tokens[mention.first].start, work.scan.tokens[mention.next - 1].end);
        // "2027-03-04" could be called in some countries; it is a date.
        let dated: Vec<(usize, usize)> =
            dates.iter().filter(|mention| mention.sure == date::Sure::Yes).map(bytes).collect();
        let digits_of = |mention: &phone::Mention| {
            work.scan.raw.get(mention.start..mention.end).is_some_and(|text| {
                text.starts_with(['+', '0', '(']) || text.chars().filter(char::is_ascii_digit).count() >= 9
            })
        };
        let phones: Vec<phone::Mention> = phones
            .into_iter()
            .filter(|mention| mention.valid && (mention.international || sure == Sure::Asked && digits_of(mention)))
            .filter(|mention| {
                mention.international || !dated.iter().any(|(from, to)| mention.start < *to && *from < mention.end)
            })
            .collect();
        let offered: Vec<Offered> =
            phones.iter().map(|found| Offered::new(found.value(), found.start, found.end)).collect();
        if self.wants(FieldType::Phone) {
            self.give(work, FieldType::Phone, offered, context);
        } else {
            work.claimed.extend(offered.iter().map(|phone| (phone.start, phone.end)));
        }
        let certain: Vec<&date::Mention> = dates
            .iter()
            .filter(|mention| mention.sure == date::Sure::Yes || leads_to_date(&work.scan, mention))
            .collect();
        let offered: Vec<Offered> = certain
            .iter()
            .filter_map(|mention| {
                let (date, precision) = mention.date?;
                let (start, end) = (work.scan.tokens[mention.first].start, work.scan.tokens[mention.next - 1].end);
                Some(Offered::new(Value::Date { date, precision }, start, end))
            })
            .collect();
        let open = certain.iter().any(|mention| mention.date.is_none());
        let claims: Vec<(usize, usize)> = certain
            .iter()
            .map(|mention| (work.scan.tokens[mention.first].start, work.scan.tokens[mention.next - 1].end))
            .collect();
        let exact = |offer: &Offered| matches!(offer.value, Value::Date { precision: Precision::Day, .. });
        let may = match sure {
            Sure::Asked => true,
            Sure::Volunteered => self.lacks_one(work, FieldType::Date) && offered.iter().all(exact),
        };
        if self.wants(FieldType::Date) && !open && may {
            self.give(work, FieldType::Date, offered, context);
        }
        work.claimed.extend(claims);
    }

    /// "Jan de Vries", "I'm April": a month that is a given name, behind a cue or before the rest of the name.
    fn is_person(&self, work: &Work<'_>, mention: &date::Mention) -> bool {
        let scan = &work.scan;
        let single = mention.next == mention.first + 1;
        let is_given = |index: usize| scan.word(index).is_some_and(|word| shared().given_names.contains(word));
        let given = single && is_given(mention.first);
        let large = |index: usize| scan.word(index).is_some() && scan.is_large(index);
        // "Ewa Lis"
        let behind = mention.first.checked_sub(1).is_some_and(|before| is_given(before) && large(before));
        if single && behind && large(mention.first) {
            return true;
        }
        let cued = self.language.names.cues.before(scan, mention.first).is_some();
        let family =
            scan.word(mention.next).is_some_and(|word| shared().particles.contains(word)) && large(mention.next + 1);
        given && large(mention.first) && (cued || family || large(mention.next))
    }
}

/// "Starting 1/15": a date that may be a fraction, behind what leads to a date.
fn leads_to_date(scan: &Scan<'_>, mention: &date::Mention) -> bool {
    let slash = scan.tokens[mention.first..mention.next].iter().any(|token| token.is('/'));
    let word = mention.first.checked_sub(1).and_then(|before| scan.word(before));
    slash && word.is_some_and(|word| shared().before_days.contains(word) || shared().leads_to_start.contains(word))
}
