//! What is known without asking: where the prospect came from, with which device, in which country, at what time of
//! day.
//!
//! The page and the server say what they see ([`Context`]). What follows from it is computed here: the country where
//! nobody named one, and the prospect's local time. What the prospect says goes before any of it.

use std::borrow::Cow;
use std::collections::{BTreeMap, HashMap};
use std::sync::OnceLock;

use jiff::civil::DateTime;
use jiff::tz::TimeZone;
use jiff::{Timestamp, civil};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use lumbo_reading::is_country;

/// What the page and the server saw at the beginning.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Context {
    /// Address of the page, without its query.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub page: Option<String>,
    /// Where the prospect came from.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub referrer: Option<String>,
    /// Campaign parameter: the campaign's name.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub campaign: Option<String>,
    /// Campaign parameter: who sent the prospect.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub campaign_source: Option<String>,
    /// Campaign parameter: by what means, such as `email`.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub campaign_medium: Option<String>,
    /// Campaign parameter: the words searched for.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub campaign_term: Option<String>,
    /// Campaign parameter: which of several links or texts.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub campaign_content: Option<String>,
    /// The first page of theirs on the site, as far as consent let one keep it.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub first_page: Option<String>,
    /// Where they came to it from.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub first_referrer: Option<String>,
    /// Query parameters that the placement carries along, such as an advertisement's click id.
    #[serde(skip_serializing_if = "BTreeMap::is_empty")]
    pub carried: BTreeMap<String, String>,
    /// Language of the browser.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub language: Option<String>,
    /// `phone`, `tablet` or `computer`.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub device: Option<String>,
    /// ISO 3166-1 alpha-2: from a trusted header, else a hint from the time zone and the language.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub country: Option<String>,
    /// IANA time zone.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub time_zone: Option<String>,
    /// `yes` where the same browser was here before.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub returning: Option<String>,
}

/// Names beside fields that a condition or a text may read, with the at sign. Their values are texts; `@local_time` is
/// a time of day such as `09:30`, `@weekday` one of [`WEEKDAYS`].
pub const CONTEXT_NAMES: [&str; 14] = [
    "@page",
    "@referrer",
    "@campaign",
    "@campaign_source",
    "@campaign_medium",
    "@campaign_term",
    "@campaign_content",
    "@language",
    "@device",
    "@country",
    "@time_zone",
    "@returning",
    "@local_time",
    "@weekday",
];

/// Most query parameters that are carried along.
const CARRIED: usize = 20;

/// Values of `@weekday`.
pub const WEEKDAYS: [&str; 7] = ["monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday"];

impl Context {
    /// Cuts every part to a length that is safe to keep, drops control characters and what is no country, and fills in
    /// the country where nobody named one.
    #[must_use]
    pub fn settled(self) -> Self {
        let cut = |part: Option<String>, limit: usize| {
            part.map(|text| text.chars().filter(|c| !c.is_control()).take(limit).collect::<String>())
                .filter(|text| !text.is_empty())
        };
        let (language, time_zone) = (cut(self.language, 20), cut(self.time_zone, 60));
        let named = self.country.map(|code| code.to_ascii_uppercase()).filter(|code| is_country(code));
        Self {
            page: cut(self.page, 500),
            referrer: cut(self.referrer, 500),
            first_page: cut(self.first_page, 500),
            first_referrer: cut(self.first_referrer, 500),
            carried: self
                .carried
                .into_iter()
                .take(CARRIED)
                .filter_map(|(name, value)| Some((cut(Some(name), 60)?, cut(Some(value), 500)?)))
                .collect(),
            campaign: cut(self.campaign, 200),
            campaign_source: cut(self.campaign_source, 200),
            campaign_medium: cut(self.campaign_medium, 200),
            campaign_term: cut(self.campaign_term, 200),
            campaign_content: cut(self.campaign_content, 200),
            device: cut(self.device, 20),
            country: named.or_else(|| country_hint(language.as_deref(), time_zone.as_deref())),
            language,
            time_zone,
            returning: cut(self.returning, 3),
        }
    }

    fn part(&self, name: &str) -> Option<&str> {
        match name {
            "page" => self.page.as_deref(),
            "referrer" => self.referrer.as_deref(),
            "campaign" => self.campaign.as_deref(),
            "campaign_source" => self.campaign_source.as_deref(),
            "campaign_medium" => self.campaign_medium.as_deref(),
            "campaign_term" => self.campaign_term.as_deref(),
            "campaign_content" => self.campaign_content.as_deref(),
            "language" => self.language.as_deref(),
            "device" => self.device.as_deref(),
            "country" => self.country.as_deref(),
            "time_zone" => self.time_zone.as_deref(),
            "returning" => self.returning.as_deref(),
            _ => None,
        }
    }

