//! Contrast and languages against outside values.
#![allow(clippy::unwrap_used, reason = "tests")]

use lumbo_placement::colour::{Colour, DAY, NIGHT, Palette, TEXT};
use lumbo_placement::language::{filters, lookup, priorities};
use proptest::prelude::*;

/// WCAG 2.2's formula, as npm wcag-contrast 3.0.0 and axe-core 4.14.1 compute it.
#[test]
fn contrast_is_what_reference_libraries_compute() {
    for (fore, ground, ratio) in [
        ("#777777", "#ffffff", 4.478_089),
        ("#767676", "#ffffff", 4.542_225),
        ("#000000", "#ffffff", 21.0),
        ("#ff0000", "#ffffff", 3.998_477),
        ("#0000ff", "#ffffff", 8.592_471),
        ("#008000", "#ffffff", 5.137_403),
        ("#595959", "#ffffff", 7.004_729),
        ("#949494", "#ffffff", 3.033_470),
        ("#ffffff", "#1a73e8", 4.505_031),
        ("#333333", "#eeeeee", 10.889_780),
    ] {
        let found = Colour::parse(fore).unwrap().contrast(Colour::parse(ground).unwrap());
        assert!((found - ratio).abs() < 1e-6, "{fore} on {ground}: {found}");
    }
}

#[test]
fn a_colour_is_read_as_people_type_it() {
    assert_eq!(Colour::parse(" 1F5E8C ").unwrap().to_string(), "#1f5e8c");
    assert_eq!(Colour::parse("#15c").unwrap().to_string(), "#1155cc");
    for text in ["", "#", "#12345", "blue", "#ggg", "#1234567", "#é1234", "url(x)"] {
        assert_eq!(Colour::parse(text), None, "{text}");
    }
}

#[test]
fn a_colour_that_can_be_read_stays_and_another_keeps_its_hue() {
    let blue = Palette::of(Colour::parse("#1f5e8c").unwrap());
    assert_eq!((blue.button.to_string(), blue.on_button.to_string()), ("#1f5e8c".into(), "#ffffff".into()));
    assert_eq!(blue.day.to_string(), "#1f5e8c");
    assert!((blue.ratio - 6.9).abs() < 0.05, "{}", blue.ratio);
    let yellow = Palette::of(Colour::parse("#ffd500").unwrap());
    assert_eq!(yellow.button.to_string(), "#ffd500");
    assert!(yellow.day.red > yellow.day.green && yellow.day.blue == 0, "darker, and yellow still: {}", yellow.day);
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(10_000))]
    /// WCAG 2.2, success criterion 1.4.3, for every use of an author's colour.
    #[test]
    fn every_colour_keeps_its_contrast(red: u8, green: u8, blue: u8) {
        let palette = Palette::of(Colour { red, green, blue });
        prop_assert!(palette.button.contrast(palette.on_button) >= TEXT);
        prop_assert!(palette.day.contrast(DAY) >= TEXT);
        prop_assert!(palette.night.contrast(NIGHT) >= TEXT);
        prop_assert!(palette.day.contrast(palette.on_day) >= TEXT);
        prop_assert!(palette.night.contrast(palette.on_night) >= TEXT);
    }
}

/// RFC 4647, sections 3.3.1 and 3.4: the RFC's own examples (the tags as the RFC prints them, typed in from memory).
#[test]
fn languages_as_rfc_4647_has_them() {
    for (range, tag, fits) in [
        ("de-de", "de-DE-1996", true),
        ("de-de", "de-Deva", false),
        ("de-de", "de-Latn-DE", false),
        ("*", "fr", true),
        ("de", "den", false),
    ] {
        assert_eq!(filters(range, tag), fits, "{range} on {tag}");
    }
    let wanted = |list: &str| priorities(list);
    assert_eq!(lookup(&wanted("zh-Hant-CN-x-private1-private2"), &["zh-Hant-CN", "zh"]), Some("zh-Hant-CN"));
    assert_eq!(lookup(&wanted("zh-Hant-CN-x-private1-private2"), &["zh-Hant", "zh"]), Some("zh-Hant"));
    assert_eq!(lookup(&wanted("zh-Hant-CN-x-private1-private2"), &["zh"]), Some("zh"));
    // After private2 is cut, private1 would go next and takes its single letter along.
    assert_eq!(lookup(&wanted("zh-Hant-CN-x-private1-private2"), &["zh-Hant-CN-x"]), None);
    assert_eq!(lookup(&wanted("fr-FR, zh-Hant"), &["zh", "en"]), Some("zh"));
    assert_eq!(lookup(&wanted("ja"), &["en", "fr"]), None);
    assert_eq!(lookup(&wanted("*, de"), &["en", "de"]), Some("de"));
}

/// RFC 9110, section 12.5.4, with its example.
#[test]
fn priorities_by_weight() {
    assert_eq!(priorities("da, en-gb;q=0.8, en;q=0.7"), ["da", "en-gb", "en"]);
    assert_eq!(priorities("en;q=0.5, de"), ["de", "en"]);
    assert_eq!(priorities("en;q=0, de_AT"), ["de-AT"]);
    assert!(priorities(" , ;q=x,en;q=abc").is_empty());
}
