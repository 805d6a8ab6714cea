//! A company's name out of the tokens that belong to it, and its legal form.

use super::{CHARACTERS, Mention, capital};
use lumbo_language::{Kind, Language, Scan, shared};

/// The name that begins at a token, up to what cannot belong to it.
pub(super) fn make(scan: &Scan<'_>, language: &Language, first: usize) -> Option<Mention> {
    let tokens = &scan.tokens;
    let mut first = first;
    // "the Kettle Lane Bakehouse" keeps its article only where it is written large.
    if scan.word(first).is_some_and(|word| {
        matches!(word, "the" | "a" | "an" | "der" | "die" | "das" | "la" | "le" | "el" | "de" | "het")
    }) && !capital(scan.raw, tokens[first].start)
        && first + 1 < tokens.len()
    {
        first += 1;
    }
    let cased = tokens.get(first).is_some_and(|token| capital(scan.raw, token.start));
    if !cased && scan.word(first).is_some_and(|word| shared().begin_no_company.contains(word)) {
        return None;
    }
    let mut end = first;
    // The token behind a full stop that is a part of the name: "B.V.", "Ltd."
    let mut keep_dot = None;
    while let Some(token) = tokens.get(end) {
        if end > first && scan.breaks_before(end) {
            break;
        }
        let goes_on = match token.kind {
            Kind::Mark => {
                if token.is('.') && dot_is_kept(scan, first, end) {
                    keep_dot = Some(end + 1);
                }
                mark_goes_on(scan, first, end)
            }
            Kind::Word => end == first || word_goes_on(scan, language, end, cased),
            Kind::Digits => end == first || token.folded.len() <= 4,
        };
        if !goes_on {
            break;
        }
        end += 1;
    }
    let mut stop = end;
    while stop > first && tokens[stop - 1].kind == Kind::Mark && keep_dot != Some(stop) {
        stop -= 1;
    }
    if let Some(dot) = keep_dot.filter(|dot| *dot == end + 1 && stop == end) {
        stop = dot.min(tokens.len());
    }
    while stop > first
        && language.company.stops.contains(&*tokens[stop - 1].folded)
        && !capital(scan.raw, tokens[stop - 1].start)
    {
        stop -= 1;
    }
    let (start, last) = (tokens.get(first)?.start, tokens.get(stop.checked_sub(1).filter(|last| *last >= first)?)?.end);
    let text = scan.raw.get(start..last)?;
    let named = text.chars().any(char::is_alphanumeric) && text.chars().count() <= CHARACTERS;
    let listed = |word: &str| language.company.stops.contains(word) || language.names.stops.contains(word);
    // "Ltd" alone names nothing.
    if stop == first + 1 && is_form(&tokens[first].folded) && tokens[first].folded.len() > 2 {
        return None;
    }
    let stop_word =
        stop == first + 1 && listed(&tokens[first].folded) && (!capital(scan.raw, tokens[first].start) || first == 0);
    (named && !stop_word).then(|| Mention { name: tidy(text), start, end: last })
}

fn is_large(scan: &Scan<'_>, index: usize) -> bool {
    scan.tokens.get(index).is_some_and(|token| capital(scan.raw, token.start))
}

/// True where the full stop at a token belongs to what is before it and may end the name.
fn dot_is_kept(scan: &Scan<'_>, first: usize, dot: usize) -> bool {
    let tokens = &scan.tokens;
    if ends_form(scan, first, dot) {
        return true;
    }
    let Some(before) = dot.checked_sub(1).filter(|before| *before >= first) else { return false };
    let form = is_form(&tokens[before].folded);
    let sentence =
        is_large(scan, dot + 1) && !tokens.get(dot + 1).is_some_and(|next| next.glued) && tokens.len() > dot + 2;
    let dotted = form && !sentence && matches!(&*tokens[before].folded, "ltd" | "inc" | "co" | "corp" | "plc");
    let letter = tokens[before].folded.chars().count() == 1;
    dotted || letter && (dot < first + 2 || tokens[dot - 2].is('.') || form)
}

