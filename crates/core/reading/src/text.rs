//! Free text: spaces at the ends and in a row left out.

use super::{Found, Heard};
use lumbo_value::Value;

/// Reads text as it stands; of several lines, the line breaks stay.
pub(super) fn read(raw: &str, lines: bool) -> Found {
    let tidy = |line: &str| {
        line.split_whitespace().collect::<Vec<_>>().join(" ").chars().filter(|c| !c.is_control()).collect::<String>()
    };
    let text = if lines { raw.lines().map(tidy).collect::<Vec<_>>().join("\n").trim().to_owned() } else { tidy(raw) };
    if text.is_empty() { Found::Nothing } else { Found::Value(Value::text(text), Heard::whole(raw)) }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn spaces_go_and_lines_stay_in_long_text() {
        let read = |raw, lines| match read(raw, lines) {
            Found::Value(Value::Text { text }, _) => text,
            _ => String::new(),
        };
        assert_eq!(read("  two\n  lines\u{0} ", false), "two lines");
        assert_eq!(read("  two \n\n  lines ", true), "two\n\nlines");
        assert_eq!(read("\u{200b}\u{0}", false), "\u{200b}");
        assert_eq!(read(" \u{0} ", false), "");
    }
}
