//! What shows on a page visit, and why.

use std::collections::BTreeMap;

use jiff::Timestamp;
use jiff::civil::Date;
use jiff::tz::TimeZone;
use lumbo_calendar::Calendar;
use sha2::{Digest, Sha256};

use crate::file::{Form, Moment, Opens, Parameter, Placement, Shows, SignedIn, Visitors, When, Where, Who};
use crate::language;
use crate::pattern::{fits_host, fits_path, fits_value};
use crate::visit::{Device, Visit};

/// What rules look up beside the visit.
#[derive(Debug, Clone)]
pub struct Known {
    /// The workspace's zone, in which dates begin and end.
    pub zone: TimeZone,
    /// Working time by the key that `hours_of` names.
    pub calendars: BTreeMap<String, Calendar>,
}

/// A place on a page that holds one placement at most.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord)]
pub enum Slot {
    /// The corner, or a window over the page.
    Floating,
    /// `<div data-lumbo="NAME">`.
    Inline(String),
}

impl std::fmt::Display for Slot {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        match self {
            Self::Floating => f.write_str("floating"),
            Self::Inline(name) => write!(f, "inline:{name}"),
        }
    }
}

impl Slot {
    /// The slot a placement is for; nothing for those with an address of their own.
    #[must_use]
    pub fn of(placement: &Placement) -> Option<Self> {
        match placement.form {
            Form::Corner | Form::PopUp => Some(Self::Floating),
            Form::Inline => Some(Self::Inline(placement.slot.clone().unwrap_or_default())),
            Form::Page | Form::Link => None,
        }
    }
}

/// Why a placement fits or does not.
#[derive(Debug, Clone, PartialEq)]
pub enum Reason {
    /// It is off air.
    OffAir,
    /// The page's site is none of its own.
    OtherSite(String),
    /// The page is excluded.
    Excluded(String),
    /// The page is none of those included.
    NotIncluded(String),
    /// The page is included by a pattern.
    Included(String),
    /// It shows on every page.
    EveryPage,
    /// A query parameter is there, or there with this value.
    Parameter(Parameter),
    /// A query parameter is missing, or has another value.
    NoParameter(Parameter),
    /// A query parameter keeps it away.
    ExcludedParameter(Parameter),
    /// The campaign is one of its own.
    Campaign(String),
    /// The campaign is none of its own; nothing where there is none.
    OtherCampaign(Option<String>),
    /// The campaign keeps it away.
    ExcludedCampaign(String),
    /// Its first day is still to come.
    TooEarly(Date),
    /// Its last day is past.
    TooLate(Date),
    /// Within its hours.
    Open,
    /// Outside its hours; the moment it opens again.
    Closed(Option<jiff::Zoned>),
    /// Outside its hours, and it shows with the away words.
    Away,
    /// Hours that nobody knows.
    NoHours(String),
    /// A new visitor, where that is asked for.
    New,
    /// A returning visitor, where that is asked for.
    Returning,
    /// Not a new visitor.
    NotNew,
    /// Not a returning visitor, or not known to be.
    NotReturning,
    /// Signed in, where that is asked for.
    SignedIn,
    /// Not signed in, where that is asked for.
    NotSignedIn,
    /// Signed in, and that keeps it away.
    IsSignedIn,
    /// Not signed in, and that keeps it away.
    IsNotSignedIn,
    /// The device, where that is asked for.
    Device(Device),
    /// Another device; nothing where it is not known.
    OtherDevice(Option<Device>),
    /// The language, where that is asked for.
    Language(String),
    /// Another language; nothing where it is not known.
    OtherLanguage(Option<String>),
    /// The country, where that is asked for.
    Country(String),
    /// Another country; nothing where it is not known.
    OtherCountry(Option<String>),
    /// Nothing filed, or not known, where that is asked for.
    NotFiled,
    /// Filed so many days ago, and within so many days it does not show.
    Filed(u32, u16),
    /// Filed so many days ago, which is long enough.
    FiledLongAgo(u32),
    /// Within the share of visitors who get it, in percent.
    InShare(u8),
    /// Outside the share.
    OutOfShare(u8),
    /// A share of visitors, and this one is not known.
    ShareOfUnknown(u8),
    /// On a phone it waits to be tapped.
    OnPhoneButton,
}

/// A placement held against a visit.
#[derive(Debug, Clone)]
pub struct Judged<'a> {
    /// The placement.
    pub placement: &'a Placement,
    /// True where every rule lets it in.
    pub fits: bool,
    /// The rules that let it in, or the one that keeps it out.
    pub why: Vec<Reason>,
    /// True outside its hours.
    pub away: bool,
}