    /// The prospect's local time; in `fallback` where their zone is not known.
    #[must_use]
    pub fn local(&self, now: Timestamp, fallback: &TimeZone) -> DateTime {
        let zone = self.time_zone.as_deref().and_then(|name| TimeZone::get(name).ok());
        now.to_zoned(zone.unwrap_or_else(|| fallback.clone())).datetime()
    }
}

/// What is known without asking at one moment of a conversation.
#[derive(Debug, Clone, Copy)]
pub struct Circumstances<'a> {
    /// What was seen at the beginning.
    pub context: &'a Context,
    /// The country that the prospect said they are in; goes before a hint.
    pub said_country: Option<&'a str>,
    /// Now, and the dialogue's zone, where there is a conversation; the prospect's local time is told from them.
    pub clock: Option<(Timestamp, &'a TimeZone)>,
}

impl<'a> Circumstances<'a> {
    /// Only what was seen at the beginning.
    #[must_use]
    pub fn of(context: &'a Context) -> Self {
        Self { context, said_country: None, clock: None }
    }

    /// A part by its name in conditions, without the at sign.
    #[must_use]
    pub fn get(&self, name: &str) -> Option<Cow<'a, str>> {
        match name {
            "country" => self.country().map(Cow::Borrowed),
            "local_time" => self.local().map(|local| Cow::Owned(time_text(local.time()))),
            "weekday" => self.local().map(|local| Cow::Borrowed(WEEKDAYS[weekday_index(local)])),
            name => self.context.part(name).map(Cow::Borrowed),
        }
    }

    /// The prospect’s local time.
    #[must_use]
    pub fn local(&self) -> Option<DateTime> {
        self.clock.map(|(now, zone)| self.context.local(now, zone))
    }

    /// The country: as said, else as known or guessed.
    #[must_use]
    pub fn country(&self) -> Option<&'a str> {
        self.said_country.or(self.context.country.as_deref())
    }
}

/// The place of a day's name in [`WEEKDAYS`].
pub fn weekday_index(local: DateTime) -> usize {
    usize::try_from(local.date().weekday().to_monday_zero_offset()).unwrap_or(0)
}

/// A time of day as it is compared: `09:30`.
pub fn time_text(time: civil::Time) -> String {
    format!("{:02}:{:02}", time.hour(), time.minute())
}

/// Reads a time of day such as `9:30`, `09:30` or `17`; gives it as it is compared.
pub fn time_of_day(written: &str) -> Option<String> {
    let (hour, minute) = written.trim().split_once([':', '.']).unwrap_or((written.trim(), "0"));
    let part =
        |text: &str, longest: usize| (1..=longest).contains(&text.len()).then(|| text.parse::<i8>().ok()).flatten();
    civil::Time::new(part(hour, 2)?, part(minute, 2)?, 0, 0).ok().map(time_text)
}

/// A guess at the country: that of the time zone, else the region of the language tag. A browser's language is often
/// that of its maker's country, its time zone is that of the place.
#[must_use]
pub fn country_hint(language: Option<&str>, time_zone: Option<&str>) -> Option<String> {
    let by_zone = time_zone.and_then(|zone| zones().get(zone).copied());
    let by_language = || {
        language
            .and_then(|tag| tag.split(['-', '_']).skip(1).find(|part| part.len() == 2).map(str::to_ascii_uppercase))
            .filter(|code| is_country(code))
    };
    by_zone.map(str::to_owned).or_else(by_language)
}

/// The zone of a country in which clocks show the same everywhere, in winter and in summer; nothing for the others.
///
/// ```
/// use lumbo_condition::circumstances::only_zone;
/// assert_eq!(only_zone("GB"), Some("Europe/London"));
/// assert_eq!((only_zone("US"), only_zone("??")), (None, None));
/// ```
#[must_use]
pub fn only_zone(country: &str) -> Option<&'static str> {
    static ONLY: OnceLock<HashMap<&'static str, &'static str>> = OnceLock::new();
    let only = ONLY.get_or_init(|| {
        let mut of: HashMap<&str, Vec<&str>> = HashMap::new();
        zones().iter().for_each(|(zone, country)| of.entry(country).or_default().push(zone));
        of.into_iter()
            .filter_map(|(country, mut names)| {
                // Of several names of one clock the shortest that names a place: the same at every start.
                names.sort_by_key(|name| (!name.contains('/'), name.len(), *name));
                let clocks: Vec<_> =
                    names.iter().filter_map(|name| Some(offsets(&TimeZone::get(name).ok()?))).collect();
                let same = clocks.windows(2).all(|pair| pair[0] == pair[1]);
                names.first().filter(|_| same && !clocks.is_empty()).map(|name| (country, *name))
            })
            .collect()
    });
    only.get(country).copied()
}

