//! How far a name goes from where it begins.

use super::super::company::form_at;
use super::made::{is_suffix, is_title};
use super::{WORDS, capital};
use lumbo_language::{Kind, Language, Scan, shared};

/// The token after the last that can belong to a name, and whether what follows explains itself: nothing, an ending, a
/// comma, where the person is from.
pub(super) fn extent(scan: &Scan<'_>, language: &Language, first: usize) -> (usize, bool) {
    let english = Language::get("en");
    let tokens = &scan.tokens;
    let mut end = first;
    let mut words = 0;
    let cased = tokens.get(first).is_some_and(|token| capital(scan.raw, token.start));
    while let Some(token) = tokens.get(end) {
        if end > first && scan.breaks_before(end) {
            return (end, true);
        }
        if token.kind == Kind::Digits || words >= WORDS {
            return (end, token.kind == Kind::Digits && token.folded.len() >= 3);
        }
        // "Ana Ruiz ana@heron.example"
        if end > first && !token.glued && is_mail(scan, end) {
            return (end, true);
        }
        if token.kind == Kind::Mark {
            let hyphen = token.is_dash()
                && token.glued
                && tokens.get(end + 1).is_some_and(|next| next.glued && next.kind == Kind::Word);
            let initial = token.is('.')
                && token.glued
                && end > first
                && (tokens[end - 1].folded.chars().count() <= 2 || is_title(&tokens[end - 1].folded, language))
                && tokens.get(end + 1).is_some_and(|next| next.kind == Kind::Word);
            // "Sanne van 't Hof"
            let short = token.is('\'')
                && tokens
                    .get(end + 1)
                    .is_some_and(|next| next.glued && next.folded.len() == 1 && next.kind == Kind::Word);
            let apostrophe = short
                || matches!(&*token.folded, "'" | "’")
                    && token.glued
                    && tokens.get(end + 1).is_some_and(|next| next.glued)
                || token.is('·');
            if hyphen || initial || apostrophe {
                end += 1;
                continue;
            }
            // "dana.fox", "Dana/Sam" are written as one.
            let inside = (token.is('.') || token.is('/'))
                && token.glued
                && tokens.get(end + 1).is_some_and(|next| next.glued && next.kind == Kind::Word);
            let picture = !token.folded.is_ascii() && tokens[end..].iter().all(|token| token.kind == Kind::Mark);
            return (
                end,
                !inside
                    && (picture
                        || matches!(
                            &*token.folded,
                            "," | "." | "!" | ";" | "(" | "-" | "–" | "—" | ")" | "\"" | "”" | "/" | "|"
                        )),
            );
        }
        let ending = language.names.endings.at(scan, end).or_else(|| english.names.endings.at(scan, end));
        if let Some((_, next)) = ending.filter(|_| end > first)
            && (next >= tokens.len()
                || tokens[next].kind == Kind::Mark
                || scan.breaks_before(next)
                || language.company.inner.at(scan, next).is_some())
        {
            return (end, true);
        }
        // "Tobias Rell aus Hamburg"
        let leads_to_place = language
            .place
            .cues
            .at(scan, end)
            .is_some_and(|(_, next)| tokens.get(next).is_some_and(|next| capital(scan.raw, next.start)));
        if leads_to_place
            && cased
            && end > first
            && !capital(scan.raw, token.start)
            && !shared().particles.contains(&token.folded)
        {
            return (end, true);
        }
        if language.company.inner.at(scan, end).is_some() && !shared().particles.contains(&token.folded) {
            return (end, end > first);
        }
        // "Jürgen Möller von der Nordkühl GmbH": a legal form behind a cue makes it where they are from.
        let small_lead = || {
            (shared().particles.contains(&token.folded)
                || !capital(scan.raw, token.start) && language.is_small(&token.folded))
            .then_some(end + 1)
        };
        let leads = language.company.inner.at(scan, end).map(|(_, next)| next).or_else(small_lead);
        // "Sanne de Jong van Koudlijn B.V.": the last word that leads on before the form is the one.
        let leads_again = |index: usize| {
            tokens
                .get(index)
                .is_some_and(|token| shared().particles.contains(&token.folded) && !capital(scan.raw, token.start))
        };
        if let Some(next) = leads
            && end > first
            && let Some(form) = (next..next + 5)
                .take_while(|index| tokens.get(*index).is_some_and(|token| !token.is(',')))
                .find(|index| company_at(scan, *index))
            && !(next..form).any(leads_again)
        {
            return (end, true);
        }
        // "Ana de Blue Heron": a particle goes on with the name only before one more capital and the end.
        let particle = shared().particles.contains(&token.folded);
        let small = !capital(scan.raw, token.start);
        let initial = token.folded.chars().count() == 1
            && !small
            && tokens.get(end + 1).is_some_and(|next| next.is('.') && next.glued);
        let ambiguous = !small
            && shared().names_that_are_words.contains(&token.folded)
            && (end > first
                || &*token.folded == "will"
                    && tokens.get(end + 1).is_none_or(|next| next.kind == Kind::Mark || capital(scan.raw, next.start)));
        let stop = !initial && !ambiguous && language.names.stops.contains(&*token.folded);
        if stop && (!particle || small && tokens.get(end + 1).is_none_or(|next| next.kind != Kind::Word)) {
            return (end, false);
        }
        if cased
            && small
            && !particle
            && !is_suffix(&token.folded)
            && end > first
            && !tokens[end - 1].folded.ends_with('\'')
            && !token.glued
        {
            return (end, false);
        }
        words += 1;
        end += 1;
    }
    (end, true)
}

/// True where the run of tokens without a space that begins here holds an at sign.
fn is_mail(scan: &Scan<'_>, index: usize) -> bool {
    scan.tokens[index..]
        .iter()
        .enumerate()
        .take(12)
        .take_while(|(step, token)| *step == 0 || token.glued)
        .any(|(_, token)| token.is('@'))
}

/// A legal form, or what joins the partners of a firm: "Kron & Söhne".
fn company_at(scan: &Scan<'_>, index: usize) -> bool {
    form_at(scan, index) || scan.tokens.get(index).is_some_and(|token| token.is('&'))
}
