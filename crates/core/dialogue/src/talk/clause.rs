//! A text without what it lacks: the clause around a missing value is left out, from punctuation to punctuation, or the
//! sentence where the clause was all of it, or the line where that leaves nothing.

/// Stands in a text where a value is missing.
pub(crate) const GAP: char = '\u{fffc}';

/// The text without the clauses that lack a value.
///
/// "We expect about \u{fffc}, set-up included. Fine?" leaves "Set-up included. Fine?".
pub(crate) fn without(text: &str) -> String {
    let lines: Vec<String> =
        text.lines().map(line).filter(|kept| !kept.trim().is_empty() || !text.contains(GAP)).collect();
    lines.join("\n")
}

fn line(text: &str) -> String {
    if !text.contains(GAP) {
        return text.to_owned();
    }
    let mut out = String::new();
    for sentence in pieces(text, |c| matches!(c, '.' | '!' | '?' | '…')) {
        if !sentence.contains(GAP) {
            push(&mut out, sentence.trim_start());
            continue;
        }
        let end: String =
            sentence.trim_end().chars().rev().take_while(|c| matches!(c, '.' | '!' | '?' | '…')).collect();
        let clauses: Vec<&str> = pieces(sentence, |c| matches!(c, ',' | ';' | ':' | '–' | '—' | '(' | ')'))
            .into_iter()
            .filter(|clause| !clause.contains(GAP))
            .collect();
        let kept: String = clauses.concat().replace("  ", " ");
        let kept =
            kept.trim().trim_end_matches([',', ';', ':', '–', '—', '(', ' ']).trim_start_matches([')', ',', ' ']);
        let bare = kept.trim_end_matches(['.', '!', '?', '…']);
        if !bare.chars().any(char::is_alphanumeric) {
            continue;
        }
        let large = out.trim().is_empty() || out.trim_end().ends_with(['.', '!', '?', '…']);
        let mut letters = bare.chars();
        let first: String =
            letters.next().map(|c| if large { c.to_uppercase().collect() } else { c.to_string() }).unwrap_or_default();
        push(&mut out, &format!("{first}{}{}", letters.as_str(), end.chars().rev().collect::<String>()));
    }
    out
}

fn push(out: &mut String, words: &str) {
    if !out.is_empty() && !out.ends_with(char::is_whitespace) {
        out.push(' ');
    }
    out.push_str(words);
}

/// A text in pieces that each end behind a mark; a mark between digits, such as a decimal point, ends nothing.
fn pieces(text: &str, ends: impl Fn(char) -> bool) -> Vec<&str> {
    let mut out = Vec::new();
    let mut from = 0;
    let mut letters = text.char_indices().peekable();
    while let Some((at, letter)) = letters.next() {
        let next = letters.peek().map(|(_, next)| *next);
        // What stands in brackets is a piece of its own.
        if letter == '(' && at > from && ends(letter) {
            out.push(&text[from..at]);
            from = at;
            continue;
        }
        let inside = matches!(letter, '.' | ',' | ':') && next.is_some_and(|next| !next.is_whitespace());
        if ends(letter) && letter != '(' && !inside && !next.is_some_and(&ends) {
            out.push(&text[from..at + letter.len_utf8()]);
            from = at + letter.len_utf8();
        }
    }
    if from < text.len() {
        out.push(&text[from..]);
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_clause_is_left_out_or_the_sentence_or_the_line() {
        for (text, left) in [
            ("We expect about _, set-up included.", "Set-up included."),
            ("Thanks, _. We will call you.", "Thanks. We will call you."),
            ("So that is _ guests on _. Right?", "Right?"),
            ("About _ in all", ""),
            ("Good (_ pallets), then let us go on.", "Good then let us go on."),
            ("From 3.50 a day, _ in all, with VAT.", "From 3.50 a day, with VAT."),
            ("First line.\nFor _.\nLast line.", "First line.\nLast line."),
            ("Hello _!", ""),
        ] {
            assert_eq!(without(&text.replace('_', "\u{fffc}")), left, "{text}");
        }
    }

    #[test]
    fn a_text_that_lacks_nothing_stays_as_it_is() {
        assert_eq!(without("As it is,  with\n\nits spaces."), "As it is,  with\n\nits spaces.");
    }
}