/// What clocks of a zone show against UTC in the winter and the summer of 2026.
fn offsets(zone: &TimeZone) -> [i32; 2] {
    [1_768_478_400, 1_784_116_800]
        .map(|second| Timestamp::from_second(second).map_or(0, |at| zone.to_offset(at).seconds()))
}

fn zones() -> &'static HashMap<&'static str, &'static str> {
    static ZONES: OnceLock<HashMap<&'static str, &'static str>> = OnceLock::new();
    ZONES.get_or_init(|| {
        // A list that does not load would be empty; a test reads it.
        let listed: HashMap<&str, Vec<&str>> =
            serde_json::from_str(include_str!("../data/zones.json")).unwrap_or_default();
        listed.into_iter().flat_map(|(country, zones)| zones.into_iter().map(move |zone| (zone, country))).collect()
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    fn hint(language: &str, zone: &str) -> Option<String> {
        let part = |text: &str| (!text.is_empty()).then(|| text.to_owned());
        Context { language: part(language), time_zone: part(zone), ..Context::default() }.settled().country
    }

    /// The countries are those of the IANA tz database's `zone.tab`.
    #[test]
    fn the_zone_tells_the_country_before_the_language_does() {
        for (language, zone, country) in [
            ("en-US", "Europe/Berlin", Some("DE")),
            ("en-GB", "", Some("GB")),
            ("zh-Hant-TW", "", Some("TW")),
            ("de", "Asia/Calcutta", Some("IN")),
            ("pl", "Europe/Kiev", Some("UA")),
            ("de", "Etc/UTC", None),
            ("en-AA", "Nowhere/Else", None),
            ("", "", None),
        ] {
            assert_eq!(hint(language, zone).as_deref(), country, "{language} {zone}");
        }
    }

    /// Countries of one clock and of several, as the IANA tz database has them.
    #[test]
    fn a_country_of_one_clock_has_a_zone() {
        for (country, zone) in [
            ("DE", Some("Europe/Berlin")),
            ("GB", Some("Europe/London")),
            ("JP", Some("Asia/Tokyo")),
            ("IN", Some("Asia/Kolkata")),
            ("US", None),
            ("AU", None),
            ("CA", None),
            ("BR", None),
        ] {
            let found = only_zone(country);
            assert_eq!(found.is_some(), zone.is_some(), "{country}: {found:?}");
            if let (Some(found), Some(zone)) = (found, zone) {
                assert_eq!(
                    offsets(&TimeZone::get(found).unwrap()),
                    offsets(&TimeZone::get(zone).unwrap()),
                    "{country}: {found}"
                );
            }
        }
    }

    #[test]
    fn every_listed_zone_is_one_that_this_build_knows_and_every_country_is_listed() {
        assert!(zones().len() > 500);
        for (zone, country) in zones() {
            assert!(TimeZone::get(zone).is_ok(), "{zone}");
            assert!(is_country(country), "{country}");
        }
    }

    #[test]
    fn a_named_country_stays_and_nonsense_is_dropped() {
        let named =
            Context { country: Some("ie".into()), time_zone: Some("Europe/London".into()), ..Context::default() }
                .settled();
        assert_eq!(named.country.as_deref(), Some("IE"));
        let nonsense =
            Context { country: Some("<b>".into()), page: Some("/\u{7}a".into()), ..Context::default() }.settled();
        assert_eq!((nonsense.country, nonsense.page.as_deref()), (None, Some("/a")));
    }

    #[test]
    fn local_time_is_that_of_the_prospects_zone() {
        let now: Timestamp = "2026-11-23T23:30:00Z".parse().unwrap();
        let london = TimeZone::get("Europe/London").unwrap();
        for (zone, time, weekday) in [
            (Some("Asia/Tokyo"), "08:30", "tuesday"),
            (None, "23:30", "monday"),
            (Some("Mars/Olympus"), "23:30", "monday"),
        ] {
            let context = Context { time_zone: zone.map(str::to_owned), ..Context::default() };
            let around = Circumstances { clock: Some((now, &london)), ..Circumstances::of(&context) };
            assert_eq!(
                (around.get("local_time").as_deref(), around.get("weekday").as_deref()),
                (Some(time), Some(weekday)),
                "{zone:?}"
            );
        }
    }

    #[test]
    fn a_time_of_day_is_read_in_its_short_forms() {
        for (written, read) in [
            ("9:30", Some("09:30")),
            ("09.30", Some("09:30")),
            ("17", Some("17:00")),
            ("24:00", None),
            ("9:5:1", None),
            ("noon", None),
            ("-1", None),
        ] {
            assert_eq!(time_of_day(written).as_deref(), read, "{written}");
        }
    }
}
