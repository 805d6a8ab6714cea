//! Contact cards: vCard 4.0 (RFC 6350), one card of one person.

use std::fmt::Write as _;

/// What a card says. What is absent is left out.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Card<'a> {
    /// A name that stays the same for the same contact, such as `urn:uuid:…`.
    pub uid: &'a str,
    /// The person's name.
    pub name: Option<&'a str>,
    /// E-mail address.
    pub email: Option<&'a str>,
    /// Phone number, E.164.
    pub phone: Option<&'a str>,
    /// The company's name.
    pub company: Option<&'a str>,
}

/// Longest line, bytes without its end (RFC 6350, section 3.2).
const LINE: usize = 75;

/// The card's text. A card must have a formatted name (section 6.2.1): the company, the address or the number stands
/// for it where the person's is not known.
///
/// ```
/// use lumbo_deliver::vcard::{Card, vcard};
/// let card = Card { uid: "urn:uuid:1", name: Some("Pia"), company: Some("Harrow, Peel"), ..Card::default() };
/// let lines = ["BEGIN:VCARD", "VERSION:4.0", "UID:urn:uuid:1", "FN:Pia", "ORG:Harrow\\, Peel", "END:VCARD", ""];
/// assert_eq!(vcard(&card), lines.join("\r\n"));
/// assert!(vcard(&Card::default()).contains("FN:Unknown\r\n"));
/// ```
#[must_use]
pub fn vcard(card: &Card<'_>) -> String {
    let shown = card.name.or(card.company).or(card.email).or(card.phone).unwrap_or("Unknown");
    let mut text = String::from("BEGIN:VCARD\r\nVERSION:4.0\r\n");
    let mut line = |name: &str, value: &str| {
        fold(&format!("{name}:{value}"), &mut text);
    };
    if !card.uid.is_empty() {
        line("UID", card.uid);
    }
    line("FN", &escaped(shown));
    if let Some(company) = card.company {
        line("ORG", &escaped(company).replace(';', "\\;"));
    }
    if let Some(email) = card.email {
        line("EMAIL", &escaped(email));
    }
    if let Some(phone) = card.phone {
        line("TEL;VALUE=uri", &format!("tel:{}", phone.replace(' ', "")));
    }
    text.push_str("END:VCARD\r\n");
    text
}

/// A text value (section 3.4): backslash, comma and line break are escaped; other control characters are left out.
fn escaped(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    for c in text.chars() {
        match c {
            '\\' | ',' => {
                let _ = write!(out, "\\{c}");
            }
            '\n' => out.push_str("\\n"),
            c if c.is_control() => {}
            c => out.push(c),
        }
    }
    out
}

/// Writes a line, folded so that none is longer than 75 bytes and no character is cut (section 3.2).
fn fold(line: &str, out: &mut String) {
    let mut room = LINE;
    for c in line.chars() {
        if c.len_utf8() > room {
            out.push_str("\r\n ");
            room = LINE - 1;
        }
        out.push(c);
        room -= c.len_utf8();
    }
    out.push_str("\r\n");
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn long_lines_are_folded_and_unfold_to_what_they_were() {
        let name = "Åsa Östlund-Ünver ".repeat(12);
        let card = vcard(&Card { uid: "urn:uuid:1", name: Some(name.trim()), ..Card::default() });
        assert!(card.split("\r\n").all(|line| line.len() <= LINE), "{card}");
        assert!(card.replace("\r\n ", "").contains(&format!("FN:{}\r\n", name.trim())));
    }

    #[test]
    fn what_a_prospect_typed_makes_no_line_of_its_own() {
        let card = vcard(&Card {
            uid: "urn:uuid:1",
            name: Some("Pia\nTEL:+1\r\nX"),
            company: Some("a;b\\c,d"),
            email: Some("pia@harrowpeel.example"),
            phone: Some("+442079460018"),
        });
        assert!(!card.contains("\r\nTEL:+1") && card.contains("FN:Pia\\nTEL:+1\\nX\r\n"), "{card}");
        assert!(card.contains("ORG:a\\;b\\\\c\\,d\r\n") && card.contains("TEL;VALUE=uri:tel:+442079460018\r\n"));
    }
}
