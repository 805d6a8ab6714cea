//! What cannot go on air as it stands. Each fault names the setting, says what is wrong and what to do.

use crate::address::site_source;
use crate::colour::Colour;
use crate::file::{Form, Moment, Placement, Where};

/// Most patterns, sites, parameters, campaigns, languages or countries of one list.
const MOST: usize = 50;
/// Longest pattern, name or value, characters.
const LONG: usize = 200;
/// Longest text that visitors read, characters.
const TEXT: usize = 500;

/// What is wrong with a setting.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Fault {
    /// The setting, as the file names it.
    pub at: &'static str,
    /// What is wrong and what to do.
    pub says: String,
}

/// A fault of a setting.
fn fault(at: &'static str, says: impl Into<String>) -> Fault {
    Fault { at, says: says.into() }
}

/// Everything that keeps a placement from going on air.
#[must_use]
pub fn check(placement: &Placement) -> Vec<Fault> {
    let mut out = Vec::new();
    sizes(placement, &mut out);
    places(placement, &mut out);
    let look = &placement.look;
    if Colour::parse(&look.colour).is_none() {
        let says = format!("“{}” is not a colour. Type six digits behind a #, such as #1f5e8c.", look.colour);
        out.push(fault("look.colour", says));
    }
    for (at, found, least, most) in [
        ("look.size", look.size, 44, 96),
        ("look.rounding", look.rounding, 0, 48),
        ("look.from_side", look.from_side, 0, 200),
        ("look.from_bottom", look.from_bottom, 0, 400),
    ] {
        if !(least..=most).contains(&found) {
            out.push(fault(at, format!("Choose between {least} and {most} pixels.")));
        }
    }
    if let (Some(from), Some(until)) = (placement.when.from, placement.when.until)
        && from > until
    {
        out.push(fault("when.until", "The last day is before the first one."));
    }
    if placement.when.only_in_hours && placement.when.hours_of.is_none() {
        out.push(fault("when.hours_of", "Say whose hours count, or let it show at any time."));
    }
    if placement.who.share.is_some_and(|share| share > 100) {
        out.push(fault("who.share", "A share is between 0 and 100 percent."));
    }
    for (at, opens) in [("opens", placement.opens), ("opens_on_phones", placement.opens_on_phones)] {
        match opens.when {
            Moment::AfterSeconds(seconds) if seconds > 600 => {
                out.push(fault(at, "Ten minutes are the longest wait; most pages are left long before."));
            }
            Moment::AtPercent(percent) if percent > 100 => {
                out.push(fault(at, "A page ends at 100 percent."));
            }
            _ => {}
        }
    }
    for country in &placement.who.countries {
        let code = country.trim();
        if code.len() != 2 || !code.bytes().all(|byte| byte.is_ascii_alphabetic()) {
            out.push(fault(
                "who.countries",
                format!("“{code}” is not a country’s code. Type two letters, such as DE."),
            ));
        }
    }
    out
}

fn sizes(placement: &Placement, out: &mut Vec<Fault>) {
    let Where { sites, include, exclude, parameters, exclude_parameters, campaigns, exclude_campaigns } =
        &placement.places;
    let lists: [(&'static str, &[String]); 8] = [
        ("where.sites", sites),
        ("where.include", include),
        ("where.exclude", exclude),
        ("where.campaigns", campaigns),
        ("where.exclude_campaigns", exclude_campaigns),
        ("who.languages", &placement.who.languages),
        ("who.countries", &placement.who.countries),
        ("manners.carries", &placement.manners.carries),
    ];
    for (at, list) in lists {
        if list.len() > MOST {
            out.push(fault(at, format!("At most {MOST} can be named here.")));
        }
        if list.iter().any(|one| one.trim().is_empty()) {
            out.push(fault(at, "One of these is empty. Take it out or fill it in."));
        }
        if list.iter().any(|one| one.chars().count() > LONG) {
            out.push(fault(at, format!("One of these has more than {LONG} characters.")));
        }
    }
    for (at, list) in [("where.parameters", parameters), ("where.exclude_parameters", exclude_parameters)] {
        if list.len() > MOST {
            out.push(fault(at, format!("At most {MOST} can be named here.")));
        }
        if list.iter().any(|one| one.name.trim().is_empty() || one.name.chars().count() > LONG) {
            out.push(fault(at, format!("A query parameter needs a name of 1 to {LONG} characters.")));
        }
    }
    let look = &placement.look;
    let texts = look.line.values().chain(look.away.values()).chain([&look.name, &look.title, &look.description]);
    if texts.into_iter().any(|text| text.chars().count() > TEXT) {
        out.push(fault("look", format!("A text that visitors read has at most {TEXT} characters.")));
    }
    if placement.name.trim().is_empty() || placement.name.chars().count() > 80 {
        out.push(fault("name", "Give it a name of 1 to 80 characters."));
    }
}

fn places(placement: &Placement, out: &mut Vec<Fault>) {
    let places = &placement.places;
    let on_pages = matches!(placement.form, Form::Corner | Form::Inline | Form::PopUp);
    if on_pages && places.sites.is_empty() {
        out.push(fault("where.sites", "Name the site that may show it, such as winterlode.example."));
    }
    for site in &places.sites {
        if site_source(site).is_none() {
            let says = format!("“{site}” is not a site. Type its host alone, such as winterlode.example.");
            out.push(fault("where.sites", says));
        }
    }
    for (at, list) in [("where.include", &places.include), ("where.exclude", &places.exclude)] {
        for pattern in list.iter().filter(|pattern| pattern.contains('?') || pattern.contains('#')) {
            let says = format!("“{pattern}” has a question mark or a hash sign. Name query parameters apart.");
            out.push(fault(at, says));
        }
    }
    if placement.form == Form::Inline {
        let name = placement.slot.as_deref().unwrap_or_default();
        let good = !name.is_empty()
            && name.len() <= 40
            && name.bytes().all(|byte| byte.is_ascii_alphanumeric() || matches!(byte, b'-' | b'_'));
        if !good {
            let says = "Name the place in the page: letters, digits and dashes, such as prices.";
            out.push(fault("slot", says));
        }
    }
}
