//! Companies and contacts from a file: what a row says, read cell by cell. What a row cannot be is said in a sentence;
//! what it would change is decided against what is on file, by the store.

use std::collections::BTreeMap;

use lumbo_dialogue::file::{Field, FieldType};
use lumbo_reading::domains::DomainLists;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use crate::{AlsoGiven, Standing, by_hand, fold, said::firm_domain, tag};

/// What a file holds.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum FileHolds {
    /// A company a row.
    Companies,
    /// A contact a row.
    Contacts,
}

impl FileHolds {
    /// Its name in the database.
    #[must_use]
    pub fn as_str(self) -> &'static str {
        match self {
            Self::Companies => "companies",
            Self::Contacts => "contacts",
        }
    }

    /// What a file of a name holds.
    #[must_use]
    pub fn parse(name: &str) -> Option<Self> {
        [Self::Companies, Self::Contacts].into_iter().find(|holds| holds.as_str() == name)
    }

    /// What a column seems to hold, by its name as files of many programs have it (common practice, without a source).
    ///
    /// ```
    /// use lumbo_records::FileHolds;
    /// assert_eq!(FileHolds::Companies.guess("Account Owner"), Some("owner"));
    /// assert_eq!(FileHolds::Contacts.guess("E-Mail Address"), Some("email"));
    /// assert_eq!(FileHolds::Contacts.guess("Shoe size"), None);
    /// ```
    #[must_use]
    pub fn guess(self, column: &str) -> Option<&'static str> {
        let words: &[(&str, &[&str])] = match self {
            Self::Companies => &[
                ("domain", &["domain", "website", "web", "url", "homepage", "webaddress", "domainorwebsite"]),
                ("name", &["name", "company", "companyname", "firm", "account", "accountname", "organisation"]),
                ("standing", &["standing", "whatitistous", "relation", "relationship", "type", "accounttype"]),
                ("owner", &["owner", "accountowner", "accountmanager", "wholooksafterit", "rep"]),
            ],
            Self::Contacts => &[
                ("email", &["email", "mail", "emailaddress", "address"]),
                ("name", &["name", "fullname", "contact", "contactname", "person"]),
                ("phone", &["phone", "telephone", "tel", "mobile", "phonenumber"]),
                ("company", &["company", "companyname", "firm", "account", "organisation"]),
                ("tags", &["tags", "tag", "labels"]),
            ],
        };
        let column: String = fold(column).chars().filter(|letter| letter.is_alphanumeric()).collect();
        words.iter().find(|(_, known)| known.contains(&column.as_str())).map(|(key, _)| *key)
    }

    /// What its columns can be, as fields: the one that a record is known by first.
    #[must_use]
    pub fn columns(self) -> Vec<Field> {
        let columns: &[(&str, &str, FieldType)] = match self {
            Self::Companies => &[
                ("domain", "Domain or website", FieldType::Website),
                ("name", "Name", FieldType::Company),
                ("standing", "What it is to us", FieldType::Text),
                ("owner", "Who looks after it", FieldType::Text),
            ],
            Self::Contacts => &[
                ("email", "E-mail", FieldType::Email),
                ("name", "Name", FieldType::PersonName),
                ("phone", "Phone", FieldType::Phone),
                ("company", "Company", FieldType::Company),
                ("tags", "Tags", FieldType::Text),
            ],
        };
        let field = |(key, label, kind): &(&str, &str, FieldType)| {
            Field::plain((*key).to_owned(), (*key).to_owned(), (*label).to_owned(), *kind)
        };
        columns.iter().map(field).collect()
    }
}

/// Somebody who can look after a company.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Keeper {
    /// Their id.
    pub id: Uuid,
    /// Their name.
    pub name: String,
    /// The address they sign in with.
    pub email: String,
}

/// A company as a row says it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct FirmOfRow {
    /// Its registrable domain.
    pub domain: String,
    /// Its name.
    pub name: Option<String>,
    /// What it is to us; absent where the row does not say.
    pub standing: Option<Standing>,
    /// Who looks after it; absent where the row does not say.
    pub owner: Option<Uuid>,
}

/// A contact as a row says it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct PersonOfRow {
    /// Their address.
    pub email: String,
    /// Their name.
    pub name: Option<String>,
    /// Their phone number, E.164.
    pub phone: Option<String>,
    /// The company's name.
    pub company: Option<String>,
    /// The company's registrable domain, by their address.
    pub domain: Option<String>,
    /// Words that are put on them.
    pub tags: Vec<String>,
}

