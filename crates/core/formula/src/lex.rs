//! Words of a formula.

use rust_decimal::Decimal;

use super::FormulaError;

/// A word, with the characters before it.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Token {
    pub at: usize,
    pub word: Word,
}

#[derive(Debug, Clone, PartialEq)]
pub(super) enum Word {
    Number(Decimal),
    Text(String),
    Name(String),
    Mark(&'static str),
}

const MARKS: [&str; 17] = ["<>", "<=", ">=", "<", ">", "=", "+", "-", "*", "/", "^", "&", "(", ")", ",", ";", "%"];

pub(super) fn tokens(text: &str) -> Result<Vec<Token>, FormulaError> {
    let chars: Vec<char> = text.chars().collect();
    let mut out = Vec::new();
    let mut at = 0;
    while at < chars.len() {
        let c = chars[at];
        let start = at;
        if c.is_whitespace() {
            at += 1;
            continue;
        }
        let word = if c.is_ascii_digit() || c == '.' && chars.get(at + 1).is_some_and(char::is_ascii_digit) {
            while at < chars.len() && (chars[at].is_ascii_digit() || chars[at] == '.') {
                at += 1;
            }
            let number: String = chars[start..at].iter().collect();
            let read = if number.starts_with('.') { format!("0{number}") } else { number.clone() };
            let value = read.parse().map_err(|_| FormulaError {
                at: start,
                says: format!("“{number}” is not a number; write decimals with a point"),
            })?;
            Word::Number(value)
        } else if c.is_ascii_alphabetic() || c == '_' {
            while at < chars.len() && (chars[at].is_ascii_alphanumeric() || matches!(chars[at], '_' | '.')) {
                at += 1;
            }
            Word::Name(chars[start..at].iter().collect())
        } else if c == '"' {
            let mut text = String::new();
            at += 1;
            loop {
                match chars.get(at) {
                    Some('"') if chars.get(at + 1) == Some(&'"') => {
                        text.push('"');
                        at += 2;
                    }
                    Some('"') => {
                        at += 1;
                        break;
                    }
                    Some(other) => {
                        text.push(*other);
                        at += 1;
                    }
                    None => {
                        return Err(FormulaError { at: start, says: "this text has no closing quotation mark".into() });
                    }
                }
            }
            Word::Text(text)
        } else {
            // Typed minus and multiplication signs are taken for what they mean.
            let plain = match c {
                '−' => '-',
                '×' => '*',
                '÷' => '/',
                other => other,
            };
            let two: String = [plain].into_iter().chain(chars.get(at + 1).copied()).collect();
            let mark = MARKS
                .iter()
                .find(|mark| mark.len() == 2 && **mark == two)
                .or_else(|| MARKS.iter().find(|mark| mark.len() == 1 && mark.starts_with(plain)));
            let Some(mark) = mark else {
                return Err(FormulaError {
                    at,
                    says: format!("“{c}” means nothing in a formula; texts stand between straight quotation marks"),
                });
            };
            at += mark.len();
            Word::Mark(mark)
        };
        out.push(Token { at: start, word });
    }
    Ok(out)
}
