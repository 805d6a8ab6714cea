//! Which of several mentions is meant: "not 40 but 50", "40, sorry, 50".

use crate::language::{Kind, Language, Scan};

/// How a prospect takes a mention back.
pub(super) struct TookBack;

impl TookBack {
    /// The one mention that is meant: those that are negated or taken back do not count, and a repeated one counts once.
    /// Nothing where none or more than one is left; `same` tells whether two say the same.
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
    pub(super) fn kept<'m, T>(scan: &Scan<'_>, language: &Language, mentions: &'m [T], place: &impl Fn(&T) -> (usize, usize)) -> Vec<&'m T> {
        let mut kept: Vec<&T> = Vec::new();
        for mention in mentions {
            let (first, _) = place(mention);
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
        let instead = language.instead.at(scan, index).or_else(|| english.instead.at(scan, index)).is_some_and(|(_, end)| end <= to);
        instead || is_set_off_no(scan, index, to, language)
    })
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
        if language.instead.at(scan, index).or_else(|| english.instead.at(scan, index)).is_some() {
            return false;
        }
        if token.kind == Kind::Mark && !matches!(&*token.folded, "'" | "\"" | "“" | "-" | "£" | "€" | "$" | "~" | "(") || scan.breaks_before(index + 1) {
            return false;
        }
        if language.but.contains(&*token.folded) {
            return false;
        }
        if language.not.contains(&*token.folded) || english.not.contains(&*token.folded) && !language.words.contains_key(&*token.folded) && back <= 2 {
            return true;
        }
    }
    false
}