fn cell<'a>(cells: &'a BTreeMap<String, String>, key: &str) -> Option<&'a str> {
    cells.get(key).map(|text| text.trim()).filter(|text| !text.is_empty())
}

fn part(cells: &BTreeMap<String, String>, key: &str, what: AlsoGiven) -> Result<Option<String>, String> {
    let Some(text) = cell(cells, key) else { return Ok(None) };
    by_hand(what, text, None).map(Some).map_err(|needs| format!("“{}”: {needs}", short(text)))
}

fn short(text: &str) -> String {
    text.chars().take(60).collect()
}

/// A company of a row.
///
/// # Errors
/// A sentence that says what is needed.
///
/// ```
/// use lumbo_records::{Standing, firm_of_row};
/// use lumbo_reading::domains::DomainLists;
/// let row = [("domain", "https://www.harrow.example/about"), ("standing", "Customer")];
/// let row = row.map(|(key, cell)| (key.to_owned(), cell.to_owned())).into();
/// let firm = firm_of_row(&row, &[], DomainLists::none()).unwrap();
/// assert_eq!((firm.domain.as_str(), firm.standing), ("harrow.example", Some(Standing::Customer)));
/// assert!(firm_of_row(&Default::default(), &[], DomainLists::none()).is_err());
/// ```
pub fn firm_of_row(
    cells: &BTreeMap<String, String>,
    keepers: &[Keeper],
    lists: &DomainLists,
) -> Result<FirmOfRow, String> {
    let written =
        cell(cells, "domain").ok_or("A company is known by its domain: write one, such as harrowpeel.example.")?;
    let domain = if written.contains('@') {
        firm_domain(Some(written), None, lists).filter(|domain| domain.contains('.'))
    } else {
        let address = if written.contains("://") { written.to_owned() } else { format!("https://{written}") };
        firm_domain(None, Some(&address), lists)
    };
    let domain = domain.ok_or_else(|| {
        format!("“{}” is no domain of a firm’s own: write one, such as harrowpeel.example.", short(written))
    })?;
    let name = part(cells, "name", AlsoGiven::Company)?;
    let standing = cell(cells, "standing").map(standing_of).transpose()?;
    let owner = cell(cells, "owner").map(|text| keeper_of(text, keepers)).transpose()?;
    Ok(FirmOfRow { domain, name, standing, owner })
}

fn standing_of(text: &str) -> Result<Standing, String> {
    let words: String = fold(text).chars().map(|letter| if letter.is_alphanumeric() { letter } else { '_' }).collect();
    Standing::parse(&words).ok_or_else(|| {
        format!(
            "“{}” is nothing a firm can be to us: write customer, partner, competitor, do not contact or none.",
            short(text)
        )
    })
}

fn keeper_of(text: &str, keepers: &[Keeper]) -> Result<Uuid, String> {
    let wanted = fold(text);
    let mut found = keepers.iter().filter(|keeper| fold(&keeper.name) == wanted || fold(&keeper.email) == wanted);
    match (found.next(), found.next()) {
        (Some(one), None) => Ok(one.id),
        (Some(_), Some(_)) => Err(format!("Two people here are called “{}”: write an address instead.", short(text))),
        (None, _) => Err(format!("Nobody here who works leads is called “{}”.", short(text))),
    }
}

/// A contact of a row.
///
/// # Errors
/// A sentence that says what is needed.
pub fn person_of_row(cells: &BTreeMap<String, String>, lists: &DomainLists) -> Result<PersonOfRow, String> {
    let email = part(cells, "email", AlsoGiven::Email)?;
    let email =
        email.ok_or("A contact is known by their e-mail address: write one, such as pia@harrowpeel.example.")?;
    let name = part(cells, "name", AlsoGiven::Name)?;
    let phone = part(cells, "phone", AlsoGiven::Phone)?;
    let company = part(cells, "company", AlsoGiven::Company)?;
    let domain = firm_domain(Some(&email), None, lists);
    let words = cell(cells, "tags").unwrap_or_default().split([',', ';']);
    let tags = words
        .filter(|word| !word.trim().is_empty())
        .map(|word| tag(word).ok_or_else(|| format!("“{}” is no tag: it has 1 to 30 characters.", short(word.trim()))))
        .collect::<Result<_, _>>()?;
    Ok(PersonOfRow { email, name, phone, company, domain, tags })
}

#[cfg(test)]
mod tests {
    use super::*;