/// What shows in a slot.
#[derive(Debug, Clone, Default)]
pub struct Chosen<'a> {
    /// The placement; nothing where none fits.
    pub placement: Option<&'a Placement>,
    /// When it opens on this device, and as what.
    pub opens: Opens,
    /// True outside its hours.
    pub away: bool,
    /// Every placement of the slot, in the workspace's order.
    pub reasons: Vec<Judged<'a>>,
}

/// Which placement shows in each slot of a page visit: the first of those that fit. Placements come in the workspace's
/// order.
#[must_use]
pub fn choose<'a>(placements: &'a [Placement], visit: &Visit, known: &Known) -> BTreeMap<Slot, Chosen<'a>> {
    let mut slots = BTreeMap::from([(Slot::Floating, Chosen::default())]);
    for placement in placements {
        let Some(slot) = Slot::of(placement) else { continue };
        let judged = judge(placement, visit, known);
        let chosen: &mut Chosen<'_> = slots.entry(slot).or_default();
        if judged.fits && chosen.placement.is_none() {
            chosen.placement = Some(placement);
            chosen.opens = opens(placement, visit.device);
            chosen.away = judged.away;
        }
        chosen.reasons.push(judged);
    }
    slots
}

/// When a placement opens on a device, and as what. A phone's page is never covered unasked; a phone has no pointer
/// that could leave the page, nor has a tablet.
fn opens(placement: &Placement, device: Option<Device>) -> Opens {
    let phone = device == Some(Device::Phone);
    let mut opens = if phone { placement.opens_on_phones } else { placement.opens };
    if phone && opens.shows == Shows::Open && opens.when != Moment::AtClick {
        opens.shows = Shows::Line;
    }
    if opens.when == Moment::Leaving && matches!(device, Some(Device::Phone | Device::Tablet)) {
        opens = Opens { when: Moment::AtOnce, shows: Shows::Button };
    }
    opens
}

/// Holds one placement against a visit.
#[must_use]
pub fn judge<'a>(placement: &'a Placement, visit: &Visit, known: &Known) -> Judged<'a> {
    let mut why = Vec::new();
    match rules(placement, visit, known, &mut why) {
        Ok(away) => {
            let as_button = opens(placement, visit.device).shows == Shows::Button;
            if visit.device == Some(Device::Phone) && as_button && placement.opens.shows != Shows::Button {
                why.push(Reason::OnPhoneButton);
            }
            Judged { placement, fits: true, why, away }
        }
        Err(reason) => Judged { placement, fits: false, why: vec![reason], away: false },
    }
}

/// True where every rule lets it in and it is outside the placement's hours.
fn rules(placement: &Placement, visit: &Visit, known: &Known, why: &mut Vec<Reason>) -> Result<bool, Reason> {
    if !placement.on_air {
        return Err(Reason::OffAir);
    }
    place(&placement.places, visit, why)?;
    let away = time(&placement.when, visit.at, known, why)?;
    audience(placement, visit, why)?;
    Ok(away)
}

/// Whether a placement may show at a moment, whatever the page: true where it does so with the away words.
///
/// # Errors
/// The rule that keeps it out.
pub fn shows_at(placement: &Placement, at: Timestamp, known: &Known) -> Result<bool, Reason> {
    time(&placement.when, at, known, &mut Vec::new())
}

fn holds(parameter: &Parameter, visit: &Visit) -> bool {
    let is = |value: &str| parameter.is.as_deref().is_none_or(|pattern| fits_value(pattern, value));
    visit.address.query.iter().any(|(name, value)| *name == parameter.name && is(value))
}

fn place(places: &Where, visit: &Visit, why: &mut Vec<Reason>) -> Result<(), Reason> {
    let address = &visit.address;
    if !places.sites.is_empty() && !places.sites.iter().any(|site| fits_host(site, address)) {
        return Err(Reason::OtherSite(address.authority()));
    }
    if let Some(pattern) = places.exclude.iter().find(|pattern| fits_path(pattern, address)) {
        return Err(Reason::Excluded(pattern.clone()));
    }
    if let Some(parameter) = places.exclude_parameters.iter().find(|parameter| holds(parameter, visit)) {
        return Err(Reason::ExcludedParameter(parameter.clone()));
    }
    let campaign = address.parameter("utm_campaign");
    if let Some(campaign) = campaign
        && places.exclude_campaigns.iter().any(|pattern| fits_value(pattern, campaign))
    {
        return Err(Reason::ExcludedCampaign(campaign.to_owned()));
    }
    if places.include.is_empty() {
        why.push(Reason::EveryPage);
    } else {
        let pattern = places.include.iter().find(|pattern| fits_path(pattern, address));
        let pattern = pattern.ok_or_else(|| Reason::NotIncluded(address.path()))?;
        why.push(Reason::Included(pattern.clone()));
    }
    for parameter in &places.parameters {
        if !holds(parameter, visit) {
            return Err(Reason::NoParameter(parameter.clone()));
        }
        why.push(Reason::Parameter(parameter.clone()));
    }
    if !places.campaigns.is_empty() {
        let found = campaign.filter(|campaign| places.campaigns.iter().any(|pattern| fits_value(pattern, campaign)));
        let found = found.ok_or_else(|| Reason::OtherCampaign(campaign.map(str::to_owned)))?;
        why.push(Reason::Campaign(found.to_owned()));
    }
    Ok(())
}

