//! Yes or no, in the ways people say it.

use super::choice::Option_;
use super::{Found, Heard};
use lumbo_language::{Kind, Language, Scan, fold, shared};
use lumbo_value::Value;

pub(super) fn options(language: &Language) -> Vec<Option_> {
    ["yes", "no"].into_iter().map(|key| Option_::plain(key, language.phrase(key))).collect()
}

/// Reads the whole reply, else its clauses: a listed way to say it that fills a clause, or a firm word at its beginning
/// ("yes we need about half"). Clauses that disagree say nothing. English words are understood in every language.
pub(super) fn read(scan: &Scan<'_>, folded: &str, language: &Language) -> Found {
    let english = Language::get("en");
    let listed = |said: &str| {
        let said = said.trim();
        if language.yes.contains(said) || english.yes.contains(said) && !language.no.contains(said) {
            Some(true)
        } else if language.no.contains(said) || english.no.contains(said) {
            Some(false)
        } else {
            None
        }
    };
    if let Some(yes) = listed(folded) {
        return Found::Value(Value::YesNo { yes }, Heard::whole(scan.raw));
    }
    if both(scan, language) {
        return Found::Nothing;
    }
    let mut verdicts: Vec<(bool, usize, usize)> = Vec::new();
    for (from, to) in clauses(scan) {
        let text = fold(scan.raw.get(scan.tokens[from].start..scan.tokens[to - 1].end).unwrap_or_default());
        if language.declined.contains(&text) && listed(&text).is_none() {
            return Found::Nothing;
        }
        if let Some(yes) = listed(&text).or_else(|| hedged(scan, from, to, language)) {
            verdicts.push((yes, from, to));
            continue;
        }
        let firm = |index: usize| {
            language.firm.at(scan, index).or_else(|| english.firm.at(scan, index)).filter(|(_, next)| *next <= to)
        };
        if let Some((yes, next)) = firm(from) {
            // "No idea", "not sure" and "no, yes" decline or say nothing; they are told by the lists above.
            let more = (next..to).any(|index| {
                firm(index).is_some_and(|(other, _)| {
                    other != yes
                        && scan
                            .word(index)
                            .is_some_and(|word| word != "not" && word != "nie" && word != "no" || yes == 1)
                })
            });
            if !more || next == to {
                verdicts.push((yes == 1, from, next));
            } else {
                return Found::Nothing;
            }
        } else if let Some(index) = (from..to).find(|index| firm(*index).is_some_and(|(_, next)| next == to))
            && let Some((yes, _)) = firm(index)
            && to - from <= 5
            && !scan.raw.trim_end().ends_with('?')
            && !super::took_back::negated(scan, index, language)
        {
            // "I would say yes"
            verdicts.push((yes == 1, index, to));
        }
    }
    let Some(&(first, from, to)) = verdicts.first() else { return Found::Nothing };
    if verdicts.iter().any(|(other, ..)| *other != first) {
        return Found::Nothing;
    }
    // A firm word deep in a story is not the answer; it opens the reply or closes it.
    let opens =
        from == 0 || verdicts.iter().any(|(_, _, to)| *to >= scan.tokens.len() - trailing_marks(scan)) || from <= 2;
    if !opens {
        return Found::Nothing;
    }
    Found::Value(Value::YesNo { yes: first }, Heard::at(scan.raw, scan.tokens[from].start, scan.tokens[to - 1].end))
}

/// "Probably not", "currently yes", "not at the moment": a plain yes or no and words that say how surely, nothing else.
fn hedged(scan: &Scan<'_>, from: usize, to: usize, language: &Language) -> Option<bool> {
    let mut verdict = None;
    let mut hedges = 0;
    let mut index = from;
    while index < to {
        if let Some((_, next)) = language.hedges.at(scan, index).filter(|(_, next)| *next <= to) {
            hedges += 1;
            index = next;
            continue;
        }
        let word = scan.word(index)?;
        let said = if language.plain_yes.contains(word) {
            true
        } else if language.plain_no.contains(word) {
            false
        } else {
            return None;
        };
        if verdict.replace(said).is_some() {
            return None;
        }
        index += 1;
    }
    verdict.filter(|_| (1..=2).contains(&hedges))
}