    fn row(cells: &[(&str, &str)]) -> BTreeMap<String, String> {
        cells.iter().map(|(key, cell)| ((*key).to_owned(), (*cell).to_owned())).collect()
    }

    fn keepers() -> Vec<Keeper> {
        let keeper = |id: u128, name: &str, email: &str| Keeper {
            id: Uuid::from_u128(id),
            name: name.to_owned(),
            email: email.to_owned(),
        };
        vec![
            keeper(1, "Maren Holt", "maren@winterlode.example"),
            keeper(2, "Tobias Rell", "tobias@winterlode.example"),
            keeper(3, "Tobias Rell", "t.rell@winterlode.example"),
        ]
    }

    #[test]
    fn a_firm_is_read_however_its_domain_and_its_standing_are_written() {
        let lists = DomainLists::none();
        for (written, domain) in [
            ("harrow.example", Some("harrow.example")),
            ("WWW.Harrow.example", Some("harrow.example")),
            ("http://shop.harrow.example/about?x=1", Some("harrow.example")),
            ("info@mail.harrow.example", Some("harrow.example")),
            ("gmail.com", None),
            ("info@gmail.com", None),
            ("harrow", None),
            ("info@harrow", None),
            ("not a domain", None),
            ("", None),
        ] {
            let read = firm_of_row(&row(&[("domain", written)]), &[], lists);
            assert_eq!(read.as_ref().ok().map(|firm| firm.domain.as_str()), domain, "{written}: {read:?}");
        }
        let standing = |written: &str| {
            firm_of_row(&row(&[("domain", "a.example"), ("standing", written)]), &[], lists).map(|firm| firm.standing)
        };
        assert_eq!(standing("Do not contact"), Ok(Some(Standing::DoNotContact)));
        assert_eq!(standing("do-not-contact"), Ok(Some(Standing::DoNotContact)));
        assert_eq!(standing("NONE"), Ok(Some(Standing::None)));
        assert_eq!(standing(" "), Ok(None), "an empty cell says nothing");
        assert!(standing("friend").unwrap_err().contains("write customer, partner"));
    }

    #[test]
    fn who_looks_after_a_firm_is_found_by_name_or_address_and_never_guessed() {
        let lists = DomainLists::none();
        let owner = |written: &str| {
            firm_of_row(&row(&[("domain", "a.example"), ("owner", written)]), &keepers(), lists).map(|firm| firm.owner)
        };
        assert_eq!(owner("maren holt"), Ok(Some(Uuid::from_u128(1))));
        assert_eq!(owner("T.Rell@winterlode.example"), Ok(Some(Uuid::from_u128(3))));
        assert!(owner("Tobias Rell").unwrap_err().contains("Two people"));
        assert!(owner("Maren").unwrap_err().contains("Nobody here"));
    }

    #[test]
    fn a_contact_is_known_by_an_address_and_its_firm_by_the_addresses_domain() {
        let lists = DomainLists::none();
        let read = |cells: &[(&str, &str)]| person_of_row(&row(cells), lists);
        let pia = read(&[
            ("email", "Pia@Harrow.example"),
            ("phone", "+44 20 7946 0014"),
            ("company", " Harrow  Peel "),
            ("tags", "Fair 2026; #berries,"),
        ])
        .unwrap();
        assert_eq!((pia.email.as_str(), pia.domain.as_deref()), ("Pia@harrow.example", Some("harrow.example")));
        assert_eq!((pia.phone.as_deref(), pia.company.as_deref()), (Some("+442079460014"), Some("Harrow Peel")));
        assert_eq!(pia.tags, ["Fair 2026", "berries"]);
        assert_eq!(read(&[("email", "pia@gmail.com")]).unwrap().domain, None);
        for wrong in [
            vec![("name", "Pia")],
            vec![("email", "pia at harrow")],
            vec![("email", "pia@harrow.example"), ("phone", "7946 0014")],
            vec![("email", "pia@harrow.example"), ("tags", "x".repeat(31).leak() as &str)],
        ] {
            assert!(read(&wrong).is_err(), "{wrong:?}");
        }
    }

    #[test]
    fn what_columns_can_be_begins_with_what_a_record_is_known_by() {
        assert_eq!(FileHolds::Companies.columns()[0].key, "domain");
        assert_eq!(FileHolds::Contacts.columns()[0].key, "email");
        for holds in [FileHolds::Companies, FileHolds::Contacts] {
            assert_eq!(FileHolds::parse(holds.as_str()), Some(holds));
        }
    }
}
