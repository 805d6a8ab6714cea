//! Web addresses, with or without a scheme; the WHATWG URL rules by the crate `url`.

use url::Url;

use super::{Found, Heard};
use lumbo_value::Value;

/// Top-level names that RFC 2606 sets aside for examples and tests; the public suffix list does not know them.
const RESERVED: [&str; 2] = ["example", "test"];

/// A web address in a reply, by its bytes.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct Mention {
    pub url: String,
    pub start: usize,
    pub end: usize,
    /// Written with a scheme, "www." or a path.
    pub plain: bool,
}

/// Every web address of a reply.
pub(super) fn mentions(raw: &str) -> Vec<Mention> {
    let mut out = Vec::new();
    let mut from = 0;
    for word in raw.split(char::is_whitespace) {
        let begin = from;
        from += word.len();
        from += raw[from..].chars().next().map_or(0, char::len_utf8);
        if word.len() < 4 || word.len() > 2_000 || !word.contains('.') || out.len() >= 8 {
            continue;
        }
        let open = word.len() - word.trim_start_matches(['(', '<', '[', '"', '\'', '“', '‘', ',', ';', ':']).len();
        let bare =
            word[open..].trim_end_matches(['.', ',', ';', ':', '!', '?', ')', '>', ']', '"', '\'', '”', '’', '…']);
        if let Some(url) = keep(bare) {
            let start = begin + open;
            let lower = bare.to_ascii_lowercase();
            let plain = lower.contains("://") || lower.starts_with("www.") || bare.contains('/');
            out.push(Mention { url, start, end: start + bare.len(), plain });
        }
    }
    out
}

/// The address as kept: https, without user, on a host that has a registrable domain.
fn keep(text: &str) -> Option<String> {
    let lower = text.to_ascii_lowercase();
    let scheme = lower.split_once("://").map(|(scheme, _)| scheme.to_owned());
    let address = match scheme.as_deref() {
        Some("http" | "https") => text.to_owned(),
        Some(_) => return None,
        None => format!("https://{text}"),
    };
    let host_text = text.split("://").last()?.split(['/', '?', '#']).next()?;
    if host_text.contains('@') || host_text.starts_with('.') || host_text.contains("..") {
        return None;
    }
    let url = Url::parse(&address).ok()?;
    if !url.username().is_empty() || url.password().is_some() {
        return None;
    }
    let host = url.domain()?.trim_end_matches('.');
    let last = host.rsplit('.').next()?;
    let known = psl::suffix(host.as_bytes()).is_some_and(|suffix| suffix.is_known()) || RESERVED.contains(&last);
    // A host that is a public suffix itself has no registrable domain.
    if !known || psl::domain_str(host).is_none() || last.bytes().all(|byte| byte.is_ascii_digit()) {
        return None;
    }
    let port = url.port().map(|port| format!(":{port}")).unwrap_or_default();
    let bare = url.path() == "/" && url.query().is_none() && url.fragment().is_none();
    let path = if bare { "" } else { url.path() };
    let query = url.query().map(|query| format!("?{query}")).unwrap_or_default();
    let fragment = url.fragment().map(|fragment| format!("#{fragment}")).unwrap_or_default();
    Some(format!("https://{host}{port}{path}{query}{fragment}"))
}

/// The registrable domain of a kept address.
#[must_use]
pub fn registrable(address: &str) -> Option<String> {
    let url = Url::parse(address).ok()?;
    psl::domain_str(url.domain()?).map(str::to_owned)
}

/// Reads one address.
pub(super) fn read(raw: &str) -> Found {
    let found = mentions(raw);
    let Some(first) = found.first() else { return Found::Nothing };
    if found.iter().any(|other| other.url != first.url) {
        return Found::Several(Heard::whole(raw));
    }
    Found::Value(Value::text(first.url.clone()), Heard::at(raw, first.start, first.end))
}

#[cfg(test)]
mod tests {
    use super::*;

    fn check(reply: &str, expected: Option<&str>) {
        let read = match read(reply) {
            Found::Value(Value::Text { text }, _) => Some(text),
            _ => None,
        };
        assert_eq!(read.as_deref(), expected, "{reply}");
    }

    #[test]
    fn an_address_is_kept_with_https() {
        for (reply, expected) in [
            ("harrowpeel.example", "https://harrowpeel.example"),
            ("it's www.HarrowPeel.example.", "https://www.harrowpeel.example"),
            ("http://harrowpeel.example/a b", "https://harrowpeel.example/a"),
            ("https://harrowpeel.co.uk/Frozen?x=1#top", "https://harrowpeel.co.uk/Frozen?x=1#top"),
            ("(harrowpeel.co.uk)", "https://harrowpeel.co.uk"),
            ("bäckerei.de", "https://xn--bckerei-5wa.de"),
            ("our site: harrowpeel.com:8080/shop", "https://harrowpeel.com:8080/shop"),
        ] {
            check(reply, Some(expected));
        }
    }

    #[test]
    fn what_is_no_web_address_is_not_kept() {
        for reply in [
            "pia@harrow.example",
            "ftp://harrow.example",
            "javascript:alert(1)",
            "http://10.0.0.1/",
            "co.uk",
            "https://user:pw@harrow.example",
            "e.g. peas",
            "1.200,50",
            "...",
            "http://",
            "localhost",
        ] {
            check(reply, None);
        }
        check("harrow.example or peel.example", None);
    }

    /// PyPI publicsuffixlist 1.1.2, npm tldts 7.5.5 and psl 1.15.0 agree on these (outside references, topic 2).
    #[test]
    fn the_registrable_domain_is_known() {
        for (address, domain) in [
            ("https://mail.example.co.uk", "example.co.uk"),
            ("https://a.b.github.io/x", "b.github.io"),
            ("https://city.kobe.jp", "city.kobe.jp"),
        ] {
            assert_eq!(registrable(address).as_deref(), Some(domain));
        }
    }
}