/// True where a name goes on over the mark at a token: "Holt, Rell & Nand LLP", "A.B. Foods", "Heron (UK) Ltd".
fn mark_goes_on(scan: &Scan<'_>, first: usize, end: usize) -> bool {
    let tokens = &scan.tokens;
    let form_at = |index: usize| tokens.get(index).is_some_and(|form| is_form(&form.folded));
    let form_next = form_at(end + 1) && is_large(scan, end + 1);
    let glued_next = tokens.get(end + 1).is_some_and(|next| next.glued);
    match &*tokens[end].folded {
        "&" | "+" | "'" | "’" => true,
        "." if end == first => glued_next && tokens[end + 1].kind != Kind::Mark,
        "." => {
            let before = &*tokens[end - 1].folded;
            let letter = before.chars().count() == 1 && !ends_form(scan, first, end);
            glued_next && tokens[end + 1].kind != Kind::Mark
                || letter && is_large(scan, end + 1)
                || form_next && is_form(before)
                || matches!(before, "st" | "sp" | "z" | "co" | "gebr" | "bros" | "dr" | "fa")
        }
        "," => {
            form_next
                || is_large(scan, end + 1) && tokens.get(end + 2).is_some_and(|token| token.is('&')) && form_at(end + 4)
        }
        "(" => tokens.get(end + 2).is_some_and(|close| close.is(')')) && form_at(end + 3),
        ")" => end >= 2 && tokens[end - 2].is('('),
        "-" | "–" | "/" => tokens[end].glued && glued_next,
        _ => false,
    }
}

/// True where a name goes on with the word at a token: one written large, a legal form, or a small word before a large
/// one.
fn word_goes_on(scan: &Scan<'_>, language: &Language, end: usize, cased: bool) -> bool {
    let tokens = &scan.tokens;
    let token = &tokens[end];
    let word = &*token.folded;
    let small = !is_large(scan, end) && word.starts_with(char::is_alphabetic);
    if !small {
        return true;
    }
    // "sp. z o.o."
    let polish = matches!(word, "z" | "o") && end >= 2 && (tokens[end - 1].is('.') || tokens[end - 1].folded == "z")
        || word == "sp" && tokens.get(end + 2).is_some_and(|next| next.folded == "z");
    let large_next = is_large(scan, end + 1);
    if language.company.stops.contains(word) || Language::get("en").company.stops.contains(word) {
        let joins = large_next
            && matches!(
                word,
                "and"
                    | "und"
                    | "et"
                    | "y"
                    | "en"
                    | "i"
                    | "of"
                    | "de"
                    | "the"
                    | "des"
                    | "du"
                    | "la"
                    | "le"
                    | "les"
                    | "von"
                    | "van"
            );
        let pronoun_next =
            tokens.get(end + 1).is_some_and(|next| matches!(&*next.folded, "i" | "we" | "wir" | "nous" | "my"));
        return polish || joins && !pronoun_next && cased;
    }
    // "e.K."
    let dotted = word.len() == 1 && (end + 1..end + 3).all(|at| tokens.get(at).is_some_and(|token| token.glued));
    let form = is_form(word) && word.len() >= 3 || dotted;
    // "Blue Heron Ices wanting space": a small word goes on with the name only before a capital.
    !cased || polish || form || token.glued || large_next || word.ends_with('\'')
}

/// True where letters with dots between them end before the dot at a token and are a legal form: "B.V", "sp. z o.o".
fn ends_form(scan: &Scan<'_>, first: usize, dot: usize) -> bool {
    let mut letters = String::new();
    let mut index = dot;
    while index > first
        && scan.tokens[index - 1].folded.chars().count() == 1
        && scan.tokens[index - 1].kind == Kind::Word
    {
        letters.insert_str(0, &scan.tokens[index - 1].folded);
        if index < 2 || !scan.tokens[index - 2].is('.') || !scan.tokens[index - 1].glued {
            break;
        }
        index -= 2;
    }
    letters.len() > 1 && is_form(&letters)
}

/// True where a legal form stands at a token, dotted or not.
pub(crate) fn form_at(scan: &Scan<'_>, index: usize) -> bool {
    let Some(token) = scan.tokens.get(index).filter(|token| token.kind == Kind::Word && capital(scan.raw, token.start))
    else {
        return false;
    };
    let dots = (index + 1..index + 6)
        .step_by(2)
        .take_while(|at| scan.tokens.get(*at).is_some_and(|token| token.is('.') && token.glued))
        .count();
    is_form(&token.folded) && token.folded.len() > 1
        || token.folded.chars().count() == 1 && (1..=dots).any(|more| ends_form(scan, index, index + 2 * more - 1))
}

/// True for a legal form.
pub(crate) fn is_form(word: &str) -> bool {
    shared().legal_forms.contains(word)
}

pub(super) fn tidy(text: &str) -> String {
    text.split_whitespace().collect::<Vec<_>>().join(" ").chars().filter(|c| !c.is_control()).collect()
}
