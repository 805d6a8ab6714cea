//! A table of patterns and addresses. What `*` and `/**` mean is this product's; how addresses are taken apart is the
//! URL Standard's (WHATWG), and that an encoded slash stays in its segment RFC 3986's (section 2.4).
#![allow(clippy::unwrap_used, reason = "tests")]

use lumbo_placement::{Address, AddressError, fits_host, fits_path, fits_value, site_source};
use proptest::prelude::*;

fn at(url: &str) -> Address {
    Address::parse(url).unwrap()
}

#[test]
fn patterns_on_pages() {
    let table = [
        // pattern, address, fits
        ("/prices/*", "https://w.example/prices/frozen", true),
        ("/prices/*", "https://w.example/prices/frozen/", true),
        ("/prices/*", "https://w.example/prices", false),
        ("/prices/*", "https://w.example/prices/", false),
        ("/prices/*", "https://w.example/prices/frozen/long", false),
        ("/prices/**", "https://w.example/prices", true),
        ("/prices/**", "https://w.example/prices/", true),
        ("/prices/**", "https://w.example/prices/frozen/long", true),
        ("/prices/**", "https://w.example/pricesx", false),
        ("/prices", "https://w.example/prices/", true),
        ("/prices/", "https://w.example/prices", true),
        ("/prices", "https://w.example/prices?x=1#top", true),
        ("/Prices", "https://w.example/prices", false),
        ("/", "https://w.example", true),
        ("/", "https://w.example/a", false),
        ("/**", "https://w.example", true),
        ("/**", "https://w.example/a/b/c", true),
        ("/*", "https://w.example/", false),
        ("/a/**/z", "https://w.example/a/z", true),
        ("/a/**/z", "https://w.example/a/b/c/z", true),
        ("/a/**/z", "https://w.example/a/b/c", false),
        ("/a/*/c", "https://w.example/a/b/c", true),
        ("/a/*/c", "https://w.example/a/c", false),
        ("/price*", "https://w.example/prices", true),
        ("/*-guide", "https://w.example/cold-guide", true),
        ("/*-guide", "https://w.example/a/cold-guide", false),
        ("/a*b*c", "https://w.example/axxbyyc", true),
        ("/a*b*c", "https://w.example/axxbyy", false),
        ("/k%C3%A4se", "https://w.example/käse", true),
        ("/käse", "https://w.example/k%c3%a4se", true),
        ("/a b", "https://w.example/a%20b", true),
        ("/a%20b", "https://w.example/a%20b", true),
        // Decoded once, not twice.
        ("/a b", "https://w.example/a%2520b", false),
        ("/admin", "https://w.example/%2561dmin", false),
        ("/admin", "https://w.example/%61dmin", true),
        // An encoded slash is no slash.
        ("/a/b", "https://w.example/a%2Fb", false),
        ("/*", "https://w.example/a%2Fb", true),
        // Dots are gone before anything is compared.
        ("/prices/haulage", "https://w.example/prices/x/../haulage", true),
        ("/prices/haulage", "https://w.example/prices/%2e/haulage", true),
        ("w.example/prices", "https://w.example/prices", true),
        ("W.Example/prices", "https://w.example/prices", true),
        ("https://w.example/prices", "http://w.example/prices", true),
        ("v.example/prices", "https://w.example/prices", false),
        ("*.w.example/**", "https://shop.w.example/a", true),
        ("*.w.example/**", "https://w.example/a", false),
        ("*.w.example/**", "https://a.b.w.example/a", false),
        ("*.w.example", "https://shop.w.example/a/b", true),
        ("w.example", "https://evilw.example/", false),
        ("w.example", "https://w.example.evil.example/", false),
        ("127.0.0.1:8091/prices", "http://127.0.0.1:8091/prices", true),
        ("127.0.0.1:8091/prices", "http://127.0.0.1:8092/prices", false),
        ("127.0.0.1/prices", "http://127.0.0.1:8092/prices", true),
        ("w.example:80/prices", "http://w.example/prices", true),
        ("w.example:443/prices", "https://w.example/prices", true),
        ("w.example:443/prices", "http://w.example/prices", false),
        ("münchen.example/a", "https://xn--mnchen-3ya.example/a", true),
        ("", "https://w.example/", false),
    ];
    for (pattern, url, fits) in table {
        assert_eq!(fits_path(pattern, &at(url)), fits, "{pattern} on {url}");
    }
}