/// "Yes and no"
fn both(scan: &Scan<'_>, language: &Language) -> bool {
    let said = |index: usize| {
        let word = scan.word(index)?;
        if language.plain_yes.contains(word) { Some(true) } else { language.plain_no.contains(word).then_some(false) }
    };
    // "Maybe yes, maybe no", "yes?? maybe"
    let perhaps = |index: usize| scan.word(index).is_some_and(|word| shared().perhaps.contains(word));
    let words = (0..scan.tokens.len().min(12)).filter(|index| scan.word(*index).is_some());
    if scan.tokens.len() <= 12
        && words.clone().any(perhaps)
        && words.clone().any(|index| said(index).is_some())
        && words.clone().all(|index| perhaps(index) || said(index).is_some())
    {
        return true;
    }
    (1..scan.tokens.len().min(40)).any(|index| {
        scan.word(index).is_some_and(|word| shared().ands.contains(word))
            && said(index - 1).zip(said(index + 1)).is_some_and(|(one, other)| one != other)
    })
}

fn trailing_marks(scan: &Scan<'_>) -> usize {
    scan.tokens.iter().rev().take_while(|token| token.kind == Kind::Mark).count()
}

/// Tokens between commas, full stops and dashes.
fn clauses(scan: &Scan<'_>) -> Vec<(usize, usize)> {
    let mut out = Vec::new();
    let mut from = 0;
    let ends = |index: usize| {
        let token = &scan.tokens[index];
        token.kind == Kind::Mark
            && matches!(&*token.folded, "," | "." | ";" | "!" | "-" | "–" | "—" | ":" | "?" | "(" | ")" | "…")
    };
    for index in 0..=scan.tokens.len() {
        if index == scan.tokens.len() || ends(index) || index > from && scan.breaks_before(index) {
            if index > from {
                out.push((from, index));
            }
            from = if index < scan.tokens.len() && ends(index) { index + 1 } else { index };
        }
        if out.len() >= 32 {
            break;
        }
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    fn check(language: &str, reply: &str, expected: Option<bool>) {
        let read = match read(&Scan::new(reply), &fold(reply), Language::get(language)) {
            Found::Value(Value::YesNo { yes }, _) => Some(yes),
            _ => None,
        };
        assert_eq!(read, expected, "{language}: {reply}");
    }

    #[test]
    fn yes_and_no_are_understood_in_every_language() {
        for (language, reply, yes) in [
            ("en", "Yes please", true),
            ("en", "yep!", true),
            ("en", "some, yes", true),
            ("en", "Yes, about half of it", true),
            ("en", "yes we need that every week", true),
            ("en", "I would say yes", true),
            ("en", "no, all of it is chilled", false),
            ("en", "No we do it ourselves", false),
            ("en", "not at the moment, thanks", false),
            ("en", "Nope.", false),
            ("en", "no problem", true),
            ("de", "Ja, bitte", true),
            ("de", "nö", false),
            ("de", "nein, das machen wir selbst", false),
            ("fr", "Oui", true),
            ("fr", "bien sûr, toutes les semaines", true),
            ("es", "Sí", true),
            ("es", "no", false),
            ("nl", "nee", false),
            ("pl", "tak", true),
            ("pl", "nie", false),
            ("de", "yes", true),
        ] {
            check(language, reply, Some(yes));
        }
        for reply in [
            "yes no",
            "yes, no",
            "yes and no",
            "perhaps",
            "yesterday",
            "we said to him no then left and the man was cross",
            "?",
            "not sure",
        ] {
            check("en", reply, None);
        }
    }
}
