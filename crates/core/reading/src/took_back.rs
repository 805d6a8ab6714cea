//! Which of several mentions is meant: "not 40 but 50", "40, sorry, 50".

use super::{Found, Heard};
use lumbo_language::{Kind, Language, Scan, shared};

/// Longest reply, in tokens, that is looked at for a corrected name.
const CORRECTED: usize = 60;

/// How a prospect takes a mention back.
pub(super) struct TookBack;

impl TookBack {
    /// The one mention that is meant: those that are negated or taken back do not count, and a repeated one counts
    /// once. Nothing where none or more than one is left; `same` tells whether two say the same.
    pub(super) fn choose<'m, T>(
        scan: &Scan<'_>,
        language: &Language,
        mentions: &'m [T],
        place: impl Fn(&T) -> (usize, usize),
        same: impl Fn(&T, &T) -> bool,
    ) -> Option<&'m T> {
        let kept: Vec<&T> = Self::kept(scan, language, mentions, &place);
        let first = kept.first()?;
        kept.iter().all(|other| same(first, other)).then_some(*first)
    }

    /// The mentions that are neither negated nor taken back.
    pub(super) fn kept<'m, T>(
        scan: &Scan<'_>,
        language: &Language,
        mentions: &'m [T],
        place: &impl Fn(&T) -> (usize, usize),
    ) -> Vec<&'m T> {
        let mut kept: Vec<&T> = Vec::new();
        for mention in mentions {
            let (first, _) = place(mention);
            // "40 pallets, no 50"
            let no = first.checked_sub(1).filter(|index| {
                *index > 0 && scan.tokens[*index - 1].kind == Kind::Mark && scan.tokens[first].kind == Kind::Digits
            });
            if !kept.is_empty() && no.and_then(|index| scan.word(index)).is_some_and(|word| language.no.contains(word))
            {
                kept.clear();
                kept.push(mention);
                continue;
            }
            if negated(scan, first, language) {
                continue;
            }
            if let Some(before) = kept.last()
                && taken_back(scan, place(before).1, first, language)
            {
                kept.clear();
            }
            kept.push(mention);
        }
        kept
    }
}

/// True where "sorry", "I mean", or a "no" set off by a comma stands between two mentions.
fn taken_back(scan: &Scan<'_>, from: usize, to: usize, language: &Language) -> bool {
    let english = Language::get("en");
    (from..to).any(|index| {
        // "Frozen rather than chilled" leaves out what follows.
        if language.except.at(scan, index).or_else(|| english.except.at(scan, index)).is_some() {
            return false;
        }
        let instead = language
            .instead
            .at(scan, index)
            .or_else(|| english.instead.at(scan, index))
            .is_some_and(|(_, end)| end <= to);
        instead || is_set_off_no(scan, index, to, language)
    })
}

/// What is read behind words that take back what stands before them: "Ana, sorry, Anna", "not Heron, Saltwick Fish".
/// Nothing where there are none, or where nothing is said behind them.
pub(super) fn behind_correction(
    scan: &Scan<'_>,
    language: &Language,
    read: impl Fn(&Scan<'_>) -> Found,
) -> Option<Found> {
    // Who corrects a name does so in a short reply; the bound keeps a reply of nothing but corrections linear.
    let last = scan.tokens.len();
    if last > CORRECTED {
        return None;
    }
    let english = Language::get("en");
    let parts = |index: usize| scan.tokens[index].is(',') || language.but.contains(&*scan.tokens[index].folded);
    let leaves_out = |word: &str| language.not.contains(word) && word != "no" || shared().leaves_out.contains(word);
    let begins = if scan.word(0).is_some_and(leaves_out) {
        (1..last).find(|index| parts(*index)).map(|index| {
            index + 1 + usize::from(scan.tokens.get(index + 1).is_some_and(|next| language.but.contains(&*next.folded)))
        })
    } else {
        (1..last).find_map(|index| {
            let set_off = scan.tokens[index - 1].kind == Kind::Mark;
            let (_, next) =
                language.instead.at(scan, index).or_else(|| english.instead.at(scan, index)).filter(|_| set_off)?;
            Some(next + usize::from(scan.tokens.get(next).is_some_and(|token| token.kind == Kind::Mark)))
        })
    }?;
    let from = scan.tokens.get(begins)?.start;
    let found = read(&Scan::new(scan.raw.get(from..)?));
    match found {
        Found::Value(value, heard) => {
            let before = scan.raw.get(..from)?.chars().count();
            let (start, end) = (heard.start + before, heard.end + before);
            Some(Found::Value(value, Heard { start, end, ..heard }))
        }
        _ => None,
    }
}

fn is_set_off_no(scan: &Scan<'_>, index: usize, to: usize, language: &Language) -> bool {
    scan.word(index).is_some_and(|word| language.no.contains(word))
        && index < to
        && scan.tokens.get(index + 1).is_some_and(|next| next.kind == Kind::Mark)
        && index + 1 < to
}

/// True where a negating word stands before a mention, in the same breath: "not frozen", "we don't need frozen".
pub(super) fn negated(scan: &Scan<'_>, first: usize, language: &Language) -> bool {
    let english = Language::get("en");
    let mut at = first;
    // "Nie wcześniej niż w marcu": what is about stands before the preposition.
    // "No more than €400", "not before the 10th"
    let passes = |index: &usize| {
        let sign = matches!(&*scan.tokens[*index].folded, "£" | "€" | "$");
        sign || scan
            .word(*index)
            .is_some_and(|word| shared().before_months.contains(word) || shared().articles.contains(word))
    };
    let preposition = at.checked_sub(1).filter(passes);
    if let Some(before) = preposition.filter(|index| language.about.before(scan, *index).is_some()) {
        at = before;
    }
    // "No more than 40" is about 40.
    while let Some((_, start)) = language.about.before(scan, at).or_else(|| english.about.before(scan, at)) {
        at = start;
    }
    for back in 1..=4 {
        let Some(index) = at.checked_sub(back) else { return false };
        if language.except.before(scan, at).is_some() || language.except.before(scan, index + 1).is_some() {
            return true;
        }
        let token = &scan.tokens[index];
        // "Instead of 12 we need 15": what is left out is the number in between.
        if token.kind == Kind::Digits {
            return false;
        }
        if language.instead.at(scan, index).or_else(|| english.instead.at(scan, index)).is_some() {
            return false;
        }
        if token.kind == Kind::Mark && !matches!(&*token.folded, "'" | "\"" | "“" | "-" | "£" | "€" | "$" | "~" | "(")
            || scan.breaks_before(index + 1)
        {
            return false;
        }
        if language.but.contains(&*token.folded) {
            return false;
        }
        // "Not frozen starting mid-March": what is left out stands before the word that leads on.
        let not_right_before = index > 0 && language.not.contains(&*scan.tokens[index - 1].folded);
        if !not_right_before && scan.word(index).is_some_and(|word| shared().leads_on.contains(word)) {
            return false;
        }
        if back == 1 && shared().nothing.contains(&token.folded) {
            return true;
        }
        if language.not.contains(&*token.folded)
            || english.not.contains(&*token.folded) && !language.words.contains_key(&*token.folded) && back <= 2
        {
            return true;
        }
    }
    false
}