/// True where it is outside the placement's hours and shows all the same.
fn time(when: &When, at: Timestamp, known: &Known, why: &mut Vec<Reason>) -> Result<bool, Reason> {
    let today = known.zone.to_datetime(at).date();
    if let Some(from) = when.from.filter(|from| today < *from) {
        return Err(Reason::TooEarly(from));
    }
    if let Some(until) = when.until.filter(|until| today > *until) {
        return Err(Reason::TooLate(until));
    }
    let Some(key) = &when.hours_of else { return Ok(false) };
    let Some(calendar) = known.calendars.get(key) else {
        return if when.only_in_hours { Err(Reason::NoHours(key.clone())) } else { Ok(false) };
    };
    if calendar.is_open(at) {
        why.push(Reason::Open);
        return Ok(false);
    }
    if when.only_in_hours {
        return Err(Reason::Closed(calendar.opens(at).map(|at| at.to_zoned(calendar.zone().clone()))));
    }
    why.push(Reason::Away);
    Ok(true)
}

fn audience(placement: &Placement, visit: &Visit, why: &mut Vec<Reason>) -> Result<(), Reason> {
    let who: &Who = &placement.who;
    match (who.visitors, visit.returning) {
        (Visitors::Everyone, _) => {}
        (Visitors::New, false) => why.push(Reason::New),
        (Visitors::Returning, true) => why.push(Reason::Returning),
        (Visitors::New, true) => return Err(Reason::NotNew),
        (Visitors::Returning, false) => return Err(Reason::NotReturning),
    }
    match (who.signed_in, visit.signed_in) {
        (SignedIn::Either, _) => {}
        (SignedIn::Yes, true) => why.push(Reason::SignedIn),
        (SignedIn::No, false) => why.push(Reason::NotSignedIn),
        (SignedIn::Yes, false) => return Err(Reason::IsNotSignedIn),
        (SignedIn::No, true) => return Err(Reason::IsSignedIn),
    }
    if !who.devices.is_empty() {
        let found = visit.device.filter(|device| who.devices.contains(device));
        why.push(Reason::Device(found.ok_or(Reason::OtherDevice(visit.device))?));
    }
    if !who.languages.is_empty() {
        let first = visit.language.as_deref().and_then(|list| language::priorities(list).into_iter().next());
        match &first {
            Some(tag) if who.languages.iter().any(|range| language::filters(range, tag)) => {
                why.push(Reason::Language(tag.clone()));
            }
            _ => return Err(Reason::OtherLanguage(first)),
        }
    }
    if !who.countries.is_empty() {
        match &visit.country {
            Some(country) if who.countries.iter().any(|known| known.trim().eq_ignore_ascii_case(country.trim())) => {
                why.push(Reason::Country(country.trim().to_uppercase()));
            }
            other => return Err(Reason::OtherCountry(other.clone())),
        }
    }
    if let Some(days) = who.not_filed_days {
        match visit.filed_days_ago {
            None => why.push(Reason::NotFiled),
            Some(ago) if ago < u32::from(days) => return Err(Reason::Filed(ago, days)),
            Some(ago) => why.push(Reason::FiledLongAgo(ago)),
        }
    }
    if let Some(share) = who.share.filter(|share| *share < 100) {
        let Some(visitor) = &visit.visitor else { return Err(Reason::ShareOfUnknown(share)) };
        if drawn(&placement.id, visitor) >= f64::from(share) {
            return Err(Reason::OutOfShare(share));
        }
        why.push(Reason::InShare(share));
    }
    Ok(())
}

/// Where a visitor falls among 100 of a placement's, always at the same: the first eight bytes of SHA-256.
fn drawn(placement: &str, visitor: &str) -> f64 {
    let hash = Sha256::new().chain_update(placement).chain_update([0]).chain_update(visitor).finalize();
    let whole = hash.iter().take(8).fold(0_u64, |sum, byte| sum << 8 | u64::from(*byte));
    whole as f64 / (u64::MAX as f64) * 100.0
}