#[test]
fn values_fit_in_whatever_case() {
    for (pattern, value, fits) in [
        ("autumn-*", "Autumn-26", true),
        ("AUTUMN-26", "autumn-26", true),
        ("autumn", "autumn-26", false),
        ("*", "", true),
        ("a*", "ba", false),
        ("a/*", "a/b/c", true),
    ] {
        assert_eq!(fits_value(pattern, value), fits, "{pattern} on {value}");
    }
}

#[test]
fn addresses_as_people_type_them() {
    assert_eq!(at("winterlode.example/prices").segments, ["prices"]);
    assert_eq!(at("  HTTPS://Winterlode.Example./ ").host, "winterlode.example");
    assert_eq!(at("localhost:8091/a").port, 8091);
    assert_eq!(at("https://w.example:443/").authority(), "w.example");
    assert_eq!(at("https://w.example:8443/").authority(), "w.example:8443");
    assert_eq!(at("https://w.example/?a=1&a=2&b=x%20y").parameter("a"), Some("1"));
    assert_eq!(at("https://w.example/?b=x%20y").parameter("b"), Some("x y"));
    for (text, error) in [
        ("", AddressError::NotOne),
        ("http://", AddressError::NotOne),
        ("two words.example", AddressError::NotOne),
        ("ftp://w.example/", AddressError::NotAPage),
        ("mailto:ana@w.example", AddressError::NotAPage),
        ("javascript:alert(1)", AddressError::NotAPage),
    ] {
        assert_eq!(Address::parse(text).map(|found| found.host), Err(error), "{text}");
    }
    assert_eq!(Address::parse(&"a".repeat(2_001)), Err(AddressError::TooLong));
}

#[test]
fn a_site_becomes_a_source_of_a_policy_and_nothing_else() {
    assert_eq!(site_source("*.w.example").unwrap(), ["https://*.w.example:*"]);
    assert_eq!(site_source("127.0.0.1:8091").unwrap(), ["https://127.0.0.1:8091", "http://127.0.0.1:8091"]);
    assert_eq!(site_source("127.0.0.1").unwrap()[1], "http://127.0.0.1:*");
    assert_eq!(site_source("münchen.example").unwrap(), ["https://xn--mnchen-3ya.example:*"]);
    for site in [
        "",
        "*",
        "*:80",
        "a.*.example",
        "w*.example",
        "w.example; script-src *",
        "w.example 'self'",
        "w.example/a",
        "a..example",
        "w.example:x",
    ] {
        assert_eq!(site_source(site), None, "{site}");
    }
}

proptest! {
    #[test]
    fn nothing_that_is_typed_makes_it_fail(pattern in ".{0,60}", url in ".{0,80}") {
        if let Ok(address) = Address::parse(&url) {
            let _ = (fits_path(&pattern, &address), fits_host(&pattern, &address), site_source(&pattern));
        }
    }

    #[test]
    fn a_page_fits_its_own_path(path in "(/[a-z0-9.~_-]{1,8}){0,5}/?") {
        let address = at(&format!("https://w.example{path}"));
        prop_assert!(fits_path(&address.path(), &address));
        prop_assert!(fits_path("/**", &address));
    }
}

#[test]
fn many_stars_cost_no_more_than_their_product() {
    let address = at(&format!("https://w.example/{}", "a/".repeat(900)));
    let begun = std::time::Instant::now();
    assert!(!fits_path(&format!("{}/z", "/**/a".repeat(30)), &address));
    assert!(!fits_value(&format!("{}b", "*a".repeat(90)), &"a".repeat(1_500)));
    assert!(begun.elapsed().as_secs() < 5, "{:?}", begun.elapsed());
}
