//! A reply cut into tokens once, for every reader that looks at it.

use std::borrow::Cow;

use unicode_normalization::UnicodeNormalization;

/// What a token is made of.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Kind {
    /// Letters, with apostrophes between them.
    Word,
    /// Digits, and nothing else.
    Digits,
    /// One other character.
    Mark,
}

/// A token with its bytes in the reply.
#[derive(Debug, Clone)]
pub struct Token<'a> {
    /// Lower case, NFKC, straight apostrophes.
    pub folded: Cow<'a, str>,
    /// First byte.
    pub start: usize,
    /// Byte after the last.
    pub end: usize,
    /// What it is made of.
    pub kind: Kind,
    /// True where no space stands before it.
    pub glued: bool,
}

impl Token<'_> {
    /// True where it is this mark.
    #[must_use]
    pub fn is(&self, mark: char) -> bool {
        self.kind == Kind::Mark && self.folded.starts_with(mark)
    }

    /// A hyphen, dash or minus sign.
    pub fn is_dash(&self) -> bool {
        self.kind == Kind::Mark && matches!(&*self.folded, "-" | "–" | "—" | "−" | "‐" | "‑")
    }
}

/// A reply and its tokens.
#[derive(Debug, Clone)]
pub struct Scan<'a> {
    /// The reply as it came.
    pub raw: &'a str,
    /// Its tokens, in order.
    pub tokens: Vec<Token<'a>>,
}

impl Scan<'_> {
    /// True where a token is written with a large first letter.
    pub fn is_large(&self, index: usize) -> bool {
        self.begins(index, char::is_uppercase)
    }

    /// True where a token is written with a small first letter.
    pub fn is_small(&self, index: usize) -> bool {
        self.begins(index, char::is_lowercase)
    }

    fn begins(&self, index: usize, kind: impl Fn(char) -> bool) -> bool {
        self.tokens.get(index).and_then(|token| self.raw.get(token.start..)).is_some_and(|rest| rest.starts_with(kind))
    }
}

fn kind(c: char) -> Kind {
    if c.is_ascii_digit() || ('\u{ff10}'..='\u{ff19}').contains(&c) {
        Kind::Digits
    } else if c.is_alphabetic() || matches!(c, '²' | '³') || is_joining(c) {
        Kind::Word
    } else {
        Kind::Mark
    }
}

/// Marks that belong to the letter before them.
fn is_joining(c: char) -> bool {
    matches!(c, '\u{300}'..='\u{36f}' | '\u{64b}'..='\u{652}' | '\u{93a}'..='\u{94f}' | '\u{200c}' | '\u{200d}')
}

fn is_apostrophe(c: char) -> bool {
    matches!(c, '\'' | '’' | '‘' | '´' | '`')
}

/// Lower case in NFKC with straight apostrophes.
fn folded(text: &str) -> Cow<'_, str> {
    if text.is_ascii() {
        if text.bytes().any(|byte| byte.is_ascii_uppercase() || byte == b'`') {
            Cow::Owned(text.to_ascii_lowercase().replace('`', "'"))
        } else {
            Cow::Borrowed(text)
        }
    } else if text.chars().nth(1).is_none() && matches!(text, "½" | "¼" | "¾" | "⅓" | "⅔" | "´" | "…") {
        Cow::Borrowed(if text == "´" { "'" } else { text })
    } else {
        Cow::Owned(text.nfkc().flat_map(char::to_lowercase).map(|c| if is_apostrophe(c) { '\'' } else { c }).collect())
    }
}

/// Longest run of digits and marks without a space between them that may be a number, a date, a code or a phone number.
/// A phone number has fifteen digits at most (ITU-T E.164), so that even one with a mark between any two is shorter.
const LONGEST_RUN: usize = 32;

