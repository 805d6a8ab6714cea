//! Replies that speak of a company and do not name it, or name more than one.

use super::capital;
use super::made::is_form;
use lumbo_language::{Kind, Language, Scan, Token, fold, shared};

pub(super) fn with_form_anywhere(scan: &Scan<'_>) -> bool {
    scan.tokens.iter().skip(1).any(|token| token.kind == Kind::Word && token.folded.len() > 2 && is_form(&token.folded))
}

/// True where a reply begins with words that lead to many things and goes on small: "we're closed".
pub(super) fn leads_elsewhere(scan: &Scan<'_>, language: &Language) -> bool {
    let english = Language::get("en");
    let Some((_, next)) = language.company.cues.at(scan, 0).or_else(|| english.company.cues.at(scan, 0)) else {
        return false;
    };
    let Some(token) = scan.tokens.get(next) else { return false };
    let lead = fold(scan.raw.get(..token.start).unwrap_or_default());
    shared().weak_leads.contains(&lead) && !capital(scan.raw, token.start) && !with_form_anywhere(scan)
}

/// "A small bakery" names no company.
pub(super) fn indefinite(scan: &Scan<'_>, language: &Language) -> bool {
    let small = |index: usize| {
        scan.tokens
            .get(index)
            .is_some_and(|next| next.kind == Kind::Word && (language.nouns_are_large || !capital(scan.raw, next.start)))
    };
    let article = |index: usize| {
        scan.word(index).is_some_and(|word| shared().indefinite.contains(word))
            && !(index == 0 && scan.tokens.len() > 4)
    };
    let written_small = |index: usize| index > 0 || !capital(scan.raw, scan.tokens[0].start) || small(1);
    // "Frostline, a food wholesaler" was named before.
    let named = |index: usize| index > 0 && capital(scan.raw, scan.tokens[0].start) && scan.tokens[index - 1].is(',');
    (0..scan.tokens.len().min(4))
        .any(|index| article(index) && written_small(index) && small(index + 1) && !named(index))
}

/// "Luc Moreau de Glaces Moreau": a name of two words, and of another behind it, may be a person of a company.
pub(super) fn person_of(scan: &Scan<'_>) -> bool {
    let large =
        |at: usize| scan.tokens.get(at).is_some_and(|token| token.kind == Kind::Word && capital(scan.raw, token.start));
    let given = scan.word(0).is_some_and(|word| shared().given_names.contains(word));
    given
        && large(0)
        && large(1)
        && matches!(scan.word(2), Some("de" | "von" | "van" | "z"))
        && !large(2)
        && large(3)
        && large(4)
}

/// "Blue Heron or Saltwick Fish": one of two.
pub(super) fn either(scan: &Scan<'_>, language: &Language) -> bool {
    let or = language.phrase("or");
    let slash = (1..scan.tokens.len().min(20)).any(|index| scan.tokens[index].is('/') && !scan.tokens[index].glued);
    slash
        || (1..scan.tokens.len().min(20)).any(|index| {
            let large = |at: usize| {
                scan.tokens.get(at).is_some_and(|token| token.kind == Kind::Word && capital(scan.raw, token.start))
            };
            scan.word(index) == Some(or)
                && !capital(scan.raw, scan.tokens[index].start)
                && large(index - 1)
                && large(index + 1)
        })
}

/// "Tom Ashdown, Heron Foods": either could be the company.
pub(super) fn two_names(scan: &Scan<'_>, language: &Language) -> bool {
    // "Priya, Coldway", "Sam, Frost & Sons", "Sam Okoro - Frost & Sons", "Sam Okoro of Frost & Sons"
    let parts = |index: usize| {
        let token = &scan.tokens[index];
        token.is(',') || (token.is_dash() || token.is('|') || token.is('@')) && !token.glued || &*token.folded == "of"
    };
    let given =
        scan.word(0).is_some_and(|word| shared().given_names.contains(word)) && capital(scan.raw, scan.tokens[0].start);
    let parted = (1..=2).find(|index| *index < scan.tokens.len() && parts(*index));
    let large_behind =
        parted.and_then(|index| scan.tokens.get(index + 1)).is_some_and(|token| capital(scan.raw, token.start));
    if given && large_behind && !with_form_anywhere(scan) {
        return true;
    }
    let Some(comma) = scan.tokens.iter().position(|token| token.is(',')) else { return false };
    let large = |tokens: &[Token<'_>]| {
        tokens.len() >= 2
            && tokens
                .iter()
                .all(|token| token.kind == Kind::Word && capital(scan.raw, token.start) && !is_form(&token.folded))
    };
    comma == 2
        && large(&scan.tokens[..comma])
        && large(&scan.tokens[comma + 1..])
        && language.company.cues.at(scan, 0).is_none()
}
