//! Which two contacts may be one person. It is proposed, never done by itself.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use super::fold;

/// From this likeness on, two names may be one: Jaro and Winkler's measure of the folded names.
const ALIKE: f64 = 0.92;
/// So many digits at the end of two numbers that agree mean the same line.
const DIGITS: usize = 7;

/// What is known of a contact, as far as it tells who they are.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct WhoTheyAre {
    /// Name.
    pub name: Option<String>,
    /// Phone number, E.164.
    pub phone: Option<String>,
    /// The company.
    pub company: Option<Uuid>,
    /// The company's domain.
    pub domain: Option<String>,
}

/// Why two contacts may be one person.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Alike {
    /// They have one phone number.
    Phone,
    /// They have one name at one company.
    NameAndCompany,
    /// Their names are alike, and their companies have one domain.
    NameAndDomain,
    /// Their names are alike, and their numbers end alike.
    NameAndDigits,
}

/// Why two contacts may be one person; nothing where they are not alike.
///
/// ```
/// use lumbo_records::{Alike, WhoTheyAre, alike};
/// let known = |name: &str, phone: &str| WhoTheyAre {
///     name: Some(name.into()), phone: Some(phone.into()), ..WhoTheyAre::default()
/// };
/// let one = known("Maud Ekström", "+442079460588");
/// assert_eq!(alike(&one, &known("M. Ekstrom", "+442079460588")), Some(Alike::Phone));
/// assert_eq!(alike(&one, &known("Maud Ekstroem", "+46709460588")), Some(Alike::NameAndDigits));
/// assert_eq!(alike(&one, &known("Lee Marsh", "+46709460588")), None);
/// ```
#[must_use]
pub fn alike(one: &WhoTheyAre, other: &WhoTheyAre) -> Option<Alike> {
    let same = |one: &Option<String>, other: &Option<String>| one.is_some() && one == other;
    if same(&one.phone, &other.phone) {
        return Some(Alike::Phone);
    }
    let (a, b) = (fold(one.name.as_deref()?), fold(other.name.as_deref()?));
    // One word says little: half of all first names are alike.
    if a.is_empty() || b.is_empty() {
        return None;
    }
    if a == b && one.company.is_some() && one.company == other.company {
        return Some(Alike::NameAndCompany);
    }
    if strsim::jaro_winkler(&a, &b) < ALIKE {
        return None;
    }
    if same(&one.domain, &other.domain) {
        return Some(Alike::NameAndDomain);
    }
    let digits = |phone: &Option<String>| last_digits(phone.as_deref()?);
    let ends = digits(&one.phone).zip(digits(&other.phone));
    ends.is_some_and(|(one, other)| one == other).then_some(Alike::NameAndDigits)
}

/// The last seven digits of a number; nothing where it has fewer.
fn last_digits(phone: &str) -> Option<String> {
    let digits: Vec<char> = phone.chars().filter(char::is_ascii_digit).collect();
    digits.len().checked_sub(DIGITS).map(|from| digits[from..].iter().collect())
}

#[cfg(test)]
mod tests {
    use super::*;

    fn person(name: &str, phone: &str, company: u128, domain: &str) -> WhoTheyAre {
        let some = |text: &str| (!text.is_empty()).then(|| text.to_owned());
        let company = (company > 0).then(|| Uuid::from_u128(company));
        WhoTheyAre { name: some(name), phone: some(phone), company, domain: some(domain) }
    }

    /// Winkler, String Comparator Metrics and Enhanced Decision Rules in the Fellegi-Sunter Model of Record Linkage
    /// (1990), table 2; typed in from memory.
    #[test]
    fn the_measure_gives_the_published_values() {
        for (one, other, value) in
            [("martha", "marhta", 0.961), ("dwayne", "duane", 0.840), ("dixon", "dicksonx", 0.813)]
        {
            assert!((strsim::jaro_winkler(one, other) - value).abs() < 0.001, "{one} {other}");
        }
    }

    #[test]
    fn names_are_compared_without_case_accents_and_spaces() {
        let one = person("Maud  EKSTRÖM", "", 1, "");
        assert_eq!(alike(&one, &person("maud ekstrom", "", 1, "")), Some(Alike::NameAndCompany));
        assert_eq!(alike(&one, &person("maud ekstrom", "", 2, "")), None, "at another company");
        assert_eq!(alike(&one, &person("maud ekstrom", "", 0, "")), None);
    }

    #[test]
    fn names_that_are_alike_need_a_domain_or_digits_beside_them() {
        let one = person("Jonathan Petrie", "+442079460642", 1, "petrie.example");
        let other = |domain: &str, phone: &str| person("Jonathon Petrie", phone, 2, domain);
        assert_eq!(alike(&one, &other("petrie.example", "")), Some(Alike::NameAndDomain));
        assert_eq!(alike(&one, &other("", "07946 0642")), Some(Alike::NameAndDigits));
        assert_eq!(alike(&one, &other("elsewhere.example", "+15550100")), None);
        assert_eq!(alike(&one, &other("", "0642")), None, "too few digits");
        assert_eq!(alike(&person("", "", 0, "petrie.example"), &person("", "", 0, "petrie.example")), None);
    }

    #[test]
    fn likeness_goes_both_ways() {
        let people = [
            person("Maud Ekström", "+442079460588", 1, "ekstromberries.example"),
            person("Maude Ekstrom", "+4679460588", 2, "ekstromberries.example"),
            person("Lee Marsh", "+442079460588", 0, ""),
            person("", "", 0, ""),
        ];
        for one in &people {
            for other in &people {
                assert_eq!(alike(one, other), alike(other, one), "{one:?} {other:?}");
            }
        }
    }
}