/// Makes marks of the digits of longer runs: they are nothing that anybody reads, and a reader that looks ahead in a
/// run from each of its tokens would need time with the square of its length.
fn cut_long_runs(tokens: &mut [Token<'_>]) {
    let mut begin = 0;
    for index in 1..=tokens.len() {
        let goes_on = tokens.get(index).is_some_and(|token| token.glued && token.kind != Kind::Word)
            && tokens[index - 1].kind != Kind::Word;
        if goes_on {
            continue;
        }
        if index - begin > LONGEST_RUN {
            tokens[begin..index]
                .iter_mut()
                .filter(|token| token.kind == Kind::Digits)
                .for_each(|token| token.kind = Kind::Mark);
        }
        begin = index;
    }
}

impl<'a> Scan<'a> {
    /// Cuts a reply into tokens; linear in its length.
    pub fn new(raw: &'a str) -> Self {
        let mut tokens: Vec<Token<'a>> = Vec::with_capacity(raw.len() / 5 + 4);
        let mut chars = raw.char_indices().peekable();
        let mut glued = false;
        while let Some((start, c)) = chars.next() {
            if c.is_whitespace() {
                glued = false;
                continue;
            }
            let sort = kind(c);
            let mut end = start + c.len_utf8();
            if sort != Kind::Mark {
                let mut length = 1;
                while let Some(&(at, next)) = chars.peek() {
                    let after = |at: usize| raw.get(at + next.len_utf8()..).and_then(|rest| rest.chars().next());
                    if kind(next) == sort {
                        end = at + next.len_utf8();
                        length += 1;
                        chars.next();
                    } else if sort == Kind::Word && is_apostrophe(next) && after(at).is_some_and(char::is_alphabetic) {
                        end = at + next.len_utf8();
                        chars.next();
                        // "l'entrepôt", "d'avril": the article is a word of its own; "don't", "we'd" are one.
                        let long = raw[end..].chars().take(3).filter(|c| c.is_alphabetic()).count() == 3;
                        if long && (length == 1 || length == 2 && raw[start..].starts_with("qu")) {
                            break;
                        }
                        length += 1;
                    } else {
                        break;
                    }
                }
            }
            tokens.push(Token {
                folded: folded(&raw[start..end]),
                start,
                end,
                kind: sort,
                glued: glued && !tokens.is_empty(),
            });
            glued = true;
        }
        cut_long_runs(&mut tokens);
        Self { raw, tokens }
    }

    /// The word a token holds; nothing for marks, digits and beyond the end.
    pub fn word(&self, index: usize) -> Option<&str> {
        self.tokens.get(index).filter(|token| token.kind == Kind::Word).map(|token| &*token.folded)
    }

    /// True where the text between two tokens holds a line break.
    pub fn breaks_before(&self, index: usize) -> bool {
        let Some(token) = self.tokens.get(index) else { return true };
        let from = index.checked_sub(1).and_then(|before| self.tokens.get(before)).map_or(0, |before| before.end);
        self.raw.get(from..token.start).is_some_and(|between| between.contains('\n'))
    }

    /// The token that begins at or after a byte.
    pub fn at_byte(&self, byte: usize) -> usize {
        self.tokens.partition_point(|token| token.start < byte)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn check(raw: &str, expected: &[&str]) {
        let scan = Scan::new(raw);
        let found: Vec<&str> = scan.tokens.iter().map(|token| &*token.folded).collect();
        assert_eq!(found, expected, "{raw}");
        assert!(
            scan.tokens.iter().all(|token| raw.get(token.start..token.end).is_some_and(|text| !text.is_empty())),
            "{raw}"
        );
    }

    #[test]
    fn words_digits_and_marks_are_tokens() {
        check("About 1.2k, or 40-50!", &["about", "1", ".", "2", "k", ",", "or", "40", "-", "50", "!"]);
        check("Don’t, we'd", &["don't", ",", "we'd"]);
        check("début d’avril", &["début", "d'", "avril"]);
        check("L'entrepôt est à 3 m²", &["l'", "entrepôt", "est", "à", "3", "m2"]);
        check("４０ ½", &["40", "½"]);
        check("", &[]);
    }

    #[test]
    fn digits_of_a_run_that_is_too_long_are_none() {
        let digits = |raw: &str| Scan::new(raw).tokens.iter().filter(|token| token.kind == Kind::Digits).count();
        assert_eq!(digits("+4-4-2-0-7-9-4-6-0-0-1-4-0-0-5"), 15, "the longest phone number");
        assert_eq!(digits(&"1,1.".repeat(400)), 0);
        assert_eq!(digits(&format!("40 {} 50", "1,".repeat(40))), 2, "what stands beside it is read");
        assert_eq!(digits(&"12 ".repeat(40)), 40, "spaces part runs");
    }

    #[test]
    fn a_token_knows_whether_a_space_stands_before_it() {
        let scan = Scan::new("20kg 3 t");
        assert_eq!(scan.tokens.iter().map(|token| token.glued).collect::<Vec<_>>(), [false, true, false, false]);
    }
}
